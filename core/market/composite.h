#pragma once

#include "core/market/market.h"

#include <limits>
#include <span>
#include <vector>

namespace sieve::market {

enum class Weight { Equal, Capitalization };
enum class Return { Price, Total };

/// A line of level by session. Starts at 1,000 on the first session.
struct Composite {
    std::vector<Day> days;
    std::vector<double> levels;
};

/// An instrument that counts in a composite on days [from, until), as far as it trades then.
struct Member {
    std::size_t instrument = 0;
    Day from = Day::fromSerial(std::numeric_limits<std::int32_t>::min());
    Day until = Day::fromSerial(std::numeric_limits<std::int32_t>::max());
};

/// All shares of a market, delisted ones too; those of an exchange, a sector or an industry.
std::vector<Member> allShares(const Market& market);
std::vector<Member> sharesWith(const Market& market, TextField field, std::uint32_t text);

/// The first day on which one of some members counts: it is a member and has traded. Far ahead of
/// all days where none ever does.
Day beginOf(const Market& market, std::span<const Member> members);

/// Members as one line: each session the level moves by their mean change, all weighing the same or
/// by their capitalization at the close before.
/// Who counts: on a session, a member that is listed and has a close before; so a listing joins
///          after its first session and a delisting leaves with its last price. One that does not
///          trade stands still; after `idleSessions` of them it is left out until it trades again,
///          and its change since then counts on that day. With Capitalization, one without a share
///          count, or without an exchange rate to the market's currency, is left out. Changes are
///          in each one's own currency. Where nobody counts the level stands still.
/// Return:  splits do not show. Price leaves dividends and spin-offs out; Total counts them on
///          their first day without.
/// Source:  chained arithmetic returns, equal weights restored each session. What comes later
///          changes no level.
Composite makeComposite(const Market& market, Weight weight);
Composite makeComposite(const Market& market, std::span<const Member> members, Weight weight,
                        Return kind = Return::Price);

/// The line as the only instrument of a market, so that the one engine answers for it too. Open,
/// high and low are the level; volume is missing.
MarketPtr marketOf(const Composite& line);
/// The same with dividends, so that the total return of its instrument is `total`: the same line in
/// the other form.
/// Requires: the same days.
MarketPtr marketOf(const Composite& line, const Composite& total);

} // namespace sieve::market
