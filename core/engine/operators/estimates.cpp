#include "core/engine/operators/facts.h"
#include "core/market/as_of.h"

#include <array>
#include <cmath>

namespace sieve::engine {

namespace {

market::EstimateMeasure measureOf(const Node& node)
{
    return static_cast<market::EstimateMeasure>(node.item);
}

/// What analysts expect of one instrument, on the footing asked for: figures a share move with
/// splits, revenue does not.
class Estimates {
public:
    explicit Estimates(Facts& facts) : facts_(facts) {}

    double onFooting(double figure, Day known) const
    {
        const bool isPerShare = measureOf(facts_.node) != market::EstimateMeasure::Revenue;
        return figure * (isPerShare ? facts_.factorOf(known) : 1.0);
    }

    std::optional<market::EstimateRow> on(Day day, market::Period period, int ahead) const
    {
        return market::estimateOn(facts_.market, facts_.instrument, measureOf(facts_.node), period,
                                  ahead, day);
    }

    /// The estimate for the period that ends on a day, as it was known on another.
    double forPeriod(market::Period period, Day end, Day day) const
    {
        double mean = missing;
        for (const market::EstimateRow& row : facts_.market.estimates(facts_.instrument))
            if (row.measure == measureOf(facts_.node) && row.period == period &&
                row.periodEnd == end && row.knownOn <= day)
                mean = onFooting(row.mean, row.knownOn); // rows run by day known
        return mean;
    }

    /// of(day), asked anew on the days on which estimates became known, and so many days after.
    template <class Of> bool whileKnown(Of of)
    {
        return facts_.whileKnown(of, [this](const auto& consider) {
            for (const market::EstimateRow& row : facts_.market.estimates(facts_.instrument)) {
                consider(row.knownOn);
                consider(row.knownOn.plusDays(facts_.node.count)); // a revision looks so far back
                consider(row.periodEnd.plusDays(market::reportedAfter(row.period)));
            }
        });
    }

private:
    Facts& facts_;
};

template <market::Period period> bool estimate(Facts& facts)
{
    Estimates estimates(facts);
    return estimates.whileKnown([&](Day day) {
        const auto row = estimates.on(day, period, facts.node.count);
        return row ? estimates.onFooting(row->mean, row->knownOn) : missing;
    });
}

bool revision(Facts& facts)
{
    Estimates estimates(facts);
    return estimates.whileKnown([&](Day day) {
        const auto now = estimates.on(day, market::Period::Year, 0);
        if (!now)
            return missing;
        const double before = estimates.forPeriod(market::Period::Year, now->periodEnd,
                                                  day.plusDays(-facts.node.count));
        const double change = estimates.onFooting(now->mean, now->knownOn) - before;
        return before == 0.0 ? missing : change / std::fabs(before);
    });
}

/// The figure reported less what was expected the day before, as a share of the latter.
bool surprise(Facts& facts)
{
    Estimates estimates(facts);
    const auto item =
        market::statementItemNamed(market::estimateMeasureName(measureOf(facts.node)));
    return estimates.whileKnown([&](Day day) {
        if (!item)
            return missing;
        const auto reported = facts.market.statements(facts.instrument)
                                  .figure(*item, market::Period::Quarter, facts.node.count, day);
        if (!reported)
            return missing;
        const double expected = estimates.forPeriod(market::Period::Quarter, reported->periodEnd,
                                                    reported->knownOn.plusDays(-1));
        const double actual = estimates.onFooting(reported->value, reported->knownOn);
        return expected == 0.0 ? missing : (actual - expected) / std::fabs(expected);
    });
}

template <market::Period period> ValueDates
estimateDates(const Node& node, const market::Market& market, std::size_t instrument, Day day)
{
    return datesOf(market::estimateOn(market, instrument, measureOf(node), period, node.count, day),
                   &market::EstimateRow::periodEnd);
}

constexpr std::array estimateParameters{Parameter{"measure", Accepts::Measure},
                                        Parameter{"ahead", Accepts::Whole, 0.0, 0, 8}};
constexpr std::array revisionParameters{Parameter{"measure", Accepts::Measure},
                                        Parameter{"days", Accepts::Whole, 90.0, 1, 1000}};
constexpr std::array surpriseParameters{Parameter{"measure", Accepts::Measure},
                                        Parameter{"back", Accepts::Whole, 0.0, 0, 80}};

constexpr std::array estimateRows{
    Operator{.op = Op::Estimate,
             .family = Family::Data,
             .name = "estimate",
             .help = "What analysts expect for the running year, or for one ahead",
             .parameters = estimateParameters,
             .unit = Unit::Money,
             .fill = ofFacts<estimate<market::Period::Year>>,
             .dates = estimateDates<market::Period::Year>},
    Operator{.op = Op::EstimateQuarter,
             .family = Family::Data,
             .name = "estimate_quarter",
             .help = "What analysts expect for the running quarter, or for one ahead",
             .parameters = estimateParameters,
             .unit = Unit::Money,
             .fill = ofFacts<estimate<market::Period::Quarter>>,
             .dates = estimateDates<market::Period::Quarter>},
    Operator{.op = Op::Revision,
             .family = Family::Data,
             .name = "revision",
             .help = "How the estimate for the running year changed over so many days",
             .parameters = revisionParameters,
             .unit = Unit::Percent,
             .fill = ofFacts<revision>},
    Operator{.op = Op::Surprise,
             .family = Family::Data,
             .name = "surprise",
             .help = "A reported quarter against what was expected the day before",
             .parameters = surpriseParameters,
             .unit = Unit::Percent,
             .fill = ofFacts<surprise>},
};

} // namespace

std::span<const Operator> estimateOperators()
{
    return estimateRows;
}

} // namespace sieve::engine
