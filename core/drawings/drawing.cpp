#include "core/drawings/drawing.h"

#include "core/base/toml_table.h"

#include <array>
#include <cmath>
#include <fmt/format.h>
#include <optional>

namespace sieve::drawings {

namespace {

constexpr std::array rows{
    ToolRow{Tool::Line, "line", "Line", 'L', 2, 2, "from a point to another"},
    ToolRow{Tool::Ray, "ray", "Ray", 'R', 2, 2, "from a point through another, and on"},
    ToolRow{Tool::Level, "level", "Level", 'V', 1, 1, "a price"},
    ToolRow{Tool::Channel, "channel", "Channel", 'C', 3, 3,
            "two points of one side, then one of the other"},
    ToolRow{Tool::Retracement, "retracement", "Retracement", 'T', 2, 2,
            "where a move began, and where it ended"},
    ToolRow{Tool::Extension, "extension", "Extension", 'E', 3, 3,
            "where a move began and ended, and where the next one begins"},
    ToolRow{Tool::MeasuredMove, "measured_move", "Measured move", 'M', 3, 3,
            "where a move began and ended, and from where it may come again"},
    ToolRow{Tool::Box, "box", "Box", 'B', 2, 2, "two corners"},
    ToolRow{Tool::Note, "note", "Note", 'N', 1, 1, "where it stands; then write"},
    ToolRow{Tool::Arrow, "arrow", "Arrow", 'A', 2, 2, "from a point to what is meant"},
    ToolRow{Tool::Average, "average", "Average since a day", 'D', 1, 1, "the first day"},
    ToolRow{Tool::Regression, "regression", "Regression channel", 'G', 2, 2,
            "the first day and the last"},
    ToolRow{Tool::Swings, "swings", "Counted swings", 'S', 2, 9,
            "each turn, at most eight after the first; Return ends"},
};

std::optional<Tool> toolNamed(std::string_view word)
{
    const auto row = std::ranges::find(rows, word, &ToolRow::word);
    return row == rows.end() ? std::nullopt : std::optional(row->tool);
}

/// A number above 0, at most `most`.
double numberAt(const toml::table& table, std::string_view key, double initial, double most)
{
    const toml::node* node = table.get(key);
    const auto number = node ? node->value<double>() : std::optional(initial);
    if (!number || !(*number > 0.0) || *number > most)
        failAt(node ? node->source() : table.source(), fmt::format("'{}' is no size", key),
               fmt::format("write a number above 0, at most {}", most));
    return *number;
}

double inDayOf(const toml::table& table)
{
    const toml::node* node = table.get("in_day");
    if (!node)
        return 0.0;
    const auto share = node->value<double>();
    if (!share || !node->is_number() || !(*share >= -0.5 && *share <= 0.5))
        failAt(node->source(), "'in_day' is no place in a session",
               "write a number from -0.5, its begin, to 0.5, its end");
    return *share;
}

Drawing drawingOf(const toml::table& table)
{
    refuseOthers(table, "a drawing",
                 {"tool", "symbol", "drawn_on", "logarithmic", "name", "text", "colour", "width",
                  "locked", "hidden", "point"});
    Drawing drawing;
    const std::string word = valueOr(table, "tool", std::string());
    const auto tool = toolNamed(word);
    if (!tool)
        failAt(table.source(), fmt::format("'{}' is no tool", word), "write tool = \"level\"");
    drawing.tool = *tool;
    drawing.symbol = valueOr(table, "symbol", std::string());
    drawing.drawnOn = dayUnder(table, "drawn_on");
    drawing.isLogarithmic = valueOr(table, "logarithmic", false);
    drawing.name = valueOr(table, "name", std::string());
    drawing.text = valueOr(table, "text", std::string());
    const std::string part =
        valueOr(table, "colour", std::string(paletteParts.word(drawing.colour)));
    const auto colour = paletteParts.value(part);
    if (!colour)
        failAt(table.source(), fmt::format("'{}' is no colour", part), "write colour = \"mark\"");
    drawing.colour = *colour;
    drawing.width = numberAt(table, "width", drawing.width, 10.0);
    drawing.isLocked = valueOr(table, "locked", false);
    drawing.isHidden = valueOr(table, "hidden", false);
    for (const toml::table* point : tablesOf(table, "point")) {
        refuseOthers(*point, "a point", {"day", "price", "in_day"});
        drawing.anchors.push_back({dayUnder(*point, "day"), numberAt(*point, "price", 0.0, 1e12)});
        drawing.anchors.back().inDay = inDayOf(*point);
    }
    const ToolRow& row = rowOf(drawing.tool);
    if (drawing.anchors.size() < row.fewest || drawing.anchors.size() > row.most)
        failAt(table.source(),
               fmt::format("a drawing of {} points is no {}", drawing.anchors.size(), row.word),
               row.fewest == row.most
                   ? fmt::format("write [[point]] {} times", row.fewest)
                   : fmt::format("write [[point]] {} to {} times", row.fewest, row.most));
    return drawing;
}

} // namespace

std::span<const ToolRow> toolRows()
{
    return rows;
}

const ToolRow& rowOf(Tool tool)
{
    return rows[static_cast<std::size_t>(tool)];
}

std::string toToml(const Drawing& drawing)
{
    std::string text = fmt::format(
        "tool = \"{}\"\nsymbol = {}\ndrawn_on = \"{}\"\nlogarithmic = {}\nname = {}\ntext = {}\n"
        "colour = \"{}\"\nwidth = {}\nlocked = {}\nhidden = {}\n",
        rowOf(drawing.tool).word, quotedToml(drawing.symbol), drawing.drawnOn.iso(),
        drawing.isLogarithmic, quotedToml(drawing.name), quotedToml(drawing.text),
        paletteParts.word(drawing.colour), drawing.width, drawing.isLocked, drawing.isHidden);
    for (const Anchor& anchor : drawing.anchors) {
        text +=
            fmt::format("\n[[point]]\nday = \"{}\"\nprice = {}\n", anchor.day.iso(), anchor.price);
        if (anchor.inDay != 0.0)
            text += fmt::format("in_day = {}\n", anchor.inDay);
    }
    return text;
}

Result<Drawing> drawingFromToml(std::string_view text)
{
    return readToml(text, "write TOML: tool = \"level\", then [[point]]", drawingOf);
}

} // namespace sieve::drawings
