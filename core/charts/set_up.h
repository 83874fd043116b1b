#pragma once

#include "core/base/palette_part.h"
#include "core/base/result.h"
#include "core/charts/bar_scale.h"
#include "core/charts/value_axis.h"
#include "core/language/renaming.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::charts {

/// How bars are drawn.
enum class BarForm {
    Candles,
    Bars, ///< strokes with a tick for open and close
    Line,
    Filled, ///< the line of closes with the area below it
};

/// How a layer is drawn.
enum class LayerForm {
    Line,
    Band,    ///< the area between two figures
    Columns, ///< from 0
    Dots,
    Steps,  ///< held until the next change
    Ribbon, ///< of a condition: a strip at the foot of the pane where it holds
    Marks,  ///< of a condition: a mark on each bar on which it begins to hold
    Trades, ///< of two conditions: from the close at which a rule enters to that at which it leaves
    States, ///< a strip by the sign of the figure: above 0, at 0, below; several share their pane
};

/// Whether a layer of that form shows a condition, not a figure.
constexpr bool isOfCondition(LayerForm form)
{
    return form == LayerForm::Ribbon || form == LayerForm::Marks || form == LayerForm::Trades;
}
/// Whether a layer of that form has two expressions.
constexpr bool isOfTwo(LayerForm form)
{
    return form == LayerForm::Band || form == LayerForm::Trades;
}

/// What is marked on the bar on which it happened.
enum class MarkKind {
    Report,
    Dividend,
    Split,
    News,
    Rating,
    Entry, ///< onto a list of the person's, or off it
    Gap,
    Island,
    Inside,  ///< a bar within the one before
    Outside, ///< a bar around the one before
    Swing,
    Trade,      ///< a rule of a layer enters or leaves; no set-up asks for it by name
    Divergence, ///< of the prices and the first line of a pane below
    Match,      ///< of a layer's condition; no set-up asks for it by name
};

std::string_view barScaleName(BarScale scale);     ///< "day", … as files write them
std::string_view valueScaleName(ValueScale scale); ///< "linear", …
std::string_view barFormName(BarForm form);        ///< "candles", …
std::string_view layerFormName(LayerForm form);    ///< "line", …
std::string_view markKindName(MarkKind kind);      ///< "report", …

/// One thing that is drawn in a pane: an expression of the language and how it looks.
struct LayerSetUp {
    std::string show;    ///< the expression
    std::string to = {}; ///< of a band: the other edge; of trades: when the rule leaves
    LayerForm form = LayerForm::Line;
    PalettePart colour = PalettePart::Mark;
    double width = 1.3;      ///< of a line, in pixels
    bool isByChange = false; ///< columns in the colour of the bar's rise or fall
    bool isCompared = false; ///< drawn from the first close in sight on, as if it had begun there
    bool hasScaleAtLeft = false; ///< a scale of its own, of figures of another size

    friend bool operator==(const LayerSetUp&, const LayerSetUp&) = default;
};

struct PaneSetUp {
    double height = 1.0; ///< in shares of all panes
    bool beginsAtZero = false;
    std::vector<LayerSetUp> layers = {};

    friend bool operator==(const PaneSetUp&, const PaneSetUp&) = default;
};

/// What a chart shows, whatever instrument it is put to. The first pane has the prices.
struct SetUp {
    std::string name;
    BarScale scale = BarScale::Day;
    int minutes = 5; ///< a bar, where the scale is minutes
    BarForm form = BarForm::Candles;
    ValueScale values = ValueScale::Linear; ///< of the first pane
    std::vector<MarkKind> marks{MarkKind::Report, MarkKind::Dividend, MarkKind::Split,
                                MarkKind::Entry};
    std::vector<PaneSetUp> panes{PaneSetUp{}};

    friend bool operator==(const SetUp&, const SetUp&) = default;
};

/// The most panes and layers of a chart; more cannot be read.
inline constexpr std::size_t mostPanes = 12;
inline constexpr std::size_t mostLayers = 40;
/// The most minutes of a bar: those of a session and more.
inline constexpr int mostMinutes = 390;

/// A set-up as TOML, and read from it again.
/// Errors: located in the text: no TOML, a key or word that is not known, no pane, more panes or
///         layers than can be shown, a height or width that is none.
std::string toToml(const SetUp& setUp);
Result<SetUp> setUpFromToml(std::string_view text);

/// A person's set-ups, each with [[set_up]], and read from it again. Errors: the same.
std::string toToml(std::span<const SetUp> setUps);
Result<std::vector<SetUp>> setUpsFromToml(std::string_view text);

/// The set-up with the new name of a field, screen or list in all its layers.
SetUp withRenamed(SetUp setUp, const language::Renaming& renaming);

/// Whether a layer asks for what the person draws, and so changes with it.
bool asksForDrawings(const SetUp& setUp);

/// Layers that the program brings, to be added to any set-up.
struct ReadyLayers {
    std::string name;
    std::string meaning;
    bool isOverPrices = false; ///< else they have a pane of their own
    PaneSetUp pane;            ///< its layers; the rest is that of a pane of its own
};
const std::vector<ReadyLayers>& readyLayers(); ///< in the order in which they are offered
/// A ready set-up that is changed is a person's own, and says so in its name.
void makeOwn(SetUp& setUp);
/// The set-up with them: over the prices, or in a pane below the others.
/// Missing: empty where they are more than can be shown.
std::optional<SetUp> withLayers(SetUp setUp, const ReadyLayers& layers);

/// The set-ups that the program brings, by name.
const std::vector<SetUp>& readySetUps();
/// The one that a place begins with, and that of a wall.
const SetUp& standardSetUp();
const SetUp& wallSetUp();

} // namespace sieve::charts
