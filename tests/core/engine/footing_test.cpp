#include "core/engine/evaluator.h"
#include "core/language/checker.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>
#include <functional>
#include <random>
#include <set>

// What a company's figures are told in changes no ratio: neither the number of shares (a split),
// nor the money. Every field of the dictionary is asked on a random market.

namespace sieve::engine {

namespace {

using market::InstrumentRecord;
using Factor = std::function<double(Day)>;

/// The record with what is a share's from some days on other shares: prices and all per share times
/// `ofShare`, counts of shares by it.
void restateShares(InstrumentRecord& record, const Factor& ofShare)
{
    market::Bars& bars = record.bars;
    for (std::size_t bar = 0; bar < bars.size(); ++bar) {
        const double factor = ofShare(bars.days[bar]);
        for (auto* column : {&bars.open, &bars.high, &bars.low, &bars.close})
            (*column)[bar] *= factor;
        bars.volume[bar] /= factor;
    }
    for (market::Action& action : record.actions)
        if (action.kind != market::ActionKind::Split)
            action.value *= ofShare(action.exDate);
    for (market::ShareCount& count : record.shares)
        for (double* figure : {&count.outstanding, &count.freeFloat, &count.shortInterest})
            *figure /= ofShare(count.date);
    for (market::StatementRow& row : record.statements)
        if (market::statementItems()[row.item].isPerShare)
            row.value *= ofShare(row.knownOn);
    for (market::EstimateRow& row : record.estimates)
        if (row.measure != market::EstimateMeasure::Revenue)
            for (double* figure : {&row.mean, &row.high, &row.low})
                *figure *= ofShare(row.knownOn);
    for (market::Rating& rating : record.notices.ratings)
        rating.target *= ofShare(rating.date);
    record.instrument.offerPrice *= ofShare(record.bars.days.front());
}

/// The record with all money told in another one.
void restateMoney(InstrumentRecord& record, double factor)
{
    const auto always = [factor](Day) { return factor; };
    restateShares(record, always);
    for (double& volume : record.bars.volume)
        volume *= factor;
    for (market::ShareCount& count : record.shares)
        for (double* figure : {&count.outstanding, &count.freeFloat, &count.shortInterest})
            *figure *= factor;
    for (market::StatementRow& row : record.statements) {
        const market::StatementItem& item = market::statementItems()[row.item];
        if (item.unit == Unit::Money && !item.isPerShare)
            row.value *= factor;
    }
    for (market::EstimateRow& row : record.estimates)
        if (row.measure == market::EstimateMeasure::Revenue)
            for (double* figure : {&row.mean, &row.high, &row.low})
                *figure *= factor;
}

/// Asks all fields that are no amounts on some days of both markets.
void checkSameRatios(const market::MarketPtr& one, const market::MarketPtr& other,
                     const std::set<std::string>& amounts)
{
    Evaluator first(one);
    Evaluator second(other);
    Plan plan;
    const language::Names names{language::Vocabulary::builtIn(), std::nullopt};
    std::vector<const language::Field*> fields;
    std::vector<NodeId> targets;
    for (const language::Field& field : language::Vocabulary::builtIn().fields())
        if (field.unit != Unit::Money && field.unit != Unit::Shares && field.kind != Kind::Text &&
            !amounts.contains(field.name)) {
            fields.push_back(&field);
            targets.push_back(check(field.name, names, plan)->node);
        }
    REQUIRE(fields.size() > 250);
    const std::span<const Day> sessions = one->sessions();
    for (std::size_t session = 130; session < sessions.size(); session += 41) {
        const auto before = first.columns(plan, targets, sessions[session]);
        const auto after = second.columns(plan, targets, sessions[session]);
        for (std::size_t i = 0; i < fields.size(); ++i)
            for (std::size_t stock = 0; stock < one->size(); ++stock) {
                const double a = (*before[i])[stock];
                const double b = (*after[i])[stock];
                if ((isMissing(a) && isMissing(b)) || b == Approx(a).epsilon(1e-9).margin(1e-9))
                    continue;
                INFO(fields[i]->name << " of " << one->instrument(stock).symbol << " on "
                                     << sessions[session].iso());
                CHECK(a == b);
            }
    }
}

} // namespace

TEST_CASE("Footing: a split changes no ratio, percentage or answer", "[engine]")
{
    const auto records = test::eventfulRecords(420);
    auto split = records;
    std::mt19937 random(5);
    constexpr std::array<double, 6> ratios{2.0, 1.5, 0.1, 7.0, 1.25, 1.0 / 3.0};
    for (std::size_t i = 0; i < split.size(); i += 2) {
        InstrumentRecord& record = split[i];
        const double ratio = ratios.at(random() % ratios.size());
        const Day day = record.bars.days[30 + random() % (record.bars.size() - 40)];
        restateShares(record, [&](Day each) { return each < day ? ratio : 1.0; });
        record.actions.push_back({day, market::ActionKind::Split, ratio});
    }
    // The price of a share over the benchmark's level, and shares of several stocks added up.
    checkSameRatios(test::marketOf(records, "S100"), test::marketOf(split, "S100"),
                    {"strength_line", "up_volume_share"});
}

TEST_CASE("Footing: another currency changes no ratio, percentage or answer", "[engine]")
{
    const auto records = test::eventfulRecords(420);
    auto other = records;
    for (InstrumentRecord& record : other)
        restateMoney(record, 7.31);
    checkSameRatios(test::marketOf(records, "S100"), test::marketOf(other, "S100"), {});
}

TEST_CASE("Footing: half of the stocks in another currency changes no comparison", "[engine]")
{
    auto records = test::eventfulRecords(420);
    for (InstrumentRecord& record : records)
        record.instrument.currency = "vl";
    auto mixed = records;
    constexpr double rate = 0.137; // of a dn in vl
    for (std::size_t i = 0; i < mixed.size(); i += 2) {
        restateMoney(mixed[i], 1.0 / rate);
        mixed[i].instrument.currency = test::otherCurrency;
    }
    const market::MarketPtr one = test::marketOf(records, "S100");
    market::MarketDescription description = one->description();
    description.currencies.push_back({test::otherCurrency, {}});
    for (Day date = test::day("2023-12-31"); date < test::day("2026-12-31");
         date = date.plusDays(30))
        description.currencies.back().rates.push_back({date, rate});
    const auto other = std::make_shared<const market::Market>(description, mixed);
    REQUIRE(other->hasOtherCurrencies());
    checkSameRatios(one, other, {});
}

} // namespace sieve::engine
