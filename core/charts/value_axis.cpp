#include "core/charts/value_axis.h"

#include "core/base/missing.h"
#include "core/charts/ticks.h"

#include <algorithm>
#include <cmath>

namespace sieve::charts {

namespace {

constexpr double roomShare = 0.06; ///< of the height, above and below what is drawn

/// The least of 1, 2, 2.5 or 5 times a power of ten that is at least `width`.
double roundStepUp(double width)
{
    const double power = std::pow(10.0, std::floor(std::log10(width)));
    for (const double digit : {1.0, 2.0, 2.5, 5.0})
        if (digit * power >= width * (1.0 - 1e-9))
            return digit * power;
    return 10.0 * power;
}

} // namespace

ValueAxis::ValueAxis(ValueScale scale, double least, double most, bool beginsAtZero, double base)
    : scale_(scale), base_(base)
{
    if (isMissing(least) || isMissing(most))
        least = most = 0.0;
    if (scale_ == ValueScale::Logarithmic && (least <= 0.0 || beginsAtZero))
        scale_ = ValueScale::Linear;
    if (scale_ == ValueScale::Percent && !(base_ > 0.0))
        scale_ = ValueScale::Linear;
    if (scale_ == ValueScale::Logarithmic) {
        const double room = std::max(std::pow(most / least, roomShare), 1.01);
        low_ = least / room;
        high_ = most * room;
        return;
    }
    if (beginsAtZero) {
        least = std::min(least, 0.0);
        most = std::max(most, 0.0);
    }
    const double alone = most == 0.0 ? 1.0 : std::fabs(most) * 0.05; // of one value
    const double room = most > least ? (most - least) * roomShare : alone;
    low_ = beginsAtZero && least == 0.0 ? 0.0 : least - room;
    high_ = beginsAtZero && most == 0.0 && least < 0.0 ? 0.0 : most + room;
}

double ValueAxis::place(double value) const
{
    if (scale_ != ValueScale::Logarithmic)
        return (value - low_) / (high_ - low_);
    return value > 0.0 ? std::log(value / low_) / std::log(high_ / low_) : missing;
}

double ValueAxis::valueAt(double place) const
{
    return scale_ == ValueScale::Logarithmic ? low_ * std::pow(high_ / low_, place)
                                             : low_ + place * (high_ - low_);
}

double ValueAxis::stepFor(int about) const
{
    const double unit = scale_ == ValueScale::Percent ? base_ : 1.0;
    return roundStepUp((high_ - low_) / unit / std::max(about, 1)) * unit;
}

std::vector<ValueAxis::Tick> ValueAxis::ticks(int about) const
{
    std::vector<Tick> ticks;
    const double from = scale_ == ValueScale::Percent ? base_ : 0.0;
    const auto add = [&](double value) {
        ticks.push_back({value, from > 0.0 ? value / from - 1.0 : value});
    };
    // Over several octaves equal steps crowd at the top: 1, 2 and 5 of each power of ten.
    if (scale_ == ValueScale::Logarithmic && high_ / low_ > 6.0) {
        for (double power = std::pow(10.0, std::floor(std::log10(low_))); power <= high_;
             power *= 10.0)
            for (const double digit : {1.0, 2.0, 5.0})
                if (digit * power >= low_ && digit * power <= high_)
                    add(digit * power);
        return ticks;
    }
    const double step = stepFor(about);
    for (double at = std::ceil((low_ - from) / step); from + at * step <= high_; at += 1.0)
        add(from + at * step);
    return ticks;
}

int ValueAxis::decimals(int about) const
{
    if (scale_ == ValueScale::Percent)
        return decimalsFor(stepFor(about) / base_ * 100.0);
    if (scale_ == ValueScale::Logarithmic && high_ / low_ > 6.0)
        return decimalsFor(std::pow(10.0, std::floor(std::log10(low_))));
    return decimalsFor(stepFor(about));
}

} // namespace sieve::charts
