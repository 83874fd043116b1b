#include "core/drawings/drawn.h"

#include "core/drawings/time_line.h"
#include "core/indicators/running_totals.h"
#include "core/indicators/true_range.h"
#include "core/patterns/swings.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace sieve::drawings {

namespace {

constexpr double endless = std::numeric_limits<double>::max();
constexpr std::array channelShares{0.0, 1.0};
constexpr std::array extensionShares{0.0, 0.618, 1.0, 1.618};
constexpr std::array regressionShares{-2.0, 0.0, 2.0};

std::string priceWords(double price)
{
    return fmt::format("{:.{}f}", price, std::abs(price) < 1.0 ? 4 : 2);
}

std::string shareWords(double share)
{
    const std::string words = fmt::format("{:.1f}", share * 100.0);
    return (words.ends_with(".0") ? words.substr(0, words.size() - 2) : words) + " %";
}

} // namespace

Drawn::Drawn(const Drawing& drawing, const market::Bars& daily) : drawing_(drawing), daily_(&daily)
{
    const std::span<const Day> known = upTo(daily.days, drawing.drawnOn);
    for (const Anchor& anchor : drawing.anchors)
        points_.push_back({placeOf(known, anchor), anchor.price});
    if (drawing.tool == Tool::Average)
        average();
    if (drawing.tool == Tool::Regression)
        fit(known.size());
}

void Drawn::average()
{
    const std::size_t bars = daily_->size();
    Point& begin = points_.front();
    if (!(begin.bar >= 0.0) || begin.bar > static_cast<double>(bars) - 1.0)
        return;
    const auto first = static_cast<std::size_t>(std::ceil(begin.bar));
    std::vector<double> begins(bars);
    begins[first] = 1.0;
    averages_.resize(bars);
    indicators::volumeWeightedSince(begins, daily_->high, daily_->low, daily_->close,
                                    daily_->volume, indicators::Span::whole(), averages_);
    if (!isMissing(averages_[first]))
        begin.price = averages_[first];
}

/// Least squares through the closes from the first point's day to the last one's.
void Drawn::fit(std::size_t known)
{
    const double first = std::max(std::ceil(firstBar()), 0.0);
    const double end = std::min(std::floor(lastBar()) + 1.0, static_cast<double>(known));
    double count = 0.0;
    double meanBar = 0.0;
    double mean = 0.0;
    const auto eachClose = [&](const auto& take) {
        for (double bar = first; bar < end; bar += 1.0)
            if (const double close = daily_->close[static_cast<std::size_t>(bar)]; close > 0.0)
                take(bar, scaled(close));
    };
    eachClose([&](double bar, double figure) {
        count += 1.0;
        meanBar += bar;
        mean += figure;
    });
    if (count < 2.0)
        return;
    meanBar /= count;
    mean /= count;
    double together = 0.0;
    double spread = 0.0;
    eachClose([&](double bar, double figure) {
        together += (bar - meanBar) * (figure - mean);
        spread += (bar - meanBar) * (bar - meanBar);
    });
    slope_ = together / spread;
    level_ = mean - slope_ * meanBar;
    double squares = 0.0;
    eachClose([&](double bar, double figure) {
        const double off = figure - (level_ + slope_ * bar);
        squares += off * off;
    });
    deviation_ = std::sqrt(squares / count);
    for (Point& point : points_)
        point.price = value(0.0, point.bar);
}

double Drawn::scaled(double price) const
{
    return drawing_.isLogarithmic ? std::log(price) : price;
}

double Drawn::unscaled(double figure) const
{
    return drawing_.isLogarithmic ? std::exp(figure) : figure;
}

/// On the line through the first two points.
/// Missing: where both lie on one bar.
double Drawn::along(double bar) const
{
    const Point& a = points_[0];
    const Point& b = points_[1];
    if (a.bar == b.bar)
        return missing;
    const double share = (bar - a.bar) / (b.bar - a.bar);
    return unscaled(scaled(a.price) + share * (scaled(b.price) - scaled(a.price)));
}

double Drawn::firstBar() const
{
    return std::ranges::min_element(points_, {}, &Point::bar)->bar;
}

double Drawn::lastBar() const
{
    return std::ranges::max_element(points_, {}, &Point::bar)->bar;
}

