#include "core/conditions/timing.h"

#include "core/conditions/on_off.h"
#include "core/screens/limits.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace sieve::conditions {

namespace {

using engine::Evaluator;
using engine::NodeId;
using engine::Op;

/// Whether a part asks for nothing but the line's own prices.
bool asksForClosesOnly(const engine::Plan& plan, NodeId part)
{
    std::set<NodeId> seen;
    std::vector<NodeId> open{part};
    while (!open.empty()) {
        const NodeId id = open.back();
        open.pop_back();
        if (!seen.insert(id).second)
            continue;
        const engine::Node& node = plan[id];
        const bool isPrice = node.op == Op::BarColumn && node.barField != market::BarField::Volume;
        const bool isOwn = isPrice || node.op == Op::Constant || isValueByValue(node.op) ||
                           node.op == Op::Prior || node.op == Op::Indicator ||
                           node.op == Op::Weekly || node.op == Op::Monthly;
        if (!isOwn)
            return false;
        open.insert(open.end(), node.inputs.begin(), node.inputs.end());
    }
    return true;
}

/// The line with one more session, whose close is still open.
class Tomorrow {
public:
    Tomorrow(const Line& line, Day day)
        : past_(cut(line, day)), close_(past_->bars(0).close.back()),
          day_(past_->bars(0).days.back().plusWeekdays(1))
    {
    }
    double lastClose() const { return close_; }

    /// A part's answer if the session closed there.
    double answer(const engine::Plan& plan, NodeId part, double close) const
    {
        const market::LiveBar bar{0, {day_, close, close, close, close, missing}};
        Evaluator evaluator(std::make_shared<const market::Market>(past_, std::span(&bar, 1)));
        return (*evaluator.column(plan, part, day_))[0];
    }

    /// The close nearest to the last one with which the part would give `wanted`.
    double turning(const engine::Plan& plan, NodeId part, double wanted) const
    {
        constexpr int steps = 25;
        if (answer(plan, part, close_) == wanted)
            return close_; // even an unchanged one
        for (int step = 1; step <= steps; ++step)
            for (const double side : {1.0, -1.0}) {
                const auto at = [&](int count) {
                    return close_ * (1.0 + side * mostMove * count / steps);
                };
                if (answer(plan, part, at(step)) == wanted)
                    return between(plan, part, wanted, at(step - 1), at(step));
            }
        return missing;
    }

private:
    static market::MarketPtr cut(const Line& line, Day day)
    {
        market::InstrumentRecord record;
        record.instrument.symbol = "LINE";
        record.instrument.kind = market::InstrumentKind::Index;
        record.bars = market::Bars(line.bars());
        record.bars.truncate(*line.barBy(day) + 1);
        std::vector<market::InstrumentRecord> records;
        records.push_back(std::move(record));
        return std::make_shared<const market::Market>(market::MarketDescription{},
                                                      std::move(records));
    }

    /// Halves [short, enough] until it is a millionth; gives the end that is enough.
    double between(const engine::Plan& plan, NodeId part, double wanted, double tooShort,
                   double enough) const
    {
        while (std::fabs(enough - tooShort) > 1e-6 * close_) {
            const double middle = 0.5 * (tooShort + enough);
            (answer(plan, part, middle) == wanted ? enough : tooShort) = middle;
        }
        return enough;
    }

    market::MarketPtr past_;
    double close_;
    Day day_;
};

} // namespace

std::vector<RuleHistory> ruleHistories(Evaluator& evaluator, const language::Names& names,
                                       const Line& line, std::span<const TimingRule> rules,
                                       const Progress& progress)
{
    struct Place {
        std::optional<std::size_t> enter;
        std::optional<std::size_t> leave;
    };
    std::vector<RuleHistory> histories(rules.size());
    std::vector<Place> places(rules.size());
    LineQuestion question(names, line);
    for (std::size_t i = 0; i < rules.size(); ++i)
        for (const bool isLeave : {false, true}) {
            const std::string& text = isLeave ? rules[i].leave : rules[i].enter;
            if (histories[i].error || (isLeave && text.empty()))
                continue;
            const auto place = question.addCondition(text);
            if (place) {
                (isLeave ? places[i].leave : places[i].enter) = *place;
            } else {
                histories[i].error = place.error();
                histories[i].isErrorInLeave = isLeave;
            }
        }
    if (line.bars().days.empty())
        return histories;
    const auto values = question.histories(evaluator, line.bars().days.back(), progress);
    for (std::size_t i = 0; i < rules.size(); ++i)
        if (!histories[i].error)
            histories[i].on =
                onOff(values[*places[i].enter],
                      places[i].leave ? std::span<const double>(values[*places[i].leave])
                                      : std::span<const double>());
    return histories;
}

std::vector<RulePart> partsOf(Evaluator& evaluator, const language::Names& names, const Line& line,
                              std::string_view condition, Day day, const Progress& progress)
{
    struct Place {
        std::size_t part = 0;
        std::optional<screens::Limit> limit;
        std::size_t value = 0;
        std::size_t bound = 0;
    };
    const auto bar = line.barBy(day);
    LineQuestion question(names, line);
    if (!bar || !question.addCondition(condition))
        return {};
    std::vector<RulePart> parts;
    std::vector<Place> places;
    std::vector<NodeId> targets;
    for (const std::string& text : screens::criteriaOf(condition)) {
        const auto checked = checkCondition(text, question.names(), question.plan());
        if (!checked)
            return {};
        parts.push_back({text, std::nullopt, {}});
        Place place{targets.size(), std::nullopt, 0, 0};
        targets.push_back(checked->node);
        auto limits = screens::limitsOf(text, question.names(), question.plan());
        if (limits.size() == 1) { // of two limits either may be the open one: see the text
            place.limit = limits[0];
            place.value = targets.size();
            place.bound = targets.size() + 1;
            targets.push_back(limits[0].fieldNode);
            targets.push_back(limits[0].boundNode);
        }
        places.push_back(std::move(place));
    }
    const auto values =
        evaluator.lineHistories(question.plan(), targets, *line.market, day, progress);
    const Tomorrow tomorrow(line, day);
    for (std::size_t i = 0; i < parts.size(); ++i) {
        RulePart& part = parts[i];
        const double answer = values[places[i].part].back();
        if (!isMissing(answer))
            part.holds = answer == 1.0;
        if (const auto& limit = places[i].limit) {
            part.field = limit->field;
            part.unit = limit->unit;
            part.value = values[places[i].value].back();
            part.bound = values[places[i].bound].back();
            part.distance = std::fabs(part.value - part.bound);
        }
        if (progress.stopRequested())
            throw Stopped{};
        if (part.holds && asksForClosesOnly(question.plan(), targets[places[i].part]))
            part.turningClose =
                tomorrow.turning(question.plan(), targets[places[i].part], *part.holds ? 0.0 : 1.0);
    }
    return parts;
}

} // namespace sieve::conditions
