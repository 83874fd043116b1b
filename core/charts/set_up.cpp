#include "core/charts/set_up.h"

#include "core/base/embedded_text.h"
#include "core/base/toml_table.h"

#include <array>
#include <cmath>
#include <stdexcept>

namespace sieve::charts {

std::span<const EmbeddedText> embeddedTexts();

namespace {

template <class Value> struct Word {
    Value value;
    std::string_view name;
};

constexpr std::array barForms{
    Word<BarForm>{BarForm::Candles, "candles"}, Word<BarForm>{BarForm::Bars, "bars"},
    Word<BarForm>{BarForm::Line, "line"}, Word<BarForm>{BarForm::Filled, "filled"}};
constexpr std::array layerForms{
    Word<LayerForm>{LayerForm::Line, "line"},       Word<LayerForm>{LayerForm::Band, "band"},
    Word<LayerForm>{LayerForm::Columns, "columns"}, Word<LayerForm>{LayerForm::Dots, "dots"},
    Word<LayerForm>{LayerForm::Steps, "steps"},     Word<LayerForm>{LayerForm::Ribbon, "ribbon"}};
constexpr std::array layerColours{Word<LayerColour>{LayerColour::Mark, "mark"},
                                  Word<LayerColour>{LayerColour::Caution, "caution"},
                                  Word<LayerColour>{LayerColour::Fall, "fall"},
                                  Word<LayerColour>{LayerColour::Rise, "rise"},
                                  Word<LayerColour>{LayerColour::Soft, "soft"},
                                  Word<LayerColour>{LayerColour::Ink, "ink"}};
constexpr std::array barScales{Word<BarScale>{BarScale::Day, "day"},
                               Word<BarScale>{BarScale::Week, "week"},
                               Word<BarScale>{BarScale::Month, "month"}};
constexpr std::array valueScales{Word<ValueScale>{ValueScale::Linear, "linear"},
                                 Word<ValueScale>{ValueScale::Logarithmic, "logarithmic"},
                                 Word<ValueScale>{ValueScale::Percent, "percent"}};

template <class Words, class Value> std::string_view nameIn(const Words& words, Value value)
{
    for (const auto& word : words)
        if (word.value == value)
            return word.name;
    return {};
}

/// The value of a word under a key, or the initial one where there is no such key.
template <class Words, class Value>
Value wordOr(const toml::table& table, std::string_view key, const Words& words, Value initial)
{
    const toml::node* node = table.get(key);
    if (!node)
        return initial;
    const auto name = node->value_exact<std::string>();
    std::vector<std::string_view> names;
    for (const auto& word : words) {
        if (name && *name == word.name)
            return word.value;
        names.push_back(word.name);
    }
    failAt(node->source(), fmt::format("'{}' is none of its words", key),
           fmt::format("write one of {}", fmt::join(names, ", ")));
}

/// A number above 0 and not beyond `most`, whole or not.
double sizeOr(const toml::table& table, std::string_view key, double initial, double most)
{
    const toml::node* node = table.get(key);
    if (!node)
        return initial;
    const auto size = node->value<double>();
    if (!size || !node->is_number() || !(*size > 0.0) || *size > most)
        failAt(node->source(), fmt::format("'{}' is no size", key),
               fmt::format("write a number above 0, at most {}", most));
    return *size;
}

LayerSetUp layerOf(const toml::table& table)
{
    refuseOthers(table, "a layer",
                 {"show", "to", "as", "colour", "width", "by_change", "scale_at_left"});
    LayerSetUp layer;
    layer.show = valueOr(table, "show", std::string());
    if (layer.show.empty())
        failAt(table.source(), "a layer shows nothing", "write show = \"sma(close, 50)\"");
    layer.to = valueOr(table, "to", std::string());
    layer.form = wordOr(table, "as", layerForms, layer.form);
    if ((layer.form == LayerForm::Band) == layer.to.empty())
        failAt(table.source(), "a band has two edges, and no other layer has",
               "write as = \"band\" and the other edge under 'to'");
    layer.colour = wordOr(table, "colour", layerColours, layer.colour);
    layer.width = sizeOr(table, "width", layer.width, 10.0);
    layer.isByChange = valueOr(table, "by_change", false);
    layer.hasScaleAtLeft = valueOr(table, "scale_at_left", false);
    return layer;
}

SetUp setUpOf(const toml::table& table)
{
    refuseOthers(table, "a set-up", {"name", "scale", "form", "values", "pane"});
    SetUp setUp;
    setUp.name = valueOr(table, "name", std::string());
    setUp.scale = wordOr(table, "scale", barScales, setUp.scale);
    setUp.form = wordOr(table, "form", barForms, setUp.form);
    setUp.values = wordOr(table, "values", valueScales, setUp.values);
    setUp.panes.clear();
    std::size_t layers = 0;
    for (const toml::table* each : tablesOf(table, "pane")) {
        refuseOthers(*each, "a pane", {"height", "begins_at_zero", "layer"});
        PaneSetUp& pane = setUp.panes.emplace_back();
        pane.height = sizeOr(*each, "height", pane.height, 100.0);
        pane.beginsAtZero = valueOr(*each, "begins_at_zero", false);
        for (const toml::table* layer : tablesOf(*each, "layer"))
            pane.layers.push_back(layerOf(*layer));
        layers += pane.layers.size();
    }
    if (setUp.panes.empty())
        failAt(table.source(), "a chart without a pane", "write [[pane]]");
    if (setUp.panes.size() > mostPanes || layers > mostLayers)
        failAt(table.source(),
               fmt::format("{} panes and {} layers are more than can be read", setUp.panes.size(),
                           layers),
               fmt::format("keep at most {} panes and {} layers", mostPanes, mostLayers));
    return setUp;
}

} // namespace

std::string_view barScaleName(BarScale scale)
{
    return nameIn(barScales, scale);
}

std::string_view valueScaleName(ValueScale scale)
{
    return nameIn(valueScales, scale);
}

std::string_view barFormName(BarForm form)
{
    return nameIn(barForms, form);
}

std::string_view layerFormName(LayerForm form)
{
    return nameIn(layerForms, form);
}

std::string_view layerColourName(LayerColour colour)
{
    return nameIn(layerColours, colour);
}

std::string toToml(const SetUp& setUp)
{
    std::string text = fmt::format("name = {}\nscale = \"{}\"\nform = \"{}\"\nvalues = \"{}\"\n",
                                   quotedToml(setUp.name), barScaleName(setUp.scale),
                                   barFormName(setUp.form), valueScaleName(setUp.values));
    for (const PaneSetUp& pane : setUp.panes) {
        text += fmt::format("\n[[pane]]\nheight = {}\n", pane.height);
        if (pane.beginsAtZero)
            text += "begins_at_zero = true\n";
        for (const LayerSetUp& layer : pane.layers) {
            text += fmt::format("\n[[pane.layer]]\nshow = {}\n", quotedToml(layer.show));
            if (!layer.to.empty())
                text += fmt::format("to = {}\n", quotedToml(layer.to));
            text +=
                fmt::format("as = \"{}\"\ncolour = \"{}\"\nwidth = {}\n", layerFormName(layer.form),
                            layerColourName(layer.colour), layer.width);
            if (layer.isByChange)
                text += "by_change = true\n";
            if (layer.hasScaleAtLeft)
                text += "scale_at_left = true\n";
        }
    }
    return text;
}

Result<SetUp> setUpFromToml(std::string_view text)
{
    return readToml(text, "write TOML: name = \"…\", then [[pane]] and [[pane.layer]]", setUpOf);
}

const std::vector<SetUp>& readySetUps()
{
    static const std::vector<SetUp> setUps = [] {
        std::vector<SetUp> made;
        for (const EmbeddedText& file : embeddedTexts()) {
            const Result<SetUp> setUp = setUpFromToml(file.text);
            if (!setUp)
                throw std::logic_error(fmt::format("{}: {}", file.name, sentence(setUp.error())));
            made.push_back(*setUp);
        }
        std::ranges::sort(made, {}, &SetUp::name);
        return made;
    }();
    return setUps;
}

const SetUp& standardSetUp()
{
    return *std::ranges::find(readySetUps(), "Candidate", &SetUp::name);
}

} // namespace sieve::charts
