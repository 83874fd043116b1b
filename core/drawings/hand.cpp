#include "core/drawings/hand.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::drawings {

Hand::Hand(Tool tool, bool isLogarithmic)
{
    draft_.tool = tool;
    draft_.isLogarithmic = isLogarithmic;
}

bool Hand::set(const Anchor& point)
{
    pointer_ = point;
    if (draft_.anchors.empty() || draft_.anchors.back() != point)
        draft_.anchors.push_back(point);
    return draft_.anchors.size() >= rowOf(draft_.tool).most;
}

void Hand::move(const Anchor& point)
{
    pointer_ = point;
}

bool Hand::takeBack()
{
    if (draft_.anchors.empty())
        return false;
    draft_.anchors.pop_back();
    return true;
}

bool Hand::isEnough() const
{
    return draft_.anchors.size() >= rowOf(draft_.tool).fewest;
}

std::optional<Drawing> Hand::shown() const
{
    if (!pointer_)
        return std::nullopt;
    Drawing drawing = draft_;
    const ToolRow& row = rowOf(drawing.tool);
    const bool isOpen = drawing.anchors.size() < row.most;
    if (isOpen && (drawing.anchors.empty() || drawing.anchors.back() != *pointer_))
        drawing.anchors.push_back(*pointer_);
    while (drawing.anchors.size() < row.fewest)
        drawing.anchors.push_back(*pointer_);
    return drawing;
}

std::string Hand::asks() const
{
    const ToolRow& row = rowOf(draft_.tool);
    const std::string count = row.most > 1
                                  ? fmt::format(" (point {} of {}{})", draft_.anchors.size() + 1,
                                                row.fewest < row.most ? "at most " : "", row.most)
                                  : "";
    return fmt::format("{}: {}{}", row.title, row.help, count);
}

} // namespace sieve::drawings
