#include "core/indicators/looking_back.h"

#include "core/base/require.h"

#include <optional>

namespace sieve::indicators {

namespace {

/// The newest bar before `end` for which `is` holds, as a place in the column.
template <class Is> std::optional<std::size_t> newestBefore(Values column, std::size_t end, Is is)
{
    while (end-- > 0)
        if (is(column[end]))
            return end;
    return std::nullopt;
}

bool isYes(double condition)
{
    return condition == 1.0;
}

/// Walks the bars with the newest place at which `is` held; `of(place, now)` gives the value.
template <class Is, class Of> Enough walk(Values condition, Span span, Out out, Is is, Of of)
{
    const std::size_t lead = span.from - span.firstBar;
    require(condition.size() == lead + out.size(), "looking back: sizes differ");
    std::optional<std::size_t> newest = newestBefore(condition, lead, is);
    for (std::size_t i = 0; i < out.size(); ++i) {
        if (is(condition[lead + i]))
            newest = lead + i;
        if (!newest && span.firstBar > 0)
            return false;
        out[i] = of(newest, lead + i);
    }
    return true;
}

} // namespace

Enough barsSince(Values condition, Span span, Out bars)
{
    return walk(condition, span, bars, isYes,
                [](std::optional<std::size_t> newest, std::size_t now) {
                    return newest ? static_cast<double>(now - *newest) : missing;
                });
}

Enough streak(Values condition, Span span, Out bars)
{
    return walk(
        condition, span, bars, [](double each) { return each != 1.0; },
        [&](std::optional<std::size_t> broken, std::size_t now) {
            if (isMissing(condition[now]))
                return missing;
            return static_cast<double>(broken ? now - *broken : now + 1);
        });
}

Enough valueWhen(Values condition, Values values, Span span, Out out)
{
    require(condition.size() == values.size(), "looking back: sizes differ");
    return walk(condition, span, out, isYes, [&](std::optional<std::size_t> newest, std::size_t) {
        return newest ? values[*newest] : missing;
    });
}

} // namespace sieve::indicators
