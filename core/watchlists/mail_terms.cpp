#include "core/watchlists/mail_terms.h"

#include "core/base/toml_table.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::watchlists {

namespace {

constexpr std::array<std::string_view, 7> weekdayNames{
    "monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday"};

} // namespace

bool isWanted(const MailTerms& terms, Day day)
{
    return !terms.to.empty() && (terms.hasBrief || terms.hasAlerts) &&
           terms.evenings.at(day.weekday().iso_encoding() - 1);
}

std::string toToml(const MailTerms& terms)
{
    std::vector<std::string> evenings;
    for (std::size_t day = 0; day < weekdayNames.size(); ++day)
        if (terms.evenings[day])
            evenings.emplace_back(weekdayNames[day]);
    return fmt::format("to = {}\nevenings = {}\nbrief = {}\nalerts = {}\ncolumns = {}\n",
                       quotedToml(terms.to), quotedToml(evenings), terms.hasBrief, terms.hasAlerts,
                       quotedToml(terms.columns));
}

Result<MailTerms> mailTermsFromToml(std::string_view toml)
{
    return readToml(toml, "write to = \"name@example.org\"", [](const toml::table& file) {
        refuseOthers(file, "mail terms", {"to", "evenings", "brief", "alerts", "columns"});
        MailTerms terms{valueOr<std::string>(file, "to", {}),
                        {},
                        valueOr<bool>(file, "brief", true),
                        valueOr<bool>(file, "alerts", true),
                        valueOr<std::string>(file, "columns", {})};
        if (std::ranges::any_of(terms.to, [](unsigned char c) { return c < 0x20 || c == 0x7f; }))
            failAt(file.get("to")->source(), "an address has no line breaks",
                   "write to = \"name@example.org\"");
        for (const std::string& name : textsOf(file, "evenings")) {
            const auto day = std::ranges::find(weekdayNames, name);
            if (day == weekdayNames.end())
                failAt(file.get("evenings")->source(), fmt::format("'{}' is no weekday", name),
                       fmt::format("one of {}", fmt::join(weekdayNames, ", ")));
            terms.evenings.at(static_cast<std::size_t>(day - weekdayNames.begin())) = true;
        }
        return terms;
    });
}

} // namespace sieve::watchlists
