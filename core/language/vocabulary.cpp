#include "core/language/vocabulary.h"

#include "core/base/embedded_text.h"
#include "core/base/require.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <optional>
#include <sstream>
#include <toml++/toml.h>

namespace sieve::language {

std::span<const EmbeddedText> embeddedTexts();

namespace {

SourceRange placeOf(const toml::source_region& region)
{
    return {region.begin.line, region.begin.column, 0, 0, 0};
}

template <class Enum, std::size_t count> std::optional<Enum>
named(std::string_view name, const std::array<std::pair<std::string_view, Enum>, count>& names)
{
    for (const auto& [each, value] : names)
        if (each == name)
            return value;
    return std::nullopt;
}

constexpr std::array<std::pair<std::string_view, Kind>, 4> kinds{
    {{"number", Kind::Number}, {"yes/no", Kind::YesNo}, {"text", Kind::Text}, {"day", Kind::Day}}};
constexpr std::array<std::pair<std::string_view, Unit>, 7> units{{{"plain", Unit::Plain},
                                                                  {"money", Unit::Money},
                                                                  {"percent", Unit::Percent},
                                                                  {"ratio", Unit::Ratio},
                                                                  {"shares", Unit::Shares},
                                                                  {"days", Unit::Days},
                                                                  {"points", Unit::Points}}};
constexpr std::array<std::pair<std::string_view, Better>, 3> betters{
    {{"none", Better::None}, {"high", Better::High}, {"low", Better::Low}}};

constexpr std::array<std::pair<std::string_view, CellGraphic>, 5> graphics{
    {{"none", CellGraphic::None},
     {"bar", CellGraphic::Bar},
     {"range", CellGraphic::Range},
     {"line", CellGraphic::Line},
     {"sign", CellGraphic::Sign}}};

template <class Enum, std::size_t count> std::string_view
nameOf(Enum value, const std::array<std::pair<std::string_view, Enum>, count>& names)
{
    for (const auto& [name, each] : names)
        if (each == value)
            return name;
    return {};
}

/// Reads the keys of one entry and remembers the first thing that is wrong.
class EntryReader {
public:
    explicit EntryReader(const toml::table& table) : table_(table) {}

    std::string text(std::string_view key, bool isRequired)
    {
        const std::optional<std::string> value = table_[key].value<std::string>();
        if (!value && (isRequired || table_.contains(key)))
            fail(fmt::format("'{}' is missing or no text", key), "write it in quotes");
        return value.value_or("");
    }

    template <class Enum, std::size_t count>
    Enum choice(std::string_view key, Enum initial,
                const std::array<std::pair<std::string_view, Enum>, count>& names)
    {
        const std::string name = text(key, false);
        const auto value = name.empty() ? initial : named(name, names);
        if (!value)
            fail(fmt::format("'{}' is no {}", name, key), "see docs/dictionary.md for the choices");
        return value.value_or(initial);
    }

    Syntax formula(const std::string& text)
    {
        if (text.empty())
            return {};
        Result<Syntax> tree = parse(text);
        if (!tree)
            fail(fmt::format("formula, column {}: {}", tree.error().where.column,
                             tree.error().problem),
                 tree.error().remedy);
        return tree ? *std::move(tree) : Syntax{};
    }

