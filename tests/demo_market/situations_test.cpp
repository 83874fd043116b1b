#include "tests/demo_market/whole_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>
#include <fstream>
#include <numeric>
#include <set>
#include <sstream>

// The whole made-up market and what it was promised to hold, but for the shapes of its prices.

namespace sieve::demo_market {

using market::ActionKind;
using market::InstrumentKind;

TEST_CASE("Whole demo market: is taken in without a finding", "[demo_market][whole]")
{
    for (const intake::Finding& finding : whole().intake.report.findings)
        UNSCOPED_INFO(finding.file << ":" << finding.line << " " << finding.why << " "
                                   << finding.what);
    CHECK(whole().intake.report.findings.empty());
    CHECK(isles().size() == whole().made.records.size());
}

TEST_CASE("Whole demo market: has the size that was promised", "[demo_market][whole]")
{
    std::map<std::pair<std::string, InstrumentKind>, int> counts;
    std::set<std::string> industries;
    int listed = 0;
    int delisted = 0;
    std::set<std::string> reasons;
    for (std::size_t i = 0; i < isles().size(); ++i) {
        const market::Instrument& each = isles().instrument(i);
        ++counts[{each.exchange, each.kind}];
        if (!each.industry.empty())
            industries.insert(each.industry);
        listed += !isMissing(each.offerPrice) ? 1 : 0;
        delisted += each.delistedOn ? 1 : 0;
        if (each.delistedOn)
            reasons.insert(each.delistedWhy.substr(0, 6));
    }
    CHECK(counts[{"Carrow Exchange", InstrumentKind::Share}] >= 480);
    CHECK(counts[{"Tarn Bourse", InstrumentKind::Share}] == 120);
    CHECK(counts[{"Carrow Exchange", InstrumentKind::Fund}] == 20);
    CHECK(counts[{"Carrow Exchange", InstrumentKind::Trust}] == 12);
    CHECK(counts[{"Carrow Exchange", InstrumentKind::Receipt}] == 20);
    CHECK(industries.size() >= 55);
    CHECK(listed >= 75);
    CHECK(delisted >= 60);
    CHECK(reasons == std::set<std::string>{"failed", "bought", "moved ", "merged"});
    CHECK(isles().sessions().front().iso() == "2016-10-03");
    CHECK(isles().sessions().back().iso() == "2026-09-30");
    CHECK(isles().sessions().size() > 2500);
}

TEST_CASE("Whole demo market: reports, news and gaps agree with each other", "[demo_market][whole]")
{
    // Each report of the calendar is filed and told on its day, at an hour that fits.
    std::size_t reports = 0;
    std::size_t late = 0;
    for (const market::InstrumentRecord& record : whole().made.records)
        for (const market::CalendarEntry& entry : record.calendar) {
            if (entry.kind != market::CalendarKind::Report ||
                entry.date > isles().sessions().back())
                continue;
            INFO(record.instrument.symbol << " on " << entry.date.iso());
            CHECK(std::ranges::any_of(record.statements, [&](const market::StatementRow& row) {
                return row.knownOn == entry.date;
            }));
            const bool isLate = entry.when == market::CalendarTime::AfterClose;
            const bool isTold =
                std::ranges::any_of(record.notices.news, [&](const market::NewsItem& item) {
                    return item.time.day() == entry.date &&
                           item.summary.starts_with("The report covers") &&
                           (item.time.minuteOfDay() > 17 * 60) == isLate;
                });
            const bool isRecent =
                record.notices.news.empty() || entry.date >= record.notices.news.front().time.day();
            CHECK((isTold || !isRecent || record.notices.news.empty()));
            ++reports;
            late += isLate ? 1 : 0;
        }
    CHECK(reports > 15'000);
    CHECK(late > reports / 5);
    // What the map calls a report is one, and its gap the one that the market shows.
    for (const Situation& situation : whole().made.situations) {
        if (!situation.what.starts_with("a report"))
            continue;
        INFO(situation.symbol);
        const Place place = placeOf(situation.what);
        const auto calendar = isles().calendar(place.stock);
        CHECK(std::ranges::any_of(calendar, [&](const market::CalendarEntry& entry) {
            return entry.date == situation.day && entry.kind == market::CalendarKind::Report &&
                   entry.when == market::CalendarTime::BeforeOpen;
        }));
        CHECK(isles().statements(place.stock).reportBy(situation.day)->knownOn == situation.day);
        const double gap = place.bars.open[place.bar] / place.close(-1) - 1.0;
        CHECK((gap > 0.0) == (situation.what.find("gap up") != std::string::npos));
        CHECK(std::fabs(gap) > 0.08);
    }
}

TEST_CASE("Whole demo market: the map is the page of the documentation", "[demo_market][whole]")
{
    std::ifstream page(std::string(SIEVE_TEST_FOLDER) + "/../docs/demo-market.md");
    std::ostringstream text;
    text << page.rdbuf();
    CHECK(text.str() == mapOf(whole().made));
}

TEST_CASE("Whole demo market: what companies do to their shares", "[demo_market][whole]")
{
    int splits = 0;
    int dividends = 0;
    double dearest = 0.0;
    double cheapest = 1e9;
    for (std::size_t i = 0; i < isles().size(); ++i) {
        for (const market::Action& action : isles().actions(i)) {
            splits += action.kind == ActionKind::Split ? 1 : 0;
            dividends += action.kind == ActionKind::Dividend ? 1 : 0;
        }
        const auto bars = isles().bars(i);
        if (isles().instrument(i).kind == InstrumentKind::Share && bars.size() > 0) {
            dearest = std::max(dearest, *std::ranges::max_element(bars.close));
            cheapest = std::min(cheapest, *std::ranges::min_element(bars.close));
        }
    }
    CHECK(splits > 100);
    CHECK(dividends > 1000);
    CHECK(dearest > 1'500.0);
    CHECK(cheapest < 1.0);
    const Place reverse = placeOf("a reverse split");
    CHECK(std::ranges::any_of(isles().splits(reverse.stock),
                              [](const market::Split& split) { return split.ratio == 0.1; }));
    const Place special = placeOf("a special dividend");
    const auto actions = isles().actions(special.stock);
    CHECK(std::ranges::any_of(actions, [&](const market::Action& action) {
        return action.kind == ActionKind::Dividend &&
               action.value > 0.07 * isles().bars(special.stock).close[special.bar];
    }));
    const Place parent = placeOf("a spin-off");
    CHECK(std::ranges::count(isles().actions(parent.stock), ActionKind::SpinOff,
                             &market::Action::kind) == 1);
    CHECK(isles().bars(placeOf("the spun-off company").stock).days.front() ==
          parent.bars.days.at(parent.bar));
    const Place renamed = placeOf("a new symbol");
    const market::Instrument& instrument = isles().instrument(renamed.stock);
    REQUIRE(instrument.formerSymbols.size() == 1);
    CHECK(isles().find(instrument.formerSymbols[0].symbol) == renamed.stock);
    CHECK(renamed.bar > 100); // its past under the former symbol is there
}

TEST_CASE("Whole demo market: estimates move before prices, owners before falls",
          "[demo_market][whole]")
{
    std::size_t revised = 0;
    std::size_t nearer = 0;
    double publicRise = 0.0;
    double publicOfGrowth = 0.0;
    int falling = 0;
    int rising = 0;
    for (std::size_t i = 0; i < isles().size(); ++i) {
        const auto rows = isles().estimates(i);
        for (std::size_t row = 1; row < rows.size(); ++row) {
            const auto& first = rows[row - 1];
            const auto& second = rows[row];
            if (first.measure != market::EstimateMeasure::Revenue ||
                first.period != market::Period::Quarter || second.period != first.period ||
                second.measure != first.measure || second.periodEnd != first.periodEnd)
                continue;
            const auto actual = isles().statements(i).figure(*market::statementItemNamed("revenue"),
                                                             market::Period::Quarter, 0,
                                                             first.periodEnd.plusDays(100));
            if (!actual || actual->periodEnd != first.periodEnd)
                continue;
            ++revised;
            nearer +=
                std::fabs(second.mean - actual->value) <= std::fabs(first.mean - actual->value) ? 1
                                                                                                : 0;
        }
        const market::Instrument& instrument = isles().instrument(i);
        const auto held = [&](Day day) {
            const auto row = market::ownersOn(isles(), i, market::OwnerKind::Public, 0, day);
            return row ? row->share : missing;
        };
        const auto bars = isles().bars(i);
        if (bars.size() < 1000)
            continue;
        const double moved = held(bars.days.back()) - held(bars.days[bars.size() - 900]);
        if (isMissing(moved))
            continue;
        if (instrument.delistedWhy == "failed") {
            publicRise += moved;
            ++falling;
        } else if (bars.close.back() > 3.0 * bars.close[bars.size() - 900]) {
            publicOfGrowth += moved;
            ++rising;
        }
    }
    CHECK(revised > 3'000);
    CHECK(static_cast<double>(nearer) > 0.9 * static_cast<double>(revised));
    REQUIRE(falling > 3);
    REQUIRE(rising > 3);
    CHECK(publicRise / falling > 0.05);
    CHECK(publicOfGrowth / rising < 0.02);
}

TEST_CASE("Whole demo market: the second exchange rests on its own day, half days end early",
          "[demo_market][whole]")
{
    const market::Exchange& carrow = *isles().exchange("Carrow Exchange");
    const market::Exchange& tarn = *isles().exchange("Tarn Bourse");
    const Day tarnDay = *Day::parse("2025-09-02");
    CHECK(market::isSessionDay(carrow, tarnDay));
    CHECK_FALSE(market::isSessionDay(tarn, tarnDay));
    CHECK(market::isHalfDay(carrow, *Day::parse("2026-08-06")));
    const auto open = [](const market::Exchange& exchange) {
        return market::sessionHours(exchange, *Day::parse("2026-09-30"))->opens;
    };
    CHECK(open(tarn).serial() - open(carrow).serial() == 60); // an hour behind
    const auto sessions = isles().sessions();
    CHECK(std::ranges::binary_search(sessions, tarnDay)); // one time axis for both
}

TEST_CASE("Whole demo market: minutes add up to their day", "[demo_market][whole]")
{
    int stocks = 0;
    for (std::size_t i = 0; i < isles().size(); ++i) {
        const auto minutes = isles().minuteBars(i);
        if (minutes.size() == 0)
            continue;
        ++stocks;
        const auto bars = isles().bars(i);
        double high = 0.0;
        double volume = 0.0;
        for (std::size_t minute = 0; minute < minutes.size(); ++minute)
            if (minutes.minutes[minute].day() == bars.days.back()) {
                high = std::max(high, minutes.high[minute]);
                volume += minutes.volume[minute];
            }
        INFO(isles().instrument(i).symbol);
        REQUIRE(high == bars.high.back());
        REQUIRE(volume == bars.volume.back());
        REQUIRE(minutes.close.back() == bars.close.back());
    }
    CHECK(stocks == 300);
}

TEST_CASE("Whole demo market: receipts are in another currency, with a rate on each session",
          "[demo_market][whole]")
{
    int receipts = 0;
    for (std::size_t stock = 0; stock < isles().size(); ++stock) {
        const bool isReceipt = isles().instrument(stock).kind == InstrumentKind::Receipt;
        CHECK(isles().isInOtherCurrency(stock) == isReceipt);
        for (const Day session : isles().sessions())
            if (isReceipt)
                REQUIRE(std::fabs(isles().rate(stock, session) - 0.3) < 0.1);
        receipts += isReceipt ? 1 : 0;
    }
    CHECK(receipts == 20);
}

TEST_CASE("Whole demo market: receipts tell their statements by filings", "[demo_market][whole]")
{
    int compared = 0;
    for (const market::InstrumentRecord& record : whole().made.records) {
        if (record.instrument.kind != InstrumentKind::Receipt)
            continue;
        const std::size_t stock = *isles().find(record.instrument.symbol);
        const market::Statements made(record.statements);
        for (const char* item :
             {"revenue", "operating_cash_flow", "capital_expenditure", "equity"}) {
            const auto number = *market::statementItemNamed(item);
            for (const char* on : {"2023-06-30", "2025-01-15", "2026-09-30"}) {
                const auto want = made.figure(number, market::Period::Quarter, 0, *Day::parse(on));
                const auto got = isles().statements(stock).figure(number, market::Period::Quarter,
                                                                  0, *Day::parse(on));
                if (!want || !got || want->periodEnd != got->periodEnd)
                    continue;
                ++compared;
                INFO(record.instrument.symbol << " " << item << " " << on);
                CHECK(got->value == Approx(want->value));
            }
        }
    }
    CHECK(compared > 150);
}

TEST_CASE("Whole demo market: news explain most large moves and some explain nothing",
          "[demo_market][whole]")
{
    int large = 0;
    int explained = 0;
    int idle = 0;
    const Day from = isles().sessions().back().plusDays(-700);
    for (std::size_t i = 0; i < isles().size(); ++i) {
        if (isles().instrument(i).kind != InstrumentKind::Share)
            continue;
        std::set<Day> told;
        for (const market::NewsItem& item : isles().notices(i).news) {
            told.insert(item.time.day());
            idle += item.title.find("visitors") != std::string::npos ? 1 : 0;
        }
        const auto bars = isles().bars(i);
        for (std::size_t bar = 1; bar < bars.size(); ++bar) {
            const double factor =
                isles().priceFactor(i, bars.days[bar - 1], isles().footing(i, bar));
            const double change = bars.close[bar] / (bars.close[bar - 1] * factor) - 1.0;
            if (bars.days[bar] < from || std::fabs(change) < 0.09)
                continue;
            ++large;
            explained += told.contains(bars.days[bar]) ? 1 : 0;
        }
    }
    CHECK(large > 50);
    CHECK(static_cast<double>(explained) > 0.6 * large);
    CHECK(idle > 100);
}

TEST_CASE("Whole demo market: the second exchange is out of step with the first",
          "[demo_market][whole]")
{
    // The younger exchange lives through the phases seventy sessions later: what one has done by
    // then tells more of the other than what it does on the day.
    const auto changesOf = [](const char* exchange) {
        std::map<Day, std::pair<double, int>> sums;
        for (std::size_t i = 0; i < isles().size(); ++i) {
            const auto bars = isles().bars(i);
            if (isles().instrument(i).exchange != exchange ||
                isles().instrument(i).kind != InstrumentKind::Share)
                continue;
            for (std::size_t bar = 1; bar < bars.size(); ++bar) {
                const double factor =
                    isles().priceFactor(i, bars.days[bar - 1], isles().footing(i, bar));
                auto& [sum, count] = sums[bars.days[bar]];
                sum += bars.close[bar] / (bars.close[bar - 1] * factor) - 1.0;
                ++count;
            }
        }
        std::vector<double> levels{0.0};
        for (const auto& [day, sum] : sums)
            levels.push_back(levels.back() + sum.first / sum.second);
        return levels;
    };
    const std::vector<double> main = changesOf("Carrow Exchange");
    const std::vector<double> young = changesOf("Tarn Bourse");
    const auto agreement = [&](std::size_t lag) { // of changes over forty sessions
        double both = 0.0;
        double ofMain = 0.0;
        double ofYoung = 0.0;
        for (std::size_t end = 200; end + 10 < young.size(); ++end) {
            const double x = main[end - lag] - main[end - lag - 40];
            const double y = young[end] - young[end - 40];
            both += x * y;
            ofMain += x * x;
            ofYoung += y * y;
        }
        return both / std::sqrt(ofMain * ofYoung);
    };
    CHECK(agreement(70) > 0.5);
    CHECK(agreement(70) > agreement(0) + 0.1);
}

TEST_CASE("Whole demo market: listings come in waves", "[demo_market][whole]")
{
    std::map<int, int> years;
    for (std::size_t i = 0; i < isles().size(); ++i)
        if (!isMissing(isles().instrument(i).offerPrice))
            ++years[int(isles().instrument(i).listedOn->date().year())];
    const int waves = years[2017] + years[2021] + years[2024] + years[2025];
    const int others = years[2018] + years[2019] + years[2020] + years[2022] + years[2023];
    CHECK(waves > 60);
    CHECK(others < 10);
}

TEST_CASE("Whole demo market: companies of every kind, with fiscal years of their own",
          "[demo_market][whole]")
{
    std::set<unsigned> yearEnds;
    int neverProfitable = 0;
    int turned = 0;
    int indebted = 0;
    int growing = 0;
    int restated = 0;
    int gaps = 0;
    const auto income = *market::statementItemNamed("net_income");
    const auto revenue = *market::statementItemNamed("revenue");
    for (std::size_t i = 0; i < isles().size(); ++i) {
        const market::Statements& statements = isles().statements(i);
        int profits = 0;
        int losses = 0;
        bool isFirstLoss = false;
        bool isLastProfit = false;
        std::map<Day, int> filed;
        for (const market::StatementRow& row : statements.rows()) {
            if (row.period == market::Period::Year)
                yearEnds.insert(static_cast<unsigned>(row.periodEnd.date().month()));
            if (row.period == market::Period::Quarter && row.item == revenue)
                ++filed[row.periodEnd];
            if (row.period != market::Period::Quarter || row.item != income)
                continue;
            isFirstLoss = profits + losses < 6 ? row.value < 0.0 : isFirstLoss;
            isLastProfit = row.value > 0.0;
            ++(row.value > 0.0 ? profits : losses);
        }
        for (const auto& [end, count] : filed)
            restated += count > 1 ? 1 : 0;
        if (!filed.empty()) {
            const int quarters =
                static_cast<int>((filed.rbegin()->first - filed.begin()->first + 45) / 91) + 1;
            gaps += quarters > static_cast<int>(filed.size()) ? 1 : 0;
        }
        neverProfitable += profits == 0 && losses > 8 ? 1 : 0;
        turned += isFirstLoss && isLastProfit && losses > 4 && profits > 8 ? 1 : 0;
        const Day day = isles().sessions().back();
        const auto item = [&](const char* key) {
            const auto figure = statements.figure(*market::statementItemNamed(key),
                                                  market::Period::Quarter, 0, day);
            return figure ? figure->value : missing;
        };
        indebted += item("debt") > 0.9 * item("equity") ? 1 : 0;
        const auto ttm = [&](int back) {
            const auto sum =
                statements.trailingTwelveMonths(revenue, back, day, [](Day) { return 1.0; });
            return sum ? sum->value : missing;
        };
        growing += ttm(0) > 1.5 * ttm(12) ? 1 : 0;
    }
    CHECK(yearEnds.size() >= 3);
    CHECK(neverProfitable >= 3);
    CHECK(turned >= 5);
    CHECK(indebted >= 10);
    CHECK(growing >= 30);
    CHECK(restated > 50);
    CHECK(gaps > 10);
}

} // namespace sieve::demo_market
