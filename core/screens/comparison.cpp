#include "core/screens/comparison.h"

#include <algorithm>
#include <cctype>
#include <fmt/format.h>
#include <optional>

namespace sieve::screens {

namespace {

using Place = std::optional<std::size_t>;

/// A criterion's words without its numbers.
std::string skeleton(const std::string& text)
{
    std::string bare;
    for (const char c : text)
        if (std::isdigit(static_cast<unsigned char>(c)) == 0 && c != '.' && c != '-')
            bare += c;
    return bare;
}

/// Which criterion of `before` each of `after` was.
class Matching {
public:
    Matching(const std::vector<Criterion>& before, const std::vector<Criterion>& after)
        : before_(before), was_(after.size()), isTaken_(before.size())
    {
        match(after, [](const Criterion& a, const Criterion& b) { return a.text == b.text; });
        match(after, [](const Criterion& a, const Criterion& b) {
            return skeleton(a.text) == skeleton(b.text);
        });
        for (std::size_t i = 0; i < after.size(); ++i)
            if (const std::size_t next = i == 0 ? 0 : was_[i - 1].value_or(before.size()) + 1;
                !was_[i] && next < before.size() && !isTaken_[next] && followsAlike(i, next))
                take(i, next);
    }

    const std::vector<Place>& was() const { return was_; }
    bool isTaken(std::size_t place) const { return isTaken_[place]; }

private:
    template <class Same> void match(const std::vector<Criterion>& after, Same same)
    {
        for (std::size_t i = 0; i < after.size(); ++i)
            for (std::size_t j = 0; j < before_.size() && !was_[i]; ++j)
                if (!isTaken_[j] && same(before_[j], after[i]))
                    take(i, j);
    }

    /// Whether what stands below is the same in both, or the end of both.
    bool followsAlike(std::size_t after, std::size_t before) const
    {
        const bool isLast = after + 1 == was_.size();
        return isLast ? before + 1 == before_.size() : was_[after + 1] == Place(before + 1);
    }

    void take(std::size_t after, std::size_t before)
    {
        was_[after] = before;
        isTaken_[before] = true;
    }

    const std::vector<Criterion>& before_;
    std::vector<Place> was_;
    std::vector<bool> isTaken_;
};

std::string textOf(const Criterion& criterion)
{
    return criterion.text + (criterion.isOn ? "" : " (off)");
}

std::string textOf(const CellGraphics& cells)
{
    std::vector<std::string> all;
    for (const auto& [column, graphic] : cells)
        all.push_back(fmt::format("{}: {}", column, language::graphicName(graphic)));
    return fmt::format("{}", fmt::join(all, ", "));
}

std::string listed(const std::vector<std::string>& texts)
{
    return fmt::format("{}", fmt::join(texts, ", "));
}

std::string kept(int keep)
{
    return keep == 0 ? "all" : fmt::format("the best {}", keep);
}

class Comparing {
public:
    std::vector<Difference> run(const Screen& before, const Screen& after)
    {
        add("name", before.name, after.name);
        add("folder", before.folder, after.folder);
        add("purpose", before.purpose, after.purpose);
        add("side", before.side == ScreenSide::Long ? "long" : "short",
            after.side == ScreenSide::Long ? "long" : "short");
        add("tags", listed(before.tags), listed(after.tags));
        add("notes", before.notes, after.notes);
        add("universe", before.universe, after.universe);
        addCriteria(before.criteria, after.criteria);
        add("rank", before.rankBy, after.rankBy);
        add("kept", kept(before.keep), kept(after.keep));
        add("columns", listed(before.columns), listed(after.columns));
        add("cells", textOf(before.cells), textOf(after.cells));
        return std::move(found_);
    }

private:
    void add(const char* part, const std::string& before, const std::string& after)
    {
        using enum Difference::What;
        if (before != after)
            found_.push_back({before.empty()  ? Added
                              : after.empty() ? Removed
                                              : Changed,
                              part, before, after});
    }

    void addCriteria(const std::vector<Criterion>& before, const std::vector<Criterion>& after)
    {
        const Matching matching(before, after);
        for (std::size_t i = 0; i < before.size(); ++i)
            if (!matching.isTaken(i))
                add("criterion", textOf(before[i]), {});
        std::size_t farthest = 0;
        bool isReordered = false;
        for (std::size_t i = 0; i < after.size(); ++i) {
            const Place was = matching.was()[i];
            if (!was) {
                add("criterion", {}, textOf(after[i]));
                continue;
            }
            add("criterion", textOf(before[*was]), textOf(after[i]));
            add("comment", before[*was].comment, after[i].comment);
            isReordered = isReordered || *was < farthest;
            farthest = std::max(farthest, *was);
        }
        if (isReordered)
            found_.push_back({Difference::What::Changed, "order", "criteria in their former order",
                              "criteria in another order"});
    }

    std::vector<Difference> found_;
};

} // namespace

std::vector<Difference> differences(const Screen& before, const Screen& after)
{
    return Comparing().run(before, after);
}

} // namespace sieve::screens
