#include "core/screens/screen.h"

#include "core/base/toml_table.h"
#include "core/screens/cell_graphics.h"

#include <algorithm>
#include <fmt/format.h>
#include <limits>
#include <optional>
#include <utility>

namespace sieve::screens {

namespace {

Criterion readCriterion(const toml::node& node)
{
    if (const auto text = node.value_exact<std::string>())
        return {*text, true, {}};
    const toml::table* table = node.as_table();
    if (!table)
        failAt(node.source(), "a criterion that is no table", "begin each with [[criteria]]");
    refuseOthers(*table, "a screen", {"text", "on", "comment"});
    Criterion criterion{valueOr<std::string>(*table, "text", {}), valueOr(*table, "on", true),
                        valueOr<std::string>(*table, "comment", {})};
    if (criterion.text.empty())
        failAt(table->source(), "a criterion without text",
               "write text = \"close > sma(close, 50)\"");
    return criterion;
}

Screen readScreen(const toml::table& file)
{
    refuseOthers(file, "a screen",
                 {"name", "folder", "purpose", "side", "tags", "notes", "universe", "rank_by",
                  "keep", "columns", "cells", "criteria"});
    Screen screen;
    screen.name = valueOr<std::string>(file, "name", {});
    if (screen.name.empty())
        failAt(file.source(), "a screen without a name", "write name = \"…\" in the first line");
    screen.folder = tidyFolder(valueOr<std::string>(file, "folder", {}));
    screen.purpose = valueOr<std::string>(file, "purpose", {});
    const auto side = valueOr<std::string>(file, "side", "long");
    if (side != "long" && side != "short")
        failAt(file.get("side")->source(), fmt::format("'{}' is no side", side),
               "write side = \"long\" or \"short\"");
    screen.side = side == "long" ? ScreenSide::Long : ScreenSide::Short;
    screen.tags = textsOf(file, "tags");
    screen.notes = valueOr<std::string>(file, "notes", {});
    screen.universe = valueOr<std::string>(file, "universe", {});
    screen.rankBy = valueOr<std::string>(file, "rank_by", {});
    const auto keep = valueOr<std::int64_t>(file, "keep", 0);
    if (keep < 0 || keep > std::numeric_limits<int>::max())
        failAt(file.get("keep")->source(), "'keep' is out of range", "write 0 to keep all");
    screen.keep = static_cast<int>(keep);
    screen.columns = textsOf(file, "columns");
    screen.cells = readCells(file);
    if (const toml::node* node = file.get("criteria")) {
        const toml::array* criteria = node->as_array();
        if (!criteria)
            failAt(node->source(), "'criteria' is no list", "begin each with [[criteria]]");
        for (const toml::node& each : *criteria)
            screen.criteria.push_back(readCriterion(each));
    }
    return screen;
}

/// Walks over a TOML text that has been read without error, and stops at what texts in quotes, of
/// one line or several, do not hide: the beginnings of lines, and comments.
class TomlWalk {
public:
    explicit TomlWalk(std::string_view toml) : rest_(toml) {}

    bool isAtEnd() const { return rest_.empty(); }
    /// What is left, from the first sign of a line on that is no space.
    std::string_view line()
    {
        rest_.remove_prefix(std::min(rest_.find_first_not_of(" \t"), rest_.size()));
        return rest_;
    }
    /// The comment of this line (which may end several lines on), without its # and the space after
    /// it; empty where it has none. Goes to the next line.
    std::optional<std::string> comment()
    {
        while (!rest_.empty() && rest_.front() != '#' && rest_.front() != '\n')
            if (rest_.front() == '"' || rest_.front() == '\'')
                passText(rest_.front());
            else
                rest_.remove_prefix(1);
        std::optional<std::string> found;
        const std::size_t end = std::min(rest_.find('\n'), rest_.size());
        if (rest_.starts_with('#')) {
            std::string_view said = rest_.substr(1, end - 1);
            said.remove_prefix(said.starts_with(' ') ? 1 : 0);
            said.remove_suffix(said.ends_with('\r') ? 1 : 0);
            found = said;
        }
        rest_.remove_prefix(std::min(end + 1, rest_.size()));
        return found;
    }

private:
    void passText(char quote)
    {
        const std::string three(3, quote);
        const std::string ending = rest_.starts_with(three) ? three : std::string(1, quote);
        rest_.remove_prefix(ending.size());
        while (!rest_.empty() && !rest_.starts_with(ending))
            rest_.remove_prefix(
                std::min<std::size_t>(quote == '"' && rest_.front() == '\\' ? 2 : 1, rest_.size()));
        rest_.remove_prefix(std::min(ending.size(), rest_.size()));
        while (ending == three && rest_.starts_with(quote)) // quotes that end the text itself
            rest_.remove_prefix(1);
    }

