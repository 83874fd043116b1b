#include "core/engine/operators/notices.h"

#include "core/base/lower_case.h"
#include "core/engine/operators/facts.h"
#include "core/market/as_of.h"

#include <array>
#include <map>

namespace sieve::engine {

namespace {

bool nextReport(Facts& facts)
{
    return facts.eachDay([&](Day day) {
        for (const market::CalendarEntry& entry :
             facts.market.calendar(facts.instrument)) { // by date
            const bool isAhead =
                entry.date > day ||
                (entry.date == day && entry.when == market::CalendarTime::AfterClose);
            if (entry.kind == market::CalendarKind::Report && isAhead)
                return entry.date <= day.plusDays(announcedDays) ? entry.date.serial() : missing;
        }
        return missing;
    });
}

bool newsWithin(Facts& facts)
{
    const market::Exchange* exchange = facts.market.exchange(facts.listing().exchange);
    const std::string word = lowerCase(facts.node.text);
    std::vector<Day> named;
    for (const market::NewsItem& item : facts.market.notices(facts.instrument).news)
        if (lowerCase(item.title).find(word) != std::string::npos ||
            lowerCase(item.summary).find(word) != std::string::npos)
            named.push_back(exchange ? market::dayOfKnowing(*exchange, item.time)
                                     : item.time.day());
    std::ranges::sort(named);
    return facts.eachDay([&](Day day) {
        const auto next = std::ranges::upper_bound(named, day);
        const bool isThere = next != named.begin() && *(next - 1) > day.plusDays(-facts.node.count);
        return isThere ? 1.0 : 0.0;
    });
}

bool priceTarget(Facts& facts)
{
    const std::vector<market::Rating> ratings = facts.market.notices(facts.instrument).ratings;
    return facts.eachDay([&](Day day) {
        std::map<std::string_view, double> targets; // the newest of each house
        for (const market::Rating& rating : ratings)
            if (rating.date <= day && rating.date > day.plusDays(-facts.node.count))
                targets[rating.house] = rating.action == market::RatingAction::Ends
                                            ? missing
                                            : rating.target * facts.factorOf(rating.date);
        KnownSum all;
        for (const auto& [house, target] : targets)
            all.add(target);
        return all.count > 0.0 ? all.sum / all.count : missing;
    });
}

bool dividendsPaid(Facts& facts)
{
    return facts.eachDay([&](Day day) {
        double paid = 0.0;
        for (const market::Action& action : facts.market.actions(facts.instrument))
            if (action.kind == market::ActionKind::Dividend && action.exDate <= day &&
                action.exDate > day.plusDays(-facts.node.count))
                paid += action.value * facts.factorOf(action.exDate);
        return paid;
    });
}

constexpr std::array newsParameters{Parameter{"days", Accepts::Whole, std::nullopt, 1, 5000},
                                    Parameter{"word", Accepts::Quoted, 0.0}};
constexpr std::array targetParameters{Parameter{"days", Accepts::Whole, 180.0, 1, 1000}};
constexpr std::array dividendParameters{Parameter{"days", Accepts::Whole, 365.0, 1, 5000}};

constexpr std::array noticeRows{
    Operator{.op = Op::NextReport, .family = Family::Data, .fill = ofFacts<nextReport>},
    Operator{.op = Op::NewsWithin,
             .family = Family::Data,
             .name = "news_within",
             .help = "Whether news of so many days (with a word in it) name the stock",
             .parameters = newsParameters,
             .kind = Kind::YesNo,
             .fill = ofFacts<newsWithin>},
    Operator{.op = Op::PriceTarget,
             .family = Family::Data,
             .name = "target",
             .help = "Mean of the price targets that houses gave in so many days",
             .parameters = targetParameters,
             .unit = Unit::Money,
             .fill = ofFacts<priceTarget>},
    Operator{.op = Op::DividendsPaid,
             .family = Family::Data,
             .name = "dividends_paid",
             .help = "Dividends a share over so many days, by ex-day",
             .parameters = dividendParameters,
             .unit = Unit::Money,
             .fill = ofFacts<dividendsPaid>},
};

} // namespace

std::span<const Operator> noticeOperators()
{
    return noticeRows;
}

} // namespace sieve::engine