    void fail(std::string problem, std::string remedy)
    {
        if (!error_)
            error_ = LocatedError{placeOf(table_.source()), std::move(problem), std::move(remedy)};
    }
    const std::optional<LocatedError>& error() const { return error_; }

private:
    const toml::table& table_;
    std::optional<LocatedError> error_;
};

Field readField(const toml::table& table, EntryReader& reader)
{
    Field field;
    field.name = reader.text("name", true);
    field.title = reader.text("title", true);
    field.head = reader.text("head", false);
    if (field.head.empty())
        field.head = field.title;
    field.meaning = reader.text("meaning", true);
    field.formula = reader.text("formula", false);
    field.family = reader.text("family", true);
    field.kind = reader.choice("kind", Kind::Number, kinds);
    field.unit = reader.choice("unit", Unit::Plain, units);
    field.better = reader.choice("better", Better::None, betters);
    field.graphic = reader.choice("graphic", CellGraphic::None, graphics);
    field.decimals = static_cast<int>(
        std::clamp<std::int64_t>(table["decimals"].value_or<std::int64_t>(2), 0, 8));
    field.tree = reader.formula(field.formula);
    return field;
}

ComposedFunction readFunction(const toml::table& table, EntryReader& reader)
{
    ComposedFunction function;
    function.name = reader.text("name", true);
    function.title = reader.text("title", true);
    function.meaning = reader.text("meaning", true);
    function.formula = reader.text("formula", true);
    function.tree = reader.formula(function.formula);
    if (table.contains("unit"))
        function.unit = reader.choice("unit", Unit::Plain, units);
    const toml::array* parameters = table["parameters"].as_array();
    if (!parameters) {
        reader.fail("a function without parameters", "write parameters = [\"x\", \"n = 1\"]");
        return function;
    }
    for (const toml::node& parameter : *parameters) {
        const std::string text = parameter.value_or<std::string>("");
        const std::size_t sign = text.find(" = ");
        const std::size_t mark = text.find(": name");
        function.parameters.push_back(text.substr(0, std::min(sign, mark)));
        function.areNames.push_back(mark != std::string::npos);
        function.defaults.push_back(sign == std::string::npos ? "" : text.substr(sign + 3));
        function.defaultTrees.push_back(reader.formula(function.defaults.back()));
    }
    return function;
}

} // namespace

const Vocabulary& Vocabulary::builtIn()
{
    static const Vocabulary vocabulary = [] {
        Vocabulary made;
        for (const EmbeddedText& file : embeddedTexts()) {
            const Result<std::size_t> added = made.add(file.text);
            if (!added)
                throw std::logic_error(fmt::format("{}: {}", file.name, sentence(added.error())));
        }
        return made;
    }();
    return vocabulary;
}

Result<std::size_t> Vocabulary::add(std::string_view toml)
{
    toml::table file;
    try {
        file = toml::parse(toml);
    } catch (const toml::parse_error& error) {
        return LocatedError{placeOf(error.source()), std::string(error.description()),
                            "see docs/dictionary.md for the form of an entry"};
    }
    std::size_t count = 0;
    for (const bool isField : {true, false}) {
        const toml::array* entries = file[isField ? "field" : "function"].as_array();
        if (!entries)
            continue;
        for (const toml::node& node : *entries) {
            if (!node.is_table())
                return LocatedError{placeOf(node.source()), "an entry that is no table",
                                    "begin each entry with [[field]] or [[function]]"};
            const toml::table& table = *node.as_table();
            EntryReader reader(table);
            std::string name = reader.text("name", true);
            if (field(name) || function(name))
                reader.fail(fmt::format("the name '{}' is taken", name), "choose another");
            if (isField) {
                fields_.push_back(readField(table, reader));
                fieldPlaces_.emplace(name, fields_.size() - 1);
            } else {
                functions_.push_back(readFunction(table, reader));
                functionPlaces_.emplace(name, functions_.size() - 1);
            }
            if (reader.error())
                return *reader.error();
            ++count;
        }
    }
    return count;
}

void Vocabulary::add(Field field)
{
    require(!this->field(field.name) && !function(field.name), "Vocabulary: the name is taken");
    fieldPlaces_.emplace(field.name, fields_.size());
    fields_.push_back(std::move(field));
}

std::string_view graphicName(CellGraphic graphic)
{
    return nameOf(graphic, graphics);
}

std::optional<CellGraphic> graphicNamed(std::string_view name)
{
    for (const auto& [each, graphic] : graphics)
        if (each == name)
            return graphic;
    return std::nullopt;
}

std::string toToml(const Field& field)
{
    const auto quoted = [](const std::string& text) {
        std::ostringstream out;
        out << toml::value<std::string>(text);
        return out.str();
    };
    std::string toml =
        fmt::format("[[field]]\nname = {}\ntitle = {}\n", quoted(field.name), quoted(field.title));
    if (field.head != field.title)
        toml += fmt::format("head = {}\n", quoted(field.head));
    toml += fmt::format("meaning = {}\n", quoted(field.meaning));
    if (!field.formula.empty())
        toml += fmt::format("formula = {}\n", quoted(field.formula));
    return toml + fmt::format("family = {}\nkind = \"{}\"\nunit = \"{}\"\ndecimals = {}\nbetter = "
                              "\"{}\"\ngraphic = \"{}\"\n",
                              quoted(field.family), nameOf(field.kind, kinds),
                              nameOf(field.unit, units), field.decimals,
                              nameOf(field.better, betters), nameOf(field.graphic, graphics));
}

const Field* Vocabulary::field(std::string_view name) const
{
    const auto found = fieldPlaces_.find(name);
    return found == fieldPlaces_.end() ? nullptr : &fields_[found->second];
}

const ComposedFunction* Vocabulary::function(std::string_view name) const
{
    const auto found = functionPlaces_.find(name);
    return found == functionPlaces_.end() ? nullptr : &functions_[found->second];
}

} // namespace sieve::language
