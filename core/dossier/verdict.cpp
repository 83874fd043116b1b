#include "core/dossier/parts.h"
#include "core/screens/limits.h"

#include <algorithm>
#include <fmt/format.h>

// The person's checklist: what its rules say, what the person answered, and the verdict.

namespace sieve::dossier {

namespace {

/// The figure that a rule sets a limit to; empty where it compares none.
std::string figureOf(const std::string& rule, const Subject& subject)
{
    engine::Plan plan;
    if (!language::checkCondition(rule, subject.names, plan))
        return {};
    for (const std::string& criterion : screens::criteriaOf(rule))
        if (const auto limits = screens::limitsOf(criterion, subject.names, plan); !limits.empty())
            return limits.front().field;
    return {};
}

const watchlists::Verdict* verdictBefore(const Subject& subject)
{
    return watchlists::newestVerdict(subject.verdicts, subject.evaluator.market(), subject.stock,
                                     subject.choices.checklist->name, subject.day);
}

Row rowOf(const watchlists::Question& question, const Subject& subject)
{
    Row row{.title = question.words};
    if (!question.rule.empty()) {
        row.meaning = question.rule;
        row.cells.push_back({.expression = question.rule, .kind = Kind::YesNo});
        Cell figure{.expression = figureOf(question.rule, subject)};
        if (figure.expression.empty())
            figure.kind = Kind::Text;
        row.cells.push_back(std::move(figure));
        return row;
    }
    Cell answer{.kind = Kind::YesNo, .decimals = 0};
    Cell when{.kind = Kind::Text, .decimals = 0};
    const auto answers =
        watchlists::answersTo(subject.verdicts, subject.choices.checklist->name, question.words);
    const market::Market& market = subject.evaluator.market();
    for (const auto& each : answers->answers)
        if (each.on <= subject.day && market.find(each.symbol, each.on) == subject.stock) {
            answer.value = each.isYes ? static_cast<double>(*each.isYes) : missing;
            when.text = each.isYes ? "you, " + each.on.iso() : std::string();
        }
    if (isMissing(answer.value))
        when.text = "yours to answer";
    row.meaning = "A question that you answer";
    row.cells = {std::move(answer), std::move(when)};
    return row;
}

} // namespace

void layOutVerdict(Part& part, const Subject& subject, const Progress&)
{
    if (!subject.choices.checklist) {
        part.words.emplace_back("No checklist is chosen.");
        return;
    }
    const watchlists::Checklist& checklist = *subject.choices.checklist;
    Table table{"verdict.questions", checklist.name, Form::Checklist, {"answer", "figure"}};
    for (const watchlists::Question& question : checklist.questions)
        table.rows.push_back(rowOf(question, subject));
    part.tables.push_back(std::move(table));
}

void tellVerdict(Part& part, const Subject& subject)
{
    if (part.tables.empty())
        return;
    const std::vector<Row>& rows = part.tables[0].rows;
    const auto count = [&](auto isMeant) {
        return std::ranges::count_if(rows,
                                     [&](const Row& row) { return isMeant(row.cells[0].value); });
    };
    const auto open = count([](double answer) { return isMissing(answer); });
    std::string told = fmt::format("{} of {} answered by yes",
                                   count([](double answer) { return answer == 1.0; }), rows.size());
    if (open > 0)
        told += fmt::format(", {} open", open);
    part.words.push_back(told + ".");
    if (const watchlists::Verdict* former = verdictBefore(subject)) {
        const std::string when = former->on == subject.day ? std::string("Judged on this day")
                                                           : "Judged on " + former->on.iso();
        part.words.push_back(fmt::format("{}: {} of {}.{}", when, former->met(),
                                         former->said.size(),
                                         former->words.empty() ? "" : " “" + former->words + "”"));
    }
}

std::vector<watchlists::Said> saidIn(const Dossier& dossier)
{
    std::vector<watchlists::Said> said;
    const Part* part = dossier.part("verdict");
    if (!part || part->tables.empty())
        return said;
    for (const Row& row : part->tables[0].rows) {
        const Cell& answer = row.cells[0];
        said.push_back({row.title,
                        isMissing(answer.value) ? std::nullopt : std::optional(answer.value == 1.0),
                        answer.expression.empty()});
    }
    return said;
}

} // namespace sieve::dossier
