#pragma once

// What a person draws on the prices of a stock:
//   drawing.h    what was drawn, by days and prices   stock.h      whose it is, on which footing
//   time_line.h  where days lie among bars            drawn.h      lines, values and words of it
//   hand.h       how one is drawn, point by point     snap.h       prices that are meant
// The library keeps drawings (core/library); a chart shows them (core/charts).

#include "core/base/day.h"
#include "core/base/palette_part.h"
#include "core/base/result.h"

#include <cstdint>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::drawings {

/// What can be drawn. Shares say where across a drawing a price lies; see Drawn::value().
enum class Tool {
    Line,
    Ray,
    Level,
    Channel,
    Retracement,
    Extension,
    MeasuredMove,
    Box,
    Note,
    Arrow,
    Average,
    Regression,
    Swings,
};

/// What there is to say of a tool. To add one: its name above, a row in drawing.cpp, and how it is
/// drawn in drawn.cpp.
struct ToolRow {
    Tool tool = Tool::Line;
    std::string_view word;  ///< as files write it
    std::string_view title; ///< English, as shown
    char letter = ' ';      ///< by which it is chosen
    std::size_t fewest = 1; ///< points
    std::size_t most = 1;
    std::string_view help; ///< which points it asks for, in order
};
std::span<const ToolRow> toolRows(); ///< in the order of Tool
const ToolRow& rowOf(Tool tool);

struct Anchor {
    Day day = Day::fromSerial(0);
    double price = 0.0;
    /// Set on bars of minutes: where in the session, from -0.5 at its begin to 0.5 at its end.
    double inDay = 0.0;

    friend bool operator==(const Anchor&, const Anchor&) = default;
};

struct Drawing {
    std::int64_t id = 0; ///< of the library
    Tool tool = Tool::Line;
    std::string symbol;               ///< that the stock bore on `drawnOn`
    Day drawnOn = Day::fromSerial(0); ///< the as-of day on which its points were set; prices are on
                                      ///< the footing of that day
    std::vector<Anchor> anchors;
    bool isLogarithmic = false; ///< equal steps along a line are equal shares
    std::string name = {};      ///< by which expressions ask for it; may be empty
    std::string text = {};      ///< of a note or an arrow
    PalettePart colour = PalettePart::Ink;
    double width = 1.0; ///< in pixels
    bool isLocked = false;
    bool isHidden = false;

    friend bool operator==(const Drawing&, const Drawing&) = default;
};

/// A drawing as TOML, for the clipboard and other stocks, and read from it again; without its id.
/// Errors: located in the text: no TOML, a key or word that is not known, no day, a price or width
///         that is none, points more or fewer than the tool has.
std::string toToml(const Drawing& drawing);
Result<Drawing> drawingFromToml(std::string_view text);

} // namespace sieve::drawings
