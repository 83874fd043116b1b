#include "core/base/kind.h"

namespace sieve {

std::string_view kindName(Kind kind)
{
    switch (kind) {
    case Kind::Number:
        return "number";
    case Kind::YesNo:
        return "yes/no";
    case Kind::Text:
        return "text";
    case Kind::Day:
        return "day";
    }
    return {};
}

std::string_view unitName(Unit unit)
{
    switch (unit) {
    case Unit::Plain:
        return "plain";
    case Unit::Money:
        return "money";
    case Unit::Percent:
        return "percent";
    case Unit::Ratio:
        return "ratio";
    case Unit::Shares:
        return "shares";
    case Unit::Days:
        return "days";
    case Unit::Points:
        return "points";
    }
    return {};
}

bool areComparable(Unit a, Unit b)
{
    const auto isFraction = [](Unit unit) { return unit == Unit::Percent || unit == Unit::Ratio; };
    return a == b || a == Unit::Plain || b == Unit::Plain || (isFraction(a) && isFraction(b));
}

int decimalsOf(Unit unit)
{
    if (unit == Unit::Shares || unit == Unit::Days)
        return 0;
    return unit == Unit::Percent || unit == Unit::Points ? 1 : 2;
}

} // namespace sieve
