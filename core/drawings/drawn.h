#pragma once

#include "core/base/missing.h"
#include "core/drawings/drawing.h"
#include "core/market/bars.h"

#include <optional>
#include <string>
#include <vector>

namespace sieve::drawings {

/// A point over daily bars: bar i at i, and places between and beyond (time_line.h).
struct Point {
    double bar = 0.0;
    double price = 0.0;

    friend bool operator==(const Point&, const Point&) = default;
};

/// What is in sight, in daily bars, and whether equal shares are equal steps there.
struct Sight {
    double from = 0.0;
    double to = 0.0;
    bool isLogarithmic = false;
};

struct Stroke {
    std::vector<Point> points;
    bool isFaint = false;
    bool hasTip = false; ///< an arrow's, at its end
};

struct Filled {
    Point corner;
    Point opposite;
};

struct Caption {
    enum class Side { Above, Below, AtEnd }; ///< AtEnd: at the right edge, over the line
    Point at;
    std::string text;
    Side side = Side::Above;
};

/// What a drawing looks like, in places.
struct Outline {
    std::vector<Stroke> strokes;
    std::vector<Filled> areas;
    std::vector<Caption> captions;
    std::vector<Point> handles; ///< its points
};

/// A drawing over the bars of its stock. Of what comes after the day on which it was drawn, only an
/// average reads anything: the others lie where they were drawn.
class Drawn {
public:
    /// Requires: drawing and daily bars on one footing.
    Drawn(const Drawing& drawing, const market::Bars& daily);

    /// The price at a bar, so far across the drawing:
    ///   line, ray           the line; of a line only between its points, of a ray from the first
    ///   on level               its price channel             0 the first side, 1 the other
    ///   retracement         0 the end of the move, 1 its begin, 0.5 half way back
    ///   extension           so many times the move, from the third point
    ///   measured move       0 the third point, 1 the target
    ///   box                 0 its lower edge, 1 its upper one; from its begin on
    ///   average             the mean price of all shares traded since its day
    ///   regression channel  the line of least squares through the closes between its days, and so
    ///                       many standard deviations of those closes over it; from its begin on
    /// Missing: of the other tools, and where none of this is.
    double value(double share, double bar) const;

    Outline outline(const Sight& sight) const;
    std::span<const Point> points() const { return points_; } ///< of its points

private:
    void average();
    void fit(std::size_t known);
    double scaled(double price) const;
    double unscaled(double figure) const;
    double along(double bar) const;
    double firstBar() const;
    double lastBar() const;
    void addLine(Outline& into, const Sight& sight, double share, double from, double to,
                 bool isFaint = false) const;
    void addShares(Outline& into, const Sight& sight, std::span<const double> shares) const;
    void addMove(Outline& into) const;
    void addSwings(Outline& into) const;
    void addCaptions(Outline& into, const Sight& sight) const;

    Drawing drawing_;
    const market::Bars* daily_;
    std::vector<Point> points_;
    std::vector<double> averages_; ///< a bar each, of an average
    // Of a regression: its figure at bar 0, its step a bar, and the deviation around it, scaled.
    double level_ = missing;
    double slope_ = missing;
    double deviation_ = missing;
};

/// How far it is from one point to another, for the line that measures.
struct Distance {
    double bars = 0.0;
    int days = 0; ///< of the calendar
    double money = 0.0;
    double change = 0.0;     ///< a share of the first price
    double trueRanges = 0.0; ///< in average true ranges of fourteen days, at the later point
};
/// Missing: trueRanges, where there are no such ranges yet or they are 0.
Distance distanceOf(const Point& from, const Point& to, const market::Bars& daily);

} // namespace sieve::drawings