double Drawn::value(double share, double bar) const
{
    const auto from = [&](double first, double price) { return bar >= first ? price : missing; };
    const auto price = [&](std::size_t point) { return points_[point].price; };
    switch (drawing_.tool) {
    case Tool::Line:
        return bar >= firstBar() && bar <= lastBar() ? along(bar) : missing;
    case Tool::Ray: {
        const bool isAhead = points_[1].bar > points_[0].bar;
        return (isAhead ? bar >= points_[0].bar : bar <= points_[0].bar) ? along(bar) : missing;
    }
    case Tool::Level:
        return price(0);
    case Tool::Channel: {
        const double width = scaled(price(2)) - scaled(along(points_[2].bar));
        return from(std::min(points_[0].bar, points_[1].bar),
                    unscaled(scaled(along(bar)) + share * width));
    }
    case Tool::Retracement:
        return from(firstBar(), patterns::retracementPrice(price(0), price(1), share));
    case Tool::Extension:
    case Tool::MeasuredMove:
        return from(points_[2].bar, price(2) + share * (price(1) - price(0)));
    case Tool::Box:
        return from(firstBar(),
                    std::min(price(0), price(1)) + share * std::abs(price(1) - price(0)));
    case Tool::Average: {
        const double at = std::round(bar);
        const bool isBar = at >= 0.0 && at < static_cast<double>(averages_.size());
        return isBar ? averages_[static_cast<std::size_t>(at)] : missing;
    }
    case Tool::Regression:
        return from(firstBar(), unscaled(level_ + slope_ * bar + share * deviation_));
    case Tool::Note:
    case Tool::Arrow:
    case Tool::Swings:
        break;
    }
    return missing;
}

/// A line at a share between two bars, as far as it is in sight: of few points where it is straight
/// there, of more where it is not.
void Drawn::addLine(Outline& into, const Sight& sight, double share, double from, double to,
                    bool isFaint) const
{
    const bool isAverage = drawing_.tool == Tool::Average;
    const double begin = std::max(from, sight.from - 1.0);
    double end = std::min(to, sight.to + 1.0);
    if (isAverage)
        end = std::min(end, static_cast<double>(averages_.size()) - 1.0);
    if (!(begin <= end))
        return;
    constexpr double mostSteps = 600.0;
    constexpr double curveSteps = 48.0;
    const bool isLevel = value(share, begin) == value(share, end);
    const bool isStraight = isLevel || drawing_.isLogarithmic == sight.isLogarithmic;
    const double steps = isAverage    ? std::clamp(end - begin, 1.0, mostSteps)
                         : isStraight ? 1.0
                                      : curveSteps;
    Stroke stroke;
    stroke.isFaint = isFaint;
    for (double step = 0.0; step <= steps; step += 1.0) {
        const double bar = begin + (end - begin) * step / steps;
        const double price = value(share, bar);
        if (!isMissing(price))
            stroke.points.push_back({bar, price});
    }
    if (!stroke.points.empty())
        into.strokes.push_back(std::move(stroke));
}

void Drawn::addShares(Outline& into, const Sight& sight, std::span<const double> shares) const
{
    const bool isOfMove = drawing_.tool == Tool::Retracement || drawing_.tool == Tool::Extension;
    const double first = drawing_.tool == Tool::Extension ? points_[2].bar : firstBar();
    for (const double share : shares) {
        const bool isEnd = share == 0.0 || share == 1.0;
        addLine(into, sight, share, first, endless, isOfMove && !isEnd);
        const double price = value(share, std::max(first, sight.from));
        if (isOfMove && !isMissing(price))
            into.captions.push_back({{std::max(first, sight.from), price},
                                     shareWords(share) + "  " + priceWords(price)});
    }
}

/// The path of a move, and of the one that may come.
void Drawn::addMove(Outline& into) const
{
    Stroke path;
    path.isFaint = drawing_.tool != Tool::MeasuredMove;
    path.points = points_;
    if (drawing_.tool == Tool::MeasuredMove) {
        path.hasTip = true;
        path.points.push_back({points_[2].bar + std::abs(points_[1].bar - points_[0].bar),
                               value(1.0, points_[2].bar)});
        const double target = path.points.back().price;
        into.captions.push_back(
            {path.points.back(),
             fmt::format("{}, {:+.1f} %", priceWords(target),
                         (target / points_[2].price - 1.0) * 100.0),
             target < points_[2].price ? Caption::Side::Below : Caption::Side::Above});
    }
    into.strokes.push_back(std::move(path));
}

