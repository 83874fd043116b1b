#pragma once

#include "core/conditions/groups.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace sieve::conditions {

/// A share or an industry in the picture of the market.
struct MosaicPart {
    std::string name;                 ///< a symbol or an industry
    std::optional<std::size_t> share; ///< the instrument
    std::optional<std::size_t> group; ///< of an industry: its place among the groups
    double size = 0.0;                ///< capitalization on the day, in the market's currency
    double change = missing;          ///< over the span
    std::size_t shares = 1;
};

/// A sector, or an industry of the sector that is looked into.
struct MosaicColumn {
    std::string name;
    std::optional<std::size_t> group;
    double size = 0.0;
    double change = missing;
    std::vector<MosaicPart> parts; ///< by change, the most first; those without one last
};

/// Sizes and changes on one day. The change of several shares is that of their capitalization at
/// the span's begin, those without a change left out.
struct Mosaic {
    Day day = Day::fromSerial(0);
    std::size_t span = 0;
    std::vector<MosaicColumn> columns; ///< the largest first
    bool isBySize = true;              ///< no: no capitalization is known, and all count the same
    std::size_t unsized = 0;           ///< shares left out because theirs is not known
};

/// The whole market (`sector` empty: sectors and industries) or one sector (industries and shares).
/// Requires: span >= 1. Errors: Stopped.
Mosaic marketMosaic(engine::Evaluator& evaluator, const Groups& groups,
                    std::optional<std::size_t> sector, Day day, std::size_t span,
                    const Progress& progress = {});
/// Some shares, such as a list: sectors and shares.
Mosaic sharesMosaic(engine::Evaluator& evaluator, std::span<const std::size_t> shares, Day day,
                    std::size_t span, const Progress& progress = {});

/// The change at which a part bears the full colour: that which nine of ten parts stay below, so
/// that outliers do not pale the rest; a whole percentage, at least 1 %.
double fullChange(const Mosaic& mosaic);
/// How strongly a change is coloured, 0 to 1.
double colourStrength(double change, double fullChange);

/// Where a part lies, in shares of the picture's width and height, from its upper left corner.
struct MosaicCell {
    std::size_t column = 0;
    std::optional<std::size_t> part; ///< nothing: the parts too small to be drawn, together
    std::size_t together = 1;        ///< how many parts it stands for
    double x = 0.0;
    double y = 0.0;
    double width = 0.0;
    double height = 0.0;
};

/// Columns as wide as they are large, cut into parts as high as they are large, in their order.
/// Parts lower than `leastHeight` lie together at the foot of their column. All areas together fill
/// the picture; a part's area is its size but for the rounding of that rule.
std::vector<MosaicCell> layOut(const Mosaic& mosaic, double leastHeight);

} // namespace sieve::conditions
