#include "core/watchlists/alert.h"

#include "core/base/toml_table.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <tuple>

namespace sieve::watchlists {

namespace {

using What = Alert::What;
using Repeat = Alert::Repeat;

constexpr std::array<std::string_view, 7> whatNames{"level",  "rule",   "state", "change",
                                                    "report", "review", "market"};
constexpr std::array<std::string_view, 3> repeatNames{"once", "each crossing", "once a day"};

/// The one of these names that stands under a key.
template <class Named, std::size_t Count>
Named namedUnder(const toml::table& table, std::string_view key,
                 const std::array<std::string_view, Count>& names)
{
    const auto name = valueOr<std::string>(table, key, std::string(names[0]));
    for (std::size_t i = 0; i < Count; ++i)
        if (names[i] == name)
            return static_cast<Named>(i);
    failAt(table.get(key)->source(), fmt::format("'{}' is no name of that kind", name),
           fmt::format("one of {}", fmt::join(names, ", ")));
}

/// Large ones are refused with the alert: they do not wrap round.
int countUnder(const toml::table& table, std::string_view key)
{
    constexpr std::int64_t large = 1'000'000;
    return static_cast<int>(std::clamp(valueOr<std::int64_t>(table, key, 0), -large, large));
}

void addText(std::string& toml, std::string_view key, const std::string& text)
{
    if (!text.empty())
        toml += fmt::format("{} = {}\n", key, quotedToml(text));
}

Alert readAlert(const toml::table& file)
{
    refuseOthers(file, "an alert",
                 {"what", "symbol", "list", "since", "level", "rule", "days", "repeat", "hold_off",
                  "words", "is_on", "quiet_to"});
    Alert alert;
    alert.what = namedUnder<What>(file, "what", whatNames);
    alert.about = {valueOr<std::string>(file, "symbol", {}),
                   valueOr<std::int64_t>(file, "list", 0)};
    alert.since = dayUnder(file, "since");
    alert.level = numberOr(file, "level", missing);
    alert.rule = valueOr<std::string>(file, "rule", {});
    alert.days = countUnder(file, "days");
    alert.repeat = namedUnder<Repeat>(file, "repeat", repeatNames);
    alert.holdOff = countUnder(file, "hold_off");
    alert.words = valueOr<std::string>(file, "words", {});
    alert.isOn = valueOr<bool>(file, "is_on", true);
    if (file.contains("quiet_to"))
        alert.quietTo = dayUnder(file, "quiet_to");
    if (const std::string fault = faultOf(alert); !fault.empty())
        failAt(file.source(), fault.substr(0, fault.size() - 1), "write it anew in Alerts");
    return alert;
}

} // namespace

bool operator==(const Alert& a, const Alert& b)
{
    const auto rest = [](const Alert& each) {
        return std::tie(each.id, each.what, each.about, each.since, each.rule, each.days,
                        each.repeat, each.holdOff, each.words, each.isOn, each.quietTo);
    };
    return rest(a) == rest(b) && isSameFigure(a.level, b.level);
}

bool operator==(const Raised& a, const Raised& b)
{
    return std::tie(a.id, a.alert, a.on, a.symbol, a.words, a.isLate, a.isSeen) ==
               std::tie(b.id, b.alert, b.on, b.symbol, b.words, b.isLate, b.isSeen) &&
           isSameFigure(a.value, b.value);
}

std::string_view whatName(What what)
{
    return whatNames.at(static_cast<std::size_t>(what));
}

std::string_view repeatName(Repeat repeat)
{
    return repeatNames.at(static_cast<std::size_t>(repeat));
}

std::string faultOf(const Alert& alert)
{
    if (alert.what == What::Level && alert.about.symbol.empty())
        return "A level is one stock's.";
    if (alert.what == What::Level && !(alert.level > 0.0 && std::isfinite(alert.level)))
        return "A level is a price above zero.";
    if (alert.what == What::Rule && alert.rule.empty())
        return "A rule needs a condition.";
    if (alert.what == What::Change && alert.about.list == 0)
        return "Somebody comes to a list: say which.";
    if (alert.holdOff < 0 || alert.holdOff > 1000)
        return "An alert is held off for 0 to 1000 sessions.";
    if (alert.days < 0 || alert.days > 250)
        return "A report is told 0 to 250 weekdays ahead.";
    return {};
}

Alert withRenamed(Alert alert, const language::Renaming& renaming)
{
    if (alert.what == What::Rule)
        alert.rule = renaming.in(alert.rule);
    return alert;
}

std::string toToml(const Alert& alert)
{
    std::string toml =
        fmt::format("what = \"{}\"\nsince = \"{}\"\nrepeat = \"{}\"\n", whatName(alert.what),
                    alert.since.iso(), repeatName(alert.repeat));
    addText(toml, "symbol", alert.about.symbol);
    if (alert.about.list != 0)
        toml += fmt::format("list = {}\n", alert.about.list);
    if (!isMissing(alert.level))
        toml += fmt::format("level = {}\n", alert.level);
    addText(toml, "rule", alert.rule);
    if (alert.days != 0)
        toml += fmt::format("days = {}\n", alert.days);
    if (alert.holdOff != 0)
        toml += fmt::format("hold_off = {}\n", alert.holdOff);
    addText(toml, "words", alert.words);
    if (!alert.isOn)
        toml += "is_on = false\n";
    if (alert.quietTo)
        toml += fmt::format("quiet_to = \"{}\"\n", alert.quietTo->iso());
    return toml;
}

Result<Alert> alertFromToml(std::string_view toml)
{
    return readToml(toml, "write what = \"rule\"", readAlert);
}

std::string toToml(const Raised& raised)
{
    std::string toml = fmt::format("alert = {}\non = \"{}\"\n", raised.alert, raised.on.iso());
    addText(toml, "symbol", raised.symbol);
    addText(toml, "words", raised.words);
    if (!isMissing(raised.value))
        toml += fmt::format("value = {}\n", raised.value);
    if (raised.isLate)
        toml += "is_late = true\n";
    if (raised.isSeen)
        toml += "is_seen = true\n";
    return toml;
}

Result<Raised> raisedFromToml(std::string_view toml)
{
    return readToml(toml, "write alert = 7", [](const toml::table& file) {
        refuseOthers(file, "what was told",
                     {"alert", "on", "symbol", "words", "value", "is_late", "is_seen"});
        return Raised{0,
                      valueOr<std::int64_t>(file, "alert", 0),
                      dayUnder(file, "on"),
                      valueOr<std::string>(file, "symbol", {}),
                      valueOr<std::string>(file, "words", {}),
                      numberOr(file, "value", missing),
                      valueOr<bool>(file, "is_late", false),
                      valueOr<bool>(file, "is_seen", false)};
    });
}

} // namespace sieve::watchlists
