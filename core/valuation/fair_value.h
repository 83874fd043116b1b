#pragma once

#include <array>
#include <cstddef>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::valuation {

// What a share is worth by what it has per share times a multiple. All of it is fields of the
// dictionary, whose formulas say how; here stands how they belong together.

/// What a share earns, pays or sells, by the fields that tell it.
struct Driver {
    std::string_view title;    ///< "Earnings"
    std::string_view last;     ///< per share, four quarters
    std::string_view growth;   ///< a year, over five years
    std::string_view trend;    ///< per share of the next year, by that growth
    std::string_view expected; ///< per share of the next year, by analysts; a field, or no_data
    std::string_view multiple; ///< price over `last`
    std::string_view usual;    ///< its mean over five years
    std::string_view name;     ///< in the names of the values' fields
    bool isValued = true; ///< it comes to the holder, so that the price may be discounted from it
};
inline constexpr std::array drivers{
    Driver{"Earnings", "eps_ttm", "eps_growth_5_years", "next_earnings_by_trend",
           "next_earnings_expected", "price_to_earnings", "price_to_earnings_usual", "earnings"},
    Driver{"Dividends", "dividends_per_share_ttm", "dividend_growth_5_years",
           "next_dividends_by_trend", "next_dividends_expected", "price_to_dividends",
           "price_to_dividends_usual", "dividends"},
    Driver{"Operating cash flow", "cash_flow_per_share", "cash_flow_per_share_growth_5_years",
           "next_cash_flow_by_trend", "no_data", "price_to_cash_flow", "price_to_cash_flow_usual",
           "cash_flow", false},
    Driver{"Free cash flow", "free_cash_flow_per_share", "free_cash_flow_per_share_growth_5_years",
           "next_free_cash_flow_by_trend", "no_data", "price_to_free_cash_flow",
           "price_to_free_cash_flow_usual", "free_cash_flow"},
    Driver{"Sales", "sales_per_share", "sales_per_share_growth_5_years", "next_sales_by_trend",
           "next_sales_expected", "price_to_sales", "price_to_sales_usual", "sales", false},
};

/// Of which year what a share has is taken.
enum class Basis { Last, Trend, Expected };

/// One worth of a share: `perShare` times `multiple`.
struct FairValue {
    std::size_t driver = 0; ///< its place among the drivers
    Basis basis = Basis::Last;
    bool isUsual = true;  ///< at the usual multiple, not today's
    std::string field;    ///< of the dictionary: "fair_earnings_last_usual"
    std::string perShare; ///< the fields that are multiplied
    std::string multiple;
    std::string title; ///< within its driver: "next year by trend, usual multiple"
};

/// All there are, driver by driver. What the last year gives at today's multiple is the price and
/// left out; nobody is known to expect cash flows.
std::vector<FairValue> fairValues();

} // namespace sieve::valuation
