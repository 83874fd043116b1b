#include "core/indicators/regression.h"

#include "core/base/require.h"
#include "core/indicators/lanes.h"

#include <cmath>

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

template <class X> Moments momentsOf(std::size_t count, X x, Values y)
{
    Moments moments;
    const auto n = static_cast<double>(count);
    moments.meanX = sumOf(count, [&](std::size_t i) { return x(i) - x(0); }) / n;
    moments.meanY = sumOf(count, [&](std::size_t i) { return y[i] - y[0]; }) / n;
    const auto apartX = [&](std::size_t i) { return x(i) - x(0) - moments.meanX; };
    const auto apartY = [&](std::size_t i) { return y[i] - y[0] - moments.meanY; };
    moments.xx = sumOf(count, [&](std::size_t i) { return apartX(i) * apartX(i); });
    moments.yy = sumOf(count, [&](std::size_t i) { return apartY(i) * apartY(i); });
    moments.xy = sumOf(count, [&](std::size_t i) { return apartX(i) * apartY(i); });
    return moments;
}

template <class Of> void eachWindow(std::size_t size, int period, Span span, Out out, Of of)
{
    require(period >= 2, "regression: period below 2");
    require(size == span.from - span.firstBar + out.size(), "regression: sizes differ");
    const auto length = static_cast<std::size_t>(period);
    for (std::size_t bar = span.from; bar < span.from + out.size(); ++bar) {
        if (bar + 1 < length) {
            out[bar - span.from] = missing;
            continue;
        }
        require(bar + 1 - length >= span.firstBar, "regression: bars are missing before the first");
        out[bar - span.from] = of(bar + 1 - length - span.firstBar, length);
    }
}

template <class Of> void onBars(Values values, int period, Span span, Out out, Of of)
{
    eachWindow(values.size(), period, span, out, [&](std::size_t first, std::size_t count) {
        const Values window = values.subspan(first, count);
        return of(momentsOf(
                      count, [](std::size_t i) { return static_cast<double>(i); }, window),
                  window);
    });
}

template <class Of>
void onOthers(Values values, Values others, int period, Span span, Out out, Of of)
{
    require(values.size() == others.size(), "regression: sizes differ");
    eachWindow(values.size(), period, span, out, [&](std::size_t first, std::size_t count) {
        const Values x = others.subspan(first, count);
        return of(momentsOf(
            count, [x](std::size_t i) { return x[i]; }, values.subspan(first, count)));
    });
}

double fraction(double above, double below)
{
    return below == 0.0 ? missing : above / below;
}

} // namespace

void regressionSlope(Values values, int period, Span span, Out slope)
{
    onBars(values, period, span, slope, [](const Moments& m, Values) { return m.xy / m.xx; });
}

void regressionValue(Values values, int period, Span span, Out value)
{
    onBars(values, period, span, value, [](const Moments& m, Values window) {
        const double last = static_cast<double>(window.size() - 1);
        return window[0] + m.meanY + m.xy / m.xx * (last - m.meanX);
    });
}

void regressionFit(Values values, int period, Span span, Out fit)
{
    onBars(values, period, span, fit,
           [](const Moments& m, Values) { return fraction(m.xy * m.xy, m.xx * m.yy); });
}

void correlation(Values values, Values others, int period, Span span, Out out)
{
    onOthers(values, others, period, span, out,
             [](const Moments& m) { return fraction(m.xy, std::sqrt(m.xx) * std::sqrt(m.yy)); });
}

void slopeOn(Values values, Values others, int period, Span span, Out out)
{
    onOthers(values, others, period, span, out,
             [](const Moments& m) { return fraction(m.xy, m.xx); });
}

} // namespace sieve::indicators
