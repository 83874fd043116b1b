#include "app/look/palette.h"

namespace sieve::app {

QColor Palette::wash(const QColor& colour, double strength) const
{
    const auto mix = [strength](int a, int b) {
        return static_cast<int>(a + (b - a) * strength + 0.5);
    };
    return {mix(sheet.red(), colour.red()), mix(sheet.green(), colour.green()),
            mix(sheet.blue(), colour.blue())};
}

} // namespace sieve::app
