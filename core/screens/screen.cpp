#include "core/screens/screen.h"

#include <algorithm>
#include <fmt/format.h>
#include <limits>
#include <optional>
#include <sstream>
#include <toml++/toml.h>
#include <utility>

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

/// Nothing is passed over: what this version does not know, a newer one may have meant.
void refuseOthers(const toml::table& table, std::initializer_list<std::string_view> known)
{
    for (const auto& [key, node] : table)
        if (std::ranges::find(known, key.str()) == known.end())
            fail(node.source(), fmt::format("'{}' is no key of a screen", key.str()),
                 fmt::format("one of {}", fmt::join(known, ", ")));
}

std::vector<std::string> readTexts(const toml::table& table, std::string_view key)
{
    std::vector<std::string> texts;
    const toml::node* node = table.get(key);
    if (!node)
        return texts;
    const toml::array* array = node->as_array();
    if (!array)
        fail(node->source(), fmt::format("'{}' is no list", key), "write [\"…\", \"…\"]");
    for (const toml::node& each : *array) {
        const auto text = each.value_exact<std::string>();
        if (!text)
            fail(each.source(), fmt::format("'{}' holds something that is no text", key),
                 "write each in quotes");
        texts.push_back(*text);
    }
    return texts;
}

Criterion readCriterion(const toml::node& node)
{
    if (const auto text = node.value_exact<std::string>())
        return {*text, true, {}};
    const toml::table* table = node.as_table();
    if (!table)
        fail(node.source(), "a criterion that is no table", "begin each with [[criteria]]");
    refuseOthers(*table, {"text", "on", "comment"});
    Criterion criterion{read<std::string>(*table, "text", {}), read(*table, "on", true),
                        read<std::string>(*table, "comment", {})};
    if (criterion.text.empty())
        fail(table->source(), "a criterion without text",
             "write text = \"close > sma(close, 50)\"");
    return criterion;
}

Screen readScreen(const toml::table& file)
{
    refuseOthers(file, {"name", "purpose", "side", "tags", "notes", "universe", "rank_by", "keep",
                        "columns", "criteria"});
    Screen screen;
    screen.name = read<std::string>(file, "name", {});
    if (screen.name.empty())
        fail(file.source(), "a screen without a name", "write name = \"…\" in the first line");
    screen.purpose = read<std::string>(file, "purpose", {});
    const auto side = read<std::string>(file, "side", "long");
    if (side != "long" && side != "short")
        fail(file.get("side")->source(), fmt::format("'{}' is no side", side),
             "write side = \"long\" or \"short\"");
    screen.side = side == "long" ? ScreenSide::Long : ScreenSide::Short;
    screen.tags = readTexts(file, "tags");
    screen.notes = read<std::string>(file, "notes", {});
    screen.universe = read<std::string>(file, "universe", {});
    screen.rankBy = read<std::string>(file, "rank_by", {});
    const auto keep = read<std::int64_t>(file, "keep", 0);
    if (keep < 0 || keep > std::numeric_limits<int>::max())
        fail(file.get("keep")->source(), "'keep' is out of range", "write 0 to keep all");
    screen.keep = static_cast<int>(keep);
    screen.columns = readTexts(file, "columns");
    if (const toml::node* node = file.get("criteria")) {
        const toml::array* criteria = node->as_array();
        if (!criteria)
            fail(node->source(), "'criteria' is no list", "begin each with [[criteria]]");
        for (const toml::node& each : *criteria)
            screen.criteria.push_back(readCriterion(each));
    }
    return screen;
}

/// The comment of a line, without its # and the space after it; empty where it has none. A # in
/// quotes is none.
std::optional<std::string> commentOf(std::string_view line)
{
    char quote = 0;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (quote == '"' && line[i] == '\\') {
            ++i;
        } else if (quote != 0) {
            quote = line[i] == quote ? '\0' : quote;
        } else if (line[i] == '"' || line[i] == '\'') {
            quote = line[i];
        } else if (line[i] == '#') {
            const std::size_t begin = line.substr(i + 1).starts_with(' ') ? i + 2 : i + 1;
            return std::string(line.substr(begin));
        }
    }
    return std::nullopt;
}

/// The TOML library drops comments; each goes to the criterion in whose table it stands or whose
/// table begins on the next line, else to the screen. Texts over several lines are passed over.
void readRemarks(std::string_view toml, Screen& screen)
{
    std::size_t criteria = 0;
    std::string waiting; // comments whose place the next line tells
    bool isInText = false;
    const auto place = [&] {
        (criteria == 0 ? screen.remarks : screen.criteria[criteria - 1].remarks) +=
            std::exchange(waiting, {});
    };
    while (!toml.empty()) {
        const std::size_t end = std::min(toml.find('\n'), toml.size());
        std::string_view line = toml.substr(0, end);
        toml.remove_prefix(std::min(end + 1, toml.size()));
        line.remove_prefix(std::min(line.find_first_not_of(" \t"), line.size()));
        if (line.ends_with('\r'))
            line.remove_suffix(1);
        if (line.find("\"\"\"") != line.npos || line.find("'''") != line.npos) {
            isInText = !isInText;
            continue;
        }
        if (isInText)
            continue;
        if (line.starts_with("[[criteria]]"))
            criteria = std::min(criteria + 1, screen.criteria.size());
        if (!line.starts_with('#'))
            place();
        if (const auto comment = commentOf(line))
            waiting += *comment + "\n";
    }
    place();
}

std::string asComments(std::string_view remarks)
{
    std::string comments;
    while (!remarks.empty()) {
        const std::size_t end = std::min(remarks.find('\n'), remarks.size());
        const std::string_view line = remarks.substr(0, end);
        comments += line.empty() ? "#\n" : fmt::format("# {}\n", line);
        remarks.remove_prefix(std::min(end + 1, remarks.size()));
    }
    return comments;
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
    const auto list = [&](const std::vector<std::string>& texts) {
        std::vector<std::string> all;
        for (const std::string& text : texts)
            all.push_back(quoted(text));
        return fmt::format("[{}]", fmt::join(all, ", "));
    };
    std::string toml = fmt::format("name = {}\n", quoted(screen.name));
    toml += asComments(screen.remarks);
    const auto add = [&](const char* key, const std::string& text) {
        if (!text.empty())
            toml += fmt::format("{} = {}\n", key, quoted(text));
    };
    add("purpose", screen.purpose);
    if (screen.side == ScreenSide::Short)
        toml += "side = \"short\"\n";
    if (!screen.tags.empty())
        toml += fmt::format("tags = {}\n", list(screen.tags));
    add("notes", screen.notes);
    add("universe", screen.universe);
    add("rank_by", screen.rankBy);
    toml += fmt::format("keep = {}\ncolumns = {}\n", screen.keep, list(screen.columns));
    for (const Criterion& criterion : screen.criteria) {
        toml += fmt::format("\n[[criteria]]\n{}text = {}\n", asComments(criterion.remarks),
                            quoted(criterion.text));
        if (!criterion.isOn)
            toml += "on = false\n";
        add("comment", criterion.comment);
    }
    return toml;
}

Result<Screen> screenFromToml(std::string_view toml)
{
    try {
        Screen screen = readScreen(toml::parse(toml));
        readRemarks(toml, screen);
        return screen;
    } catch (const toml::parse_error& error) {
        return LocatedError{{error.source().begin.line, error.source().begin.column, 0, 0, 0},
                            std::string(error.description()),
                            "see docs/screens.md for the form of a screen"};
    } catch (const Failure& failure) {
        return failure.error;
    }
}

} // namespace sieve::screens
