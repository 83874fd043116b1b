#pragma once

#include "core/language/vocabulary.h"
#include "core/market/market.h"

#include <string>
#include <vector>

/// Small markets for tests.
namespace sieve::test {

Day day(const char* iso);

/// Bars on successive weekdays from Monday 2024-01-01: open, high and low hug the closes.
market::Bars barsOf(const std::vector<double>& closes, Day first = day("2024-01-01"));

market::InstrumentRecord recordOf(const std::string& symbol, const std::vector<double>& closes,
                                  const std::string& sector = "Energy");

/// In the currency "vl". Where some are in `otherCurrency`, there are rates of that which change
/// every few days, begin some weeks after January 2024 and pause in that autumn.
market::MarketPtr marketOf(std::vector<market::InstrumentRecord> records,
                           const std::string& benchmark = "");
inline constexpr const char* otherCurrency = "dn";

/// Twenty stocks over 320 sessions (or more) with gaps, splits, dividends, late listings, a
/// delisting, renamings, two exchanges, an index, restated quarters, and estimates, owners, counts
/// of shares, reports, opinions and news that change over the first 420 sessions. Every fifth is in
/// `otherCurrency`.
std::vector<market::InstrumentRecord> eventfulRecords(int sessions = 320);

/// The same market with everything after a day cut off, as its files would have been that evening.
market::MarketPtr cutAfter(std::vector<market::InstrumentRecord> records, Day last,
                           const std::string& benchmark = "");

/// The same market, where every second instrument has seven minute bars on each Wednesday and
/// Friday: made of the daily bars alone, so that what cuts these cuts them too.
market::MarketPtr withMinutes(const market::MarketPtr& market);

/// The same as cutAfter(), but `last` is a session that still runs: its bars are live ones.
market::MarketPtr liveOn(const std::vector<market::InstrumentRecord>& records, Day last,
                         const std::string& benchmark = "");

/// A field such as a person makes.
language::Field ownField(const std::string& name, const std::string& formula);

} // namespace sieve::test