/// Each turn with its count, and how much of the swing before it takes back.
void Drawn::addSwings(Outline& into) const
{
    constexpr std::array counts{"", "1", "2", "3", "4", "5", "a", "b", "c"};
    into.strokes.push_back({points_});
    for (std::size_t i = 1; i < points_.size(); ++i) {
        std::string words = counts[std::min(i, counts.size() - 1)];
        if (i >= 2) {
            const double share =
                patterns::retraced(points_[i - 2].price, points_[i - 1].price, points_[i].price);
            if (!isMissing(share))
                words += fmt::format(" · {:.0f} %", share * 100.0);
        }
        const bool isHigh = points_[i].price >= points_[i - 1].price;
        into.captions.push_back(
            {points_[i], words, isHigh ? Caption::Side::Above : Caption::Side::Below});
    }
}

void Drawn::addCaptions(Outline& into, const Sight& sight) const
{
    std::string words = drawing_.name;
    const auto add = [&words](const std::string& more) {
        words += words.empty() ? more : "  " + more;
    };
    Point at = points_.front();
    Caption::Side side = Caption::Side::Above;
    switch (drawing_.tool) {
    case Tool::Level:
        add(priceWords(at.price));
        at.bar = sight.to;
        side = Caption::Side::AtEnd;
        break;
    case Tool::Average:
        if (!averages_.empty() && !isMissing(averages_.back())) {
            add(priceWords(averages_.back()));
            at = {static_cast<double>(averages_.size()) - 1.0, averages_.back()};
            side = Caption::Side::AtEnd;
        }
        break;
    case Tool::Retracement:
        if (!daily_->close.empty()) {
            const double now =
                patterns::retraced(points_[0].price, points_[1].price, daily_->close.back());
            if (!isMissing(now))
                add(fmt::format("now {:.0f} % back", now * 100.0));
            at = {sight.to, points_[1].price};
            side = Caption::Side::AtEnd;
        }
        break;
    case Tool::Note:
    case Tool::Arrow:
        add(drawing_.text);
        break;
    default:
        break;
    }
    if (!words.empty())
        into.captions.push_back({at, words, side});
}

Outline Drawn::outline(const Sight& sight) const
{
    Outline made;
    if (isMissing(firstBar()))
        return made;
    made.handles = points_;
    switch (drawing_.tool) {
    case Tool::Line:
        addLine(made, sight, 0.0, firstBar(), lastBar());
        break;
    case Tool::Ray:
        if (points_[1].bar > points_[0].bar)
            addLine(made, sight, 0.0, points_[0].bar, endless);
        else
            addLine(made, sight, 0.0, -endless, points_[0].bar);
        break;
    case Tool::Level:
        addLine(made, sight, 0.0, -endless, endless);
        break;
    case Tool::Average:
        addLine(made, sight, 0.0, std::ceil(firstBar()), endless);
        break;
    case Tool::Channel:
        addShares(made, sight, channelShares);
        addLine(made, sight, 0.5, firstBar(), endless, true);
        break;
    case Tool::Retracement:
        addMove(made);
        addShares(made, sight, patterns::retracementShares);
        break;
    case Tool::Extension:
        addMove(made);
        addShares(made, sight, extensionShares);
        break;
    case Tool::MeasuredMove:
        addMove(made);
        break;
    case Tool::Box: {
        const auto& [a, b] = std::pair(points_[0], points_[1]);
        made.areas.push_back({a, b});
        made.strokes.push_back({{a, {b.bar, a.price}, b, {a.bar, b.price}, a}});
        break;
    }
    case Tool::Regression:
        addShares(made, sight, regressionShares);
        break;
    case Tool::Arrow:
        made.strokes.push_back({points_, false, true});
        break;
    case Tool::Swings:
        addSwings(made);
        break;
    case Tool::Note:
        break;
    }
    addCaptions(made, sight);
    return made;
}

Distance distanceOf(const Point& from, const Point& to, const market::Bars& daily)
{
    Distance distance;
    distance.bars = to.bar - from.bar;
    distance.money = to.price - from.price;
    distance.change = to.price / from.price - 1.0;
    distance.trueRanges = missing;
    if (daily.size() == 0)
        return distance;
    distance.days = dayAt(daily.days, to.bar) - dayAt(daily.days, from.bar);
    constexpr int period = 14;
    std::vector<double> ranges(daily.size());
    indicators::averageTrueRange(daily.high, daily.low, daily.close, period,
                                 indicators::Span::whole(), ranges);
    const double last = static_cast<double>(daily.size()) - 1.0;
    const double at = std::clamp(std::round(std::max(from.bar, to.bar)), 0.0, last);
    const double range = ranges[static_cast<std::size_t>(at)];
    if (range > 0.0)
        distance.trueRanges = distance.money / range;
    return distance;
}

} // namespace sieve::drawings
