#include "core/charts/set_up.h"

#include "core/base/embedded_text.h"
#include "core/base/toml_table.h"
#include "core/base/words.h"

#include <stdexcept>

namespace sieve::charts {

std::span<const EmbeddedText> embeddedTexts();

namespace {

constexpr Words<BarForm, 4> barForms{{{{BarForm::Candles, "candles"},
                                       {BarForm::Bars, "bars"},
                                       {BarForm::Line, "line"},
                                       {BarForm::Filled, "filled"}}}};
constexpr Words<LayerForm, 9> layerForms{{{{LayerForm::Line, "line"},
                                           {LayerForm::Band, "band"},
                                           {LayerForm::Columns, "columns"},
                                           {LayerForm::Dots, "dots"},
                                           {LayerForm::Steps, "steps"},
                                           {LayerForm::Ribbon, "ribbon"},
                                           {LayerForm::Marks, "marks"},
                                           {LayerForm::Trades, "trades"},
                                           {LayerForm::States, "states"}}}};
constexpr Words<BarScale, 4> barScales{{{{BarScale::Day, "day"},
                                         {BarScale::Week, "week"},
                                         {BarScale::Month, "month"},
                                         {BarScale::Minutes, "minutes"}}}};
constexpr Words<MarkKind, 12> markKinds{{{{MarkKind::Report, "report"},
                                          {MarkKind::Dividend, "dividend"},
                                          {MarkKind::Split, "split"},
                                          {MarkKind::News, "news"},
                                          {MarkKind::Rating, "rating"},
                                          {MarkKind::Entry, "entry"},
                                          {MarkKind::Gap, "gap"},
                                          {MarkKind::Island, "island"},
                                          {MarkKind::Inside, "inside"},
                                          {MarkKind::Outside, "outside"},
                                          {MarkKind::Swing, "swing"},
                                          {MarkKind::Divergence, "divergence"}}}};
constexpr Words<ValueScale, 3> valueScales{{{{ValueScale::Linear, "linear"},
                                             {ValueScale::Logarithmic, "logarithmic"},
                                             {ValueScale::Percent, "percent"}}}};

template <class Words> std::string namesOf(const Words& words)
{
    std::vector<std::string_view> names;
    for (const auto& [value, name] : words.pairs)
        names.push_back(name);
    return fmt::format("{}", fmt::join(names, ", "));
}

/// The value of a word under a key, or the initial one where there is no such key.
template <class Words, class Value>
Value wordOr(const toml::table& table, std::string_view key, const Words& words, Value initial)
{
    const toml::node* node = table.get(key);
    if (!node)
        return initial;
    const auto name = node->value_exact<std::string>();
    if (const auto value = name ? words.value(*name) : std::nullopt)
        return *value;
    failAt(node->source(), fmt::format("'{}' is none of its words", key),
           "write one of " + namesOf(words));
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
                 {"show", "to", "as", "colour", "width", "by_change", "compared", "scale_at_left"});
    LayerSetUp layer;
    layer.show = valueOr(table, "show", std::string());
    if (layer.show.empty())
        failAt(table.source(), "a layer shows nothing", "write show = \"sma(close, 50)\"");
    layer.to = valueOr(table, "to", std::string());
    layer.form = wordOr(table, "as", layerForms, layer.form);
    if (isOfTwo(layer.form) == layer.to.empty())
        failAt(table.source(),
               "a band has two edges and trades have two conditions; no other layer has 'to'",
               "write as = \"band\" or as = \"trades\" and the other one under 'to'");
    layer.colour = wordOr(table, "colour", paletteParts, layer.colour);
    layer.width = sizeOr(table, "width", layer.width, 10.0);
    layer.isByChange = valueOr(table, "by_change", false);
    layer.isCompared = valueOr(table, "compared", false);
    if (layer.isCompared && layer.form != LayerForm::Line)
        failAt(table.source(), "only a line is compared with the prices", "write as = \"line\"");
    layer.hasScaleAtLeft = valueOr(table, "scale_at_left", false);
    return layer;
}

std::vector<ReadyLayers> readyLayersOf(const toml::table& table)
{
    std::vector<ReadyLayers> all;
    refuseOthers(table, "the ready layers", {"ready"});
    for (const toml::table* each : tablesOf(table, "ready")) {
        refuseOthers(*each, "ready layers",
                     {"name", "meaning", "over_prices", "begins_at_zero", "layer"});
        ReadyLayers& ready = all.emplace_back();
        ready.name = valueOr(*each, "name", std::string());
        ready.meaning = valueOr(*each, "meaning", std::string());
        ready.isOverPrices = valueOr(*each, "over_prices", false);
        ready.pane.beginsAtZero = valueOr(*each, "begins_at_zero", false);
        for (const toml::table* layer : tablesOf(*each, "layer"))
            ready.pane.layers.push_back(layerOf(*layer));
    }
    return all;
}

constexpr std::string_view readyLayersFile = "ready_layers.toml";

SetUp setUpOf(const toml::table& table)
{
    refuseOthers(table, "a set-up",
                 {"name", "scale", "minutes", "form", "values", "marks", "pane"});
    SetUp setUp;
    setUp.name = valueOr(table, "name", std::string());
    setUp.scale = wordOr(table, "scale", barScales, setUp.scale);
    if (const toml::node* minutes = table.get("minutes")) {
        const auto count = minutes->value_exact<std::int64_t>();
        if (!count || *count < 1 || *count > mostMinutes)
            failAt(minutes->source(), "this is no number of minutes for a bar",
                   fmt::format("write a whole number from 1 to {}", mostMinutes));
        setUp.minutes = static_cast<int>(*count);
    }
    setUp.form = wordOr(table, "form", barForms, setUp.form);
    setUp.values = wordOr(table, "values", valueScales, setUp.values);
    if (table.contains("marks")) {
        setUp.marks.clear();
        for (const std::string& name : textsOf(table, "marks")) {
            const auto kind = markKinds.value(name);
            if (!kind)
                failAt(table.get("marks")->source(), fmt::format("'{}' is no kind of mark", name),
                       "write some of " + namesOf(markKinds));
            setUp.marks.push_back(*kind);
        }
    }
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

/// `within`: what stands before the names of its tables.
std::string textOf(const SetUp& setUp, std::string_view within)
{
    std::string text = fmt::format("name = {}\nscale = \"{}\"\nform = \"{}\"\nvalues = \"{}\"\n",
                                   quotedToml(setUp.name), barScaleName(setUp.scale),
                                   barFormName(setUp.form), valueScaleName(setUp.values));
    if (setUp.scale == BarScale::Minutes)
        text += fmt::format("minutes = {}\n", setUp.minutes);
    std::vector<std::string> marks;
    for (const MarkKind kind : setUp.marks)
        marks.push_back(quotedToml(std::string(markKindName(kind))));
    text += fmt::format("marks = [{}]\n", fmt::join(marks, ", "));
    for (const PaneSetUp& pane : setUp.panes) {
        text += fmt::format("\n[[{}pane]]\nheight = {}\n", within, pane.height);
        if (pane.beginsAtZero)
            text += "begins_at_zero = true\n";
        for (const LayerSetUp& layer : pane.layers) {
            text += fmt::format("\n[[{}pane.layer]]\nshow = {}\n", within, quotedToml(layer.show));
            if (!layer.to.empty())
                text += fmt::format("to = {}\n", quotedToml(layer.to));
            text +=
                fmt::format("as = \"{}\"\ncolour = \"{}\"\nwidth = {}\n", layerFormName(layer.form),
                            paletteParts.word(layer.colour), layer.width);
            if (layer.isByChange)
                text += "by_change = true\n";
            if (layer.isCompared)
                text += "compared = true\n";
            if (layer.hasScaleAtLeft)
                text += "scale_at_left = true\n";
        }
    }
    return text;
}

} // namespace

std::string_view barScaleName(BarScale scale)
{
    return barScales.word(scale);
}

std::string_view valueScaleName(ValueScale scale)
{
    return valueScales.word(scale);
}

std::string_view barFormName(BarForm form)
{
    return barForms.word(form);
}

std::string_view layerFormName(LayerForm form)
{
    return layerForms.word(form);
}

std::string_view markKindName(MarkKind kind)
{
    return markKinds.word(kind);
}

std::string toToml(const SetUp& setUp)
{
    return textOf(setUp, "");
}

std::string toToml(std::span<const SetUp> setUps)
{
    std::string text;
    for (const SetUp& setUp : setUps)
        text += "[[set_up]]\n" + textOf(setUp, "set_up.") + "\n";
    return text;
}

Result<std::vector<SetUp>> setUpsFromToml(std::string_view text)
{
    return readToml(text, "begin each set-up with [[set_up]]", [](const toml::table& file) {
        refuseOthers(file, "the set-ups", {"set_up"});
        std::vector<SetUp> setUps;
        for (const toml::table* each : tablesOf(file, "set_up"))
            setUps.push_back(setUpOf(*each));
        return setUps;
    });
}

bool asksForDrawings(const SetUp& setUp)
{
    const auto asks = [](const std::string& text) {
        return text.find("drawing") != std::string::npos;
    };
    return std::ranges::any_of(setUp.panes, [&](const PaneSetUp& pane) {
        return std::ranges::any_of(pane.layers, [&](const LayerSetUp& layer) {
            return asks(layer.show) || asks(layer.to);
        });
    });
}

SetUp withRenamed(SetUp setUp, const language::Renaming& renaming)
{
    for (PaneSetUp& pane : setUp.panes)
        for (LayerSetUp& layer : pane.layers) {
            layer.show = renaming.in(layer.show);
            if (!layer.to.empty())
                layer.to = renaming.in(layer.to);
        }
    return setUp;
}

Result<SetUp> setUpFromToml(std::string_view text)
{
    return readToml(text, "write TOML: name = \"…\", then [[pane]] and [[pane.layer]]", setUpOf);
}

const std::vector<ReadyLayers>& readyLayers()
{
    static const std::vector<ReadyLayers> all = [] {
        const auto file = std::ranges::find(embeddedTexts(), readyLayersFile, &EmbeddedText::name);
        auto read = readToml(file->text, "write [[ready]]", readyLayersOf);
        if (!read)
            throw std::logic_error(fmt::format("{}: {}", file->name, sentence(read.error())));
        return *std::move(read);
    }();
    return all;
}

void makeOwn(SetUp& setUp)
{
    const auto& ready = readySetUps();
    if (std::ranges::find(ready, setUp.name, &SetUp::name) != ready.end())
        setUp.name += ", changed";
}

std::optional<SetUp> withLayers(SetUp setUp, const ReadyLayers& layers)
{
    std::size_t count = layers.pane.layers.size();
    for (const PaneSetUp& pane : setUp.panes)
        count += pane.layers.size();
    if (count > mostLayers || (!layers.isOverPrices && setUp.panes.size() == mostPanes))
        return std::nullopt;
    makeOwn(setUp);
    if (layers.isOverPrices) {
        auto& prices = setUp.panes.front().layers;
        prices.insert(prices.end(), layers.pane.layers.begin(), layers.pane.layers.end());
        return setUp;
    }
    setUp.panes.push_back(layers.pane);
    // About as high as a pane of the ready set-ups, whatever the shares of this one.
    constexpr double shareOfPrices = 0.28;
    setUp.panes.back().height = shareOfPrices * setUp.panes.front().height;
    return setUp;
}

const std::vector<SetUp>& readySetUps()
{
    static const std::vector<SetUp> setUps = [] {
        std::vector<SetUp> made;
        for (const EmbeddedText& file : embeddedTexts()) {
            if (file.name == readyLayersFile)
                continue;
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

const SetUp& wallSetUp()
{
    return *std::ranges::find(readySetUps(), "At a glance", &SetUp::name);
}

} // namespace sieve::charts
