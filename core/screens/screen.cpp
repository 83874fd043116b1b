#include "core/screens/screen.h"

#include <fmt/format.h>
#include <sstream>
#include <toml++/toml.h>

namespace sieve::screens {

namespace {

struct Failure {
    LocatedError error;
};

[[noreturn]] void fail(const toml::source_region& where, std::string problem, std::string remedy)
{
    throw Failure{
        {{where.begin.line, where.begin.column, 0, 0, 0}, std::move(problem), std::move(remedy)}};
}

template <class T> T read(const toml::table& table, std::string_view key, T initial)
{
    const toml::node* node = table.get(key);
    if (!node)
        return initial;
    if (const auto value = node->value_exact<T>())
        return *value;
    fail(node->source(), fmt::format("'{}' is of another type", key),
         std::is_same_v<T, std::string> ? "write it in quotes" : "write it without quotes");
}

Criterion readCriterion(const toml::node& node)
{
    if (const auto text = node.value_exact<std::string>())
        return {*text, true, {}};
    const toml::table* table = node.as_table();
    if (!table)
        fail(node.source(), "a criterion that is no table", "begin each with [[criteria]]");
    Criterion criterion{read<std::string>(*table, "text", {}), read(*table, "on", true),
                        read<std::string>(*table, "comment", {})};
    if (criterion.text.empty())
        fail(table->source(), "a criterion without text",
             "write text = \"close > sma(close, 50)\"");
    return criterion;
}

Screen readScreen(const toml::table& file)
{
    Screen screen;
    screen.name = read<std::string>(file, "name", {});
    if (screen.name.empty())
        fail(file.source(), "a screen without a name", "write name = \"…\" in the first line");
    screen.purpose = read<std::string>(file, "purpose", {});
    screen.universe = read<std::string>(file, "universe", {});
    screen.rankBy = read<std::string>(file, "rank_by", {});
    screen.keep = static_cast<int>(read<std::int64_t>(file, "keep", 0));
    if (screen.keep < 0)
        fail(file.source(), "'keep' is below 0", "write 0 to keep all");
    if (const toml::array* columns = file["columns"].as_array())
        for (const toml::node& column : *columns)
            if (const auto text = column.value_exact<std::string>())
                screen.columns.push_back(*text);
    if (const toml::array* criteria = file["criteria"].as_array())
        for (const toml::node& node : *criteria)
            screen.criteria.push_back(readCriterion(node));
    return screen;
}

} // namespace

std::string toToml(const Screen& screen)
{
    // toml++ sorts keys; a person reads them in the order of the routine.
    const auto quoted = [](const std::string& text) {
        std::ostringstream out;
        out << toml::value<std::string>(text);
        return out.str();
    };
    std::string toml = fmt::format("name = {}\n", quoted(screen.name));
    if (!screen.purpose.empty())
        toml += fmt::format("purpose = {}\n", quoted(screen.purpose));
    if (!screen.universe.empty())
        toml += fmt::format("universe = {}\n", quoted(screen.universe));
    if (!screen.rankBy.empty())
        toml += fmt::format("rank_by = {}\n", quoted(screen.rankBy));
    toml += fmt::format("keep = {}\ncolumns = [", screen.keep);
    const char* separator = "";
    for (const std::string& column : screen.columns) {
        toml += separator + quoted(column);
        separator = ", ";
    }
    toml += "]\n";
    for (const Criterion& criterion : screen.criteria) {
        toml += fmt::format("\n[[criteria]]\ntext = {}\n", quoted(criterion.text));
        if (!criterion.isOn)
            toml += "on = false\n";
        if (!criterion.comment.empty())
            toml += fmt::format("comment = {}\n", quoted(criterion.comment));
    }
    return toml;
}

Result<Screen> screenFromToml(std::string_view toml)
{
    try {
        return readScreen(toml::parse(toml));
    } catch (const toml::parse_error& error) {
        return LocatedError{{error.source().begin.line, error.source().begin.column, 0, 0, 0},
                            std::string(error.description()),
                            "see docs/screens.md for the form of a screen"};
    } catch (const Failure& failure) {
        return failure.error;
    }
}

} // namespace sieve::screens