    std::string_view rest_;
};

/// The TOML library drops comments; each goes to the criterion in whose table it stands or whose
/// table begins on the next line, else to the screen.
void readRemarks(std::string_view toml, Screen& screen)
{
    std::size_t criteria = 0;
    std::string waiting; // lines of comment whose place the next line tells
    const auto remarks = [&]() -> std::string& {
        return criteria == 0 ? screen.remarks : screen.criteria[criteria - 1].remarks;
    };
    for (TomlWalk walk(toml); !walk.isAtEnd();) {
        const bool isComment = walk.line().starts_with('#');
        if (walk.line().starts_with("[[criteria]]"))
            criteria = std::min(criteria + 1, screen.criteria.size());
        if (!isComment)
            remarks() += std::exchange(waiting, {});
        if (const auto comment = walk.comment())
            (isComment ? waiting : remarks()) += *comment + "\n";
    }
    remarks() += waiting;
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
    const auto list = [&](const std::vector<std::string>& texts) {
        std::vector<std::string> all;
        for (const std::string& text : texts)
            all.push_back(quotedToml(text));
        return fmt::format("[{}]", fmt::join(all, ", "));
    };
    std::string toml = fmt::format("name = {}\n", quotedToml(screen.name));
    toml += asComments(screen.remarks);
    const auto add = [&](const char* key, const std::string& text) {
        if (!text.empty())
            toml += fmt::format("{} = {}\n", key, quotedToml(text));
    };
    add("folder", screen.folder);
    add("purpose", screen.purpose);
    if (screen.side == ScreenSide::Short)
        toml += "side = \"short\"\n";
    if (!screen.tags.empty())
        toml += fmt::format("tags = {}\n", list(screen.tags));
    add("notes", screen.notes);
    add("universe", screen.universe);
    add("rank_by", screen.rankBy);
    toml += fmt::format("keep = {}\ncolumns = {}\n", screen.keep, list(screen.columns));
    toml += cellsToml(screen.cells);
    for (const Criterion& criterion : screen.criteria) {
        toml += fmt::format("\n[[criteria]]\n{}text = {}\n", asComments(criterion.remarks),
                            quotedToml(criterion.text));
        if (!criterion.isOn)
            toml += "on = false\n";
        add("comment", criterion.comment);
    }
    return toml;
}

std::string tidyFolder(std::string_view folder)
{
    std::string tidy;
    while (!folder.empty()) {
        const std::size_t end = std::min(folder.find('/'), folder.size());
        std::string_view part = folder.substr(0, end);
        folder.remove_prefix(std::min(end + 1, folder.size()));
        part.remove_prefix(std::min(part.find_first_not_of(" \t"), part.size()));
        part = part.substr(0, part.find_last_not_of(" \t") + 1);
        if (!part.empty())
            tidy.append(tidy.empty() ? "" : "/").append(part);
    }
    return tidy;
}

Result<Screen> screenFromToml(std::string_view toml)
{
    return readToml(toml, "see docs/screens.md for the form of a screen",
                    [toml](const toml::table& file) {
                        Screen screen = readScreen(file);
                        readRemarks(toml, screen);
                        return screen;
                    });
}

} // namespace sieve::screens
