#pragma once

#include "core/drawings/drawing.h"

#include <optional>
#include <string>

namespace sieve::drawings {

/// A drawing while it is made: point after point, the one under the pointer always shown.
class Hand {
public:
    Hand(Tool tool, bool isLogarithmic);

    Tool tool() const { return draft_.tool; }
    /// Sets the next point; one on the same day and price as the point before is none. Says whether
    /// the drawing has all the points there can be.
    bool set(const Anchor& point);
    void move(const Anchor& point); ///< the pointer is there
    /// Takes the last point back. Says whether there was one.
    bool takeBack();
    std::size_t pointsSet() const { return draft_.anchors.size(); }
    /// Whether it is a drawing without another point.
    bool isEnough() const;

    /// As it would be with the remaining points under the pointer; empty before it came.
    std::optional<Drawing> shown() const;
    /// With the points that are set. Requires: isEnough().
    Drawing made() const { return draft_; }
    /// What it waits for, in a sentence.
    std::string asks() const;

private:
    Drawing draft_;
    std::optional<Anchor> pointer_;
};

} // namespace sieve::drawings
