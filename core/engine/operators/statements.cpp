#include "core/base/fetch_ahead.h"
#include "core/engine/operators/facts.h"
#include "core/indicators/regression.h"

#include <array>
#include <functional>

namespace sieve::engine {

namespace {

/// An item's figures on the footing asked for: those a share move with splits.
class ItemOnFooting {
public:
    explicit ItemOnFooting(const Facts& facts)
        : facts_(facts), isMoved_(market::statementItems()[facts.node.item].isPerShare &&
                                  !facts.market.splits(facts.instrument).empty())
    {
    }

    double factor(Day known) const { return isMoved_ ? facts_.factorOf(known) : 1.0; }

    /// A trailing sum of the item: of(back, day).
    auto trailingSums() const
    {
        return [figures = market::ItemFigures(facts_.market.statements(facts_.instrument),
                                              facts_.node.item, market::Period::Quarter),
                factor = isMoved_ ? std::function([this](Day known) { return factor(known); })
                                  : std::function<double(Day)>()](int back, Day day) mutable {
            const auto sum = figures.trailingTwelveMonths(back, day, factor);
            return sum ? sum->value : missing;
        };
    }

private:
    const Facts& facts_;
    bool isMoved_;
};

template <market::Period period> bool statementFigure(Facts& facts)
{
    const ItemOnFooting item(facts);
    market::ItemFigures figures(facts.market.statements(facts.instrument), facts.node.item, period);
    return facts.whileKnown([&](Day day) {
        const auto known = figures.figure(facts.node.count, day);
        return known ? known->value * item.factor(known->knownOn) : missing;
    });
}

bool trailing(Facts& facts)
{
    const ItemOnFooting item(facts);
    auto sumOf = item.trailingSums();
    return facts.whileKnown([&](Day day) { return sumOf(facts.node.count, day); });
}

bool stability(Facts& facts)
{
    const ItemOnFooting item(facts);
    auto sumOf = item.trailingSums();
    std::vector<double> sums;
    return facts.whileKnown([&](Day day) {
        sums.clear();
        for (int back = 4 * facts.node.count; back-- > 0;)
            sums.push_back(sumOf(back, day));
        double fit = missing;
        indicators::regressionFit(sums, static_cast<int>(sums.size()), {0, sums.size() - 1},
                                  std::span(&fit, 1));
        return fit;
    });
}

bool reportDay(Facts& facts)
{
    return facts.whileKnown([&](Day day) {
        const market::Report* report = facts.market.statements(facts.instrument).reportBy(day);
        return report ? report->knownOn.serial() : missing;
    });
}

/// A company's rows lie anywhere in memory. Where an item's rows begin is fetched two instruments
/// ahead, since it must be there to know which rows to fetch for the next one.
template <market::Period period> void fetchItem(const Series& series, const Run& run,
                                                const market::Market& market, std::size_t next,
                                                FetchAhead&)
{
    constexpr std::size_t few = 12; // as many quarters as two sums of a year take, and some
    constexpr std::size_t sessionsAPeriod = period == market::Period::Quarter ? 63 : 252;
    const std::size_t item = series.node->item;
    if (next + 1 < market.size()) {
        const auto bounds = market.statements(next + 1).boundsOf(item, period);
        if (!bounds.empty())
            fetchLines(bounds.data(), bounds.data() + bounds.size());
    }
    const market::Statements& statements = market.statements(next);
    const std::size_t after = (run.frame.size() - run.asked.to) / sessionsAPeriod;
    const auto rows = statements.rowsOf(item, period);
    if (after < rows.size()) {
        const market::StatementRow* const end = rows.data() + (rows.size() - after);
        fetchLines(end - std::min(few, rows.size() - after), end);
    }
    const auto reports = statements.reports();
    if (after < reports.size()) {
        const market::Report* const report = &reports[reports.size() - 1 - after];
        fetchLines(report, report + 1);
    }
}

template <market::Period period> ValueDates
figureDates(const Node& node, const market::Market& market, std::size_t instrument, Day day)
{
    return datesOf(market.statements(instrument).figure(node.item, period, node.count, day),
                   &market::Known::periodEnd);
}

ValueDates trailingDates(const Node& node, const market::Market& market, std::size_t instrument,
                         Day day)
{
    return datesOf(market.statements(instrument)
                       .trailingTwelveMonths(node.item, node.count, day, [](Day) { return 1.0; }),
                   &market::Known::periodEnd);
}

constexpr std::array itemParameters{Parameter{"item", Accepts::Item},
                                    Parameter{"back", Accepts::Whole, 0.0, 0, 80}};
constexpr std::array stabilityParameters{Parameter{"item", Accepts::Item},
                                         Parameter{"years", Accepts::Whole, 5.0, 1, 15}};

constexpr std::array statementRows{
    Operator{.op = Op::Quarter,
             .family = Family::Data,
             .name = "quarter",
             .help = "An item of the newest quarter filed, or of one before it",
             .parameters = itemParameters,
             .typed = Typed::AsItem,
             .fill = ofFacts<statementFigure<market::Period::Quarter>>,
             .fetch = fetchItem<market::Period::Quarter>,
             .dates = figureDates<market::Period::Quarter>},
    Operator{.op = Op::Year,
             .family = Family::Data,
             .name = "year",
             .help = "An item of the newest year filed, or of one before it",
             .parameters = itemParameters,
             .typed = Typed::AsItem,
             .fill = ofFacts<statementFigure<market::Period::Year>>,
             .fetch = fetchItem<market::Period::Year>,
             .dates = figureDates<market::Period::Year>},
    Operator{.op = Op::TrailingTwelveMonths,
             .family = Family::Data,
             .name = "ttm",
             .help = "An item summed over four quarters (trailing twelve months), ending so many "
                     "quarters back",
             .parameters = itemParameters,
             .typed = Typed::AsSummedItem,
             .fill = ofFacts<trailing>,
             .fetch = fetchItem<market::Period::Quarter>,
             .dates = trailingDates},
    Operator{.op = Op::Stability,
             .family = Family::Data,
             .name = "stability",
             .help = "How straight an item's trailing sums ran over so many years, 0 to 1 (r "
                     "squared)",
             .parameters = stabilityParameters,
             .unit = Unit::Ratio,
             .fill = ofFacts<stability>,
             .fetch = fetchItem<market::Period::Quarter>},
    Operator{.op = Op::ReportDay, .family = Family::Data, .fill = ofFacts<reportDay>},
};

} // namespace

std::span<const Operator> statementOperators()
{
    return statementRows;
}

} // namespace sieve::engine
