#include "core/screens/distribution.h"

#include "core/base/missing.h"

#include <algorithm>
#include <cmath>

namespace sieve::screens {

namespace {

/// The figure below which so large a share of some lies, in its place among them: none before it is
/// more, none behind it less.
class Quantile {
public:
    Quantile(std::vector<double>& figures, double share)
        : Quantile(figures, share, 0, figures.size())
    {
    }
    Quantile lower(double share) const { return {*figures_, share, 0, place_, *this}; }
    Quantile higher(double share) const
    {
        return {*figures_, share, place_ + 1, figures_->size(), *this};
    }
    double figure() const { return figure_; }

private:
    Quantile(std::vector<double>& figures, double share, std::size_t from, std::size_t to)
        : figures_(&figures),
          place_(static_cast<std::size_t>(share * static_cast<double>(figures.size() - 1)))
    {
        if (place_ < from || place_ >= to)
            return;
        const auto at = [&figures](std::size_t place) {
            return figures.begin() + static_cast<std::ptrdiff_t>(place);
        };
        std::nth_element(at(from), at(place_), at(to));
        figure_ = figures[place_];
    }
    /// Of few figures it may have the place of `other`, next to which it was sought.
    Quantile(std::vector<double>& figures, double share, std::size_t from, std::size_t to,
             const Quantile& other)
        : Quantile(figures, share, from, to)
    {
        if (place_ == other.place_)
            figure_ = other.figure_;
    }

    std::vector<double>* figures_;
    std::size_t place_ = 0;
    double figure_ = missing;
};

} // namespace

double roundStep(double width)
{
    if (!(width > 0.0) || !std::isfinite(width))
        return missing;
    const double power = std::pow(10.0, std::floor(std::log10(width)));
    for (const double digit : {5.0, 2.0})
        if (digit * power <= width)
            return digit * power;
    return power;
}

double Distribution::stepAt(double figure, double share) const
{
    return roundStep(isLogarithmic ? std::fabs(figure) * (std::pow(high / low, share) - 1.0)
                                   : (high - low) * share);
}

double Distribution::placeOf(double figure) const
{
    if (high == low)
        return 0.5;
    if (!isLogarithmic)
        return (figure - low) / (high - low);
    return figure > 0.0 ? std::log(figure / low) / std::log(high / low) : 0.0;
}

double Distribution::figureAt(double place) const
{
    return isLogarithmic ? low * std::pow(high / low, place) : low + place * (high - low);
}

Distribution distributionOf(std::span<const double> figures, std::size_t bars)
{
    Distribution spread;
    std::vector<double> known;
    known.reserve(figures.size());
    for (const double figure : figures)
        if (!isMissing(figure))
            known.push_back(figure);
    spread.noData = figures.size() - known.size();
    if (known.empty() || bars == 0)
        return spread;
    const Quantile tenth(known, 0.1);
    const Quantile ninetieth = tenth.higher(0.9);
    spread.low = tenth.lower(0.01).figure();
    spread.high = ninetieth.higher(0.99).figure();
    spread.isLogarithmic = spread.low > 0.0 && ninetieth.figure() > 30.0 * tenth.figure();
    spread.counts.assign(bars, 0);
    const double logOfLow = spread.isLogarithmic ? std::log(spread.low) : 0.0;
    const double width =
        spread.isLogarithmic ? std::log(spread.high) - logOfLow : spread.high - spread.low;
    const auto placeOf = [&](double figure) {
        return (spread.isLogarithmic ? std::log(figure) - logOfLow : figure - spread.low) / width;
    };
    for (const double figure : known) {
        if (figure < spread.low || figure > spread.high) {
            ++(figure < spread.low ? spread.below : spread.above);
            continue;
        }
        const auto bar = width > 0.0
                             ? static_cast<std::size_t>(placeOf(figure) * static_cast<double>(bars))
                             : bars / 2;
        ++spread.counts[std::min(bar, bars - 1)];
    }
    return spread;
}

} // namespace sieve::screens
