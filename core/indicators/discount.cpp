#include "core/indicators/discount.h"

#include "core/base/missing.h"

#include <algorithm>
#include <cmath>

namespace sieve::indicators {

namespace {

struct Model {
    int years;
    double after; ///< worth of all that follows the last year, in units of that year

    /// The multiple, and how fast it rises with q.
    struct Worth {
        double multiple;
        double slope;
    };
    Worth at(double q) const
    {
        double multiple = 0.0;
        double slope = 0.0;
        double power = 1.0; // q ^ (year - 1)
        for (int year = 1; year <= years; ++year) {
            slope += year * power;
            power *= q;
            multiple += power;
        }
        return {multiple + after * power, slope + after * years * power / q};
    }
};

bool isSound(double years, double discount, double lasting)
{
    return years >= 1.0 && years < 101.0 && lasting > -1.0 && discount > lasting &&
           std::isfinite(discount);
}

Model modelOf(double years, double discount, double lasting)
{
    return {static_cast<int>(years), (1.0 + lasting) / (discount - lasting)};
}

} // namespace

double impliedGrowth(double multiple, double years, double discount, double lasting)
{
    if (!(multiple > 0.0) || !std::isfinite(multiple) || !isSound(years, discount, lasting))
        return missing;
    const Model model = modelOf(years, discount, lasting);
    // The multiple is convex and rises with q: Newton's steps from above come down to the root.
    double q = std::min(multiple, std::pow(multiple / model.after, 1.0 / model.years));
    constexpr int most = 200;
    for (int step = 0; step < most; ++step) {
        const Model::Worth worth = model.at(q);
        const double next = q - (worth.multiple - multiple) / worth.slope;
        if (!(next > 0.0) || !(next < q))
            break;
        q = next;
    }
    const double growth = q * (1.0 + discount) - 1.0;
    return std::isfinite(growth) ? growth : missing;
}

} // namespace sieve::indicators
