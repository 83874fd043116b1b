#include "core/watchlists/checklist.h"

#include "core/base/toml_table.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::watchlists {

namespace {

/// The last in time among verdicts that answer to `isMeant`; of one day the one made last.
template <class Meant> const Verdict* lastOf(Verdicts verdicts, Meant isMeant)
{
    const Verdict* last = nullptr;
    for (const auto& each : verdicts)
        if (isMeant(*each) && (!last || each->on >= last->on))
            last = &*each;
    return last;
}

std::string requiredName(const toml::table& table, const char* what)
{
    std::string name = valueOr<std::string>(table, "name", {});
    if (name.empty() || name.find_first_of("\"\n") != std::string::npos)
        failAt(table.source(),
               fmt::format("a {} without a name, or with one that cannot be quoted", what),
               "write name = \"…\", without quotes in it");
    return name;
}

Checklist readChecklist(const toml::table& table)
{
    refuseOthers(table, "a checklist", {"name", "questions"});
    Checklist list{requiredName(table, "checklist")};
    for (const toml::table* each : tablesOf(table, "questions")) {
        refuseOthers(*each, "a question", {"words", "rule"});
        Question question{valueOr<std::string>(*each, "words", {}),
                          valueOr<std::string>(*each, "rule", {})};
        if (question.words.empty() ||
            std::ranges::count(list.questions, question.words, &Question::words) > 0)
            failAt(each->source(), "a question without words, or asked twice",
                   "write words = \"…\", each once");
        list.questions.push_back(std::move(question));
    }
    if (list.questions.size() > mostQuestions)
        failAt(table.source(), fmt::format("more than {} questions", mostQuestions),
               "make two checklists of it");
    return list;
}

Said readSaid(const toml::table& table)
{
    refuseOthers(table, "an answer", {"words", "yes", "own"});
    Said said{valueOr<std::string>(table, "words", {})};
    if (table.contains("yes"))
        said.isYes = valueOr<bool>(table, "yes", false);
    said.isByPerson = valueOr<bool>(table, "own", false);
    return said;
}

} // namespace

std::size_t Verdict::met() const
{
    return static_cast<std::size_t>(std::ranges::count(said, std::optional(true), &Said::isYes));
}

const Verdict* verdictOf(Verdicts verdicts, const market::Market& market, std::size_t stock,
                         std::string_view checklist, Day day)
{
    return lastOf(verdicts, [&](const Verdict& each) {
        return each.on == day && each.checklist == checklist &&
               market.find(each.symbol, each.on) == stock;
    });
}

const Verdict* newestVerdict(Verdicts verdicts, const market::Market& market, std::size_t stock,
                             std::string_view checklist, Day day)
{
    return lastOf(verdicts, [&](const Verdict& each) {
        return each.on <= day && each.checklist == checklist &&
               market.find(each.symbol, each.on) == stock;
    });
}

std::shared_ptr<const engine::PersonsAnswers>
answersTo(Verdicts verdicts, std::string_view checklist, std::string_view words)
{
    auto answers = std::make_shared<engine::PersonsAnswers>();
    for (const auto& verdict : verdicts)
        if (verdict->checklist == checklist)
            for (const Said& said : verdict->said)
                if (said.isByPerson && said.words == words)
                    answers->answers.push_back({verdict->symbol, verdict->on, said.isYes});
    std::ranges::stable_sort(answers->answers, {}, &engine::PersonsAnswers::Answer::on);
    return answers;
}

language::ChecklistMeaning meaningOf(const Checklist& checklist, Verdicts verdicts)
{
    language::ChecklistMeaning meaning;
    for (const Question& question : checklist.questions)
        if (question.rule.empty())
            meaning.answers.push_back(answersTo(verdicts, checklist.name, question.words));
        else
            meaning.rules.push_back(question.rule);
    return meaning;
}

Checklist standardChecklist()
{
    return {
        "Before buying",
        {{"Above a rising average of 200 days", "close > average_200 and average_200_slope > 0"},
         {"Stronger over a half year than most", "strength_126 >= 70"},
         {"Earnings a share grow", "eps_growth > 0"},
         {"Sales grow by a tenth or more", "revenue_growth >= 10%"},
         {"Earns a good return on capital", "return_on_capital >= 12%"},
         {"Debt is no danger", "debt_to_equity <= 1"},
         {"No report within two weeks", "not known(days_to_report) or days_to_report > 14"},
         {"I understand what it earns its money with"},
         {"I know what would prove me wrong"}}};
}

std::string toToml(std::span<const Checklist> checklists)
{
    std::string toml;
    for (const Checklist& list : checklists) {
        toml += fmt::format("[[checklists]]\nname = {}\n", quotedToml(list.name));
        for (const Question& question : list.questions) {
            toml +=
                fmt::format("[[checklists.questions]]\nwords = {}\n", quotedToml(question.words));
            if (!question.rule.empty())
                toml += fmt::format("rule = {}\n", quotedToml(question.rule));
        }
    }
    return toml;
}

Result<std::vector<Checklist>> checklistsFromToml(std::string_view toml)
{
    return readToml(toml, "write [[checklists]]", [](const toml::table& file) {
        refuseOthers(file, "checklists", {"checklists"});
        std::vector<Checklist> lists;
        for (const toml::table* each : tablesOf(file, "checklists")) {
            lists.push_back(readChecklist(*each));
            if (std::ranges::count(lists, lists.back().name, &Checklist::name) > 1)
                failAt(each->source(), "two checklists of one name", "give one another name");
        }
        return lists;
    });
}

std::string toToml(const Verdict& verdict)
{
    std::string toml = fmt::format("of = {}\non = \"{}\"\nchecklist = {}\nwords = {}\n",
                                   quotedToml(verdict.symbol), verdict.on.iso(),
                                   quotedToml(verdict.checklist), quotedToml(verdict.words));
    for (const Said& said : verdict.said) {
        toml += fmt::format("[[said]]\nwords = {}\n", quotedToml(said.words));
        if (said.isYes)
            toml += fmt::format("yes = {}\n", *said.isYes);
        if (said.isByPerson)
            toml += "own = true\n";
    }
    return toml;
}

Result<Verdict> verdictFromToml(std::string_view toml)
{
    return readToml(toml, "write of = \"…\" and on = \"2025-03-14\"", [](const toml::table& file) {
        refuseOthers(file, "a verdict", {"of", "on", "checklist", "words", "said"});
        Verdict verdict{0,
                        valueOr<std::string>(file, "of", {}),
                        dayUnder(file, "on"),
                        valueOr<std::string>(file, "checklist", {}),
                        {},
                        valueOr<std::string>(file, "words", {})};
        if (verdict.symbol.empty())
            failAt(file.source(), "a verdict without a stock", "write of = \"…\"");
        for (const toml::table* each : tablesOf(file, "said"))
            verdict.said.push_back(readSaid(*each));
        return verdict;
    });
}

} // namespace sieve::watchlists
