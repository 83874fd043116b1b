#pragma once

#include <string_view>

namespace sieve {

/// What a value of the language is. Every value travels as a double: yes is 1 and no is 0, a text
/// is its number in the market's table of texts, a day its serial number; missing is NaN in all
/// four.
enum class Kind { Number, YesNo, Text, Day };

/// What a number measures. Percent and ratio are both held as fractions: 0.05 is 5 %.
enum class Unit { Plain, Money, Percent, Ratio, Shares, Days, Points };

std::string_view kindName(Kind kind); ///< "number", "yes/no", "text", "day"
std::string_view unitName(Unit unit); ///< "plain", "money", … as the dictionary writes them
/// Decimals with which a figure of the unit is told where nobody says how many.
int decimalsOf(Unit unit);
/// Whether adding or comparing the two can mean anything; plain goes with everything.
bool areComparable(Unit a, Unit b);

} // namespace sieve
