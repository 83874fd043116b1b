#include "core/indicators/regression.h"

#include "core/base/require.h"
#include "core/indicators/lanes.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace sieve::indicators {

namespace {

/// Sums of products of distances from the means of one window.
struct Moments {
    double meanX = 0; ///< above the window's first
    double meanY = 0;
    double xx = 0;
    double yy = 0;
    double xy = 0;
};

SIEVE_INLINE double meanAboveFirst(const double* values, std::size_t count)
{
    return sumOf(count, [&](std::size_t i) { return values[i] - values[0]; }) /
           static_cast<double>(count);
}

/// Fills in what the window `y` adds to what is known of `x`.
SIEVE_INLINE void addY(Moments& moments, const double* x, const double* y, std::size_t count)
{
    moments.meanY = meanAboveFirst(y, count);
    const auto apartX = [&](std::size_t i) { return x[i] - x[0] - moments.meanX; };
    const auto apartY = [&](std::size_t i) { return y[i] - y[0] - moments.meanY; };
    moments.yy = sumOf(count, [&](std::size_t i) { return apartY(i) * apartY(i); });
    moments.xy = sumOf(count, [&](std::size_t i) { return apartX(i) * apartY(i); });
}

SIEVE_INLINE Moments ofX(const double* x, std::size_t count)
{
    Moments moments;
    moments.meanX = meanAboveFirst(x, count);
    moments.xx = sumOf(count, [&](std::size_t i) {
        return (x[i] - x[0] - moments.meanX) * (x[i] - x[0] - moments.meanX);
    });
    return moments;
}

/// Says that bars before the first whole window have none; the others' windows begin at the
/// columns' first value, one after another. The number of those bars.
SIEVE_INLINE std::size_t leaveOutBare(Values values, int period, Span span, Out out)
{
    require(period >= 2, "regression: period below 2");
    requireWindow(values, period, span, out);
    const auto length = static_cast<std::size_t>(period);
    const std::size_t bare = std::min(out.size(), length - std::min(length, span.from + 1));
    std::fill_n(out.data(), bare, missing);
    return bare;
}

/// The first value of the first whole window.
SIEVE_INLINE const double* firstWindow(Values values, int period, Out out, std::size_t bare)
{
    return values.data() +
           (values.size() - out.size() + bare + 1 - static_cast<std::size_t>(period));
}

/// On the numbers of the bars, which are the same in each window.
template <class Of> SIEVE_INLINE void onBars(Values values, int period, Span span, Out out, Of of)
{
    const std::size_t bare = leaveOutBare(values, period, span, out);
    if (bare == out.size())
        return;
    const auto length = static_cast<std::size_t>(period);
    static thread_local std::vector<double> numbers;
    for (std::size_t i = numbers.size(); i < length; ++i)
        numbers.push_back(static_cast<double>(i));
    const Moments ofNumbers = ofX(numbers.data(), length);
    const double* const x = numbers.data();
    const double* const first = firstWindow(values, period, out, bare);
    for (std::size_t i = 0; bare + i < out.size(); ++i) {
        Moments moments = ofNumbers;
        addY(moments, x, first + i, length);
        out[bare + i] = of(moments, first[i]);
    }
}

template <class Of>
SIEVE_INLINE void onOthers(Values values, Values others, int period, Span span, Out out, Of of)
{
    require(values.size() == others.size(), "regression: sizes differ");
    const std::size_t bare = leaveOutBare(values, period, span, out);
    if (bare == out.size())
        return;
    const auto length = static_cast<std::size_t>(period);
    const double* const y = firstWindow(values, period, out, bare);
    const double* const x = firstWindow(others, period, out, bare);
    for (std::size_t i = 0; bare + i < out.size(); ++i) {
        Moments moments = ofX(x + i, length);
        addY(moments, x + i, y + i, length);
        out[bare + i] = of(moments);
    }
}

SIEVE_INLINE double fraction(double above, double below)
{
    return below == 0.0 ? missing : above / below;
}

} // namespace

SIEVE_WIDE void regressionSlope(Values values, int period, Span span, Out slope)
{
    onBars(values, period, span, slope, [](const Moments& m, double) { return m.xy / m.xx; });
}

SIEVE_WIDE void regressionValue(Values values, int period, Span span, Out value)
{
    const double last = period - 1.0;
    onBars(values, period, span, value, [last](const Moments& m, double first) {
        return first + m.meanY + m.xy / m.xx * (last - m.meanX);
    });
}

SIEVE_WIDE void regressionFit(Values values, int period, Span span, Out fit)
{
    onBars(values, period, span, fit,
           [](const Moments& m, double) { return fraction(m.xy * m.xy, m.xx * m.yy); });
}

SIEVE_WIDE void correlation(Values values, Values others, int period, Span span, Out out)
{
    onOthers(values, others, period, span, out,
             [](const Moments& m) { return fraction(m.xy, std::sqrt(m.xx) * std::sqrt(m.yy)); });
}

SIEVE_WIDE void slopeOn(Values values, Values others, int period, Span span, Out out)
{
    onOthers(values, others, period, span, out,
             [](const Moments& m) { return fraction(m.xy, m.xx); });
}

} // namespace sieve::indicators
