#include "core/drawings/stock.h"

#include "core/drawings/time_line.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <cmath>

namespace sieve::drawings {

namespace {

/// How many splits had taken effect by a day.
std::size_t footingOn(const market::Market& market, std::size_t instrument, Day day)
{
    const auto bar = market::lastBarBy(market, instrument, day);
    return bar ? market.footing(instrument, *bar) : 0;
}

/// The close of the bar nearest to a day.
double closeNear(const market::Bars& daily, Day day)
{
    const double last = static_cast<double>(daily.size()) - 1.0;
    const double place = std::clamp(std::round(placeOf(daily.days, day)), 0.0, last);
    return daily.close[static_cast<std::size_t>(place)];
}

} // namespace

bool isOf(const Drawing& drawing, const market::Market& market, std::size_t instrument)
{
    return market::wasCalled(market, instrument, drawing.symbol, drawing.drawnOn);
}

Drawing onFooting(const Drawing& drawing, const market::Market& market, std::size_t instrument,
                  std::size_t footing)
{
    // The footing of a day is that of its last bar: a split that takes effect on a day without
    // trade counts from the next bar on.
    const auto bar = market::lastBarBy(market, instrument, drawing.drawnOn);
    const double factor =
        bar ? market.priceFactor(instrument, market.bars(instrument).days[*bar], footing) : 1.0;
    Drawing other = drawing;
    for (Anchor& anchor : other.anchors)
        anchor.price *= factor;
    return other;
}

std::vector<Drawing> drawingsOn(std::span<const Shared<Drawing>> all, const market::Market& market,
                                std::size_t instrument, Day day)
{
    std::vector<Drawing> own;
    const std::size_t footing = footingOn(market, instrument, day);
    for (const Shared<Drawing>& drawing : all)
        if (drawing->drawnOn <= day && isOf(*drawing, market, instrument))
            own.push_back(onFooting(*drawing, market, instrument, footing));
    return own;
}

Drawing drawnOn(Drawing drawing, const market::Market& market, std::size_t instrument, Day day)
{
    drawing.symbol = market::symbolOn(market.instrument(instrument), day);
    drawing.drawnOn = day;
    return drawing;
}

Drawing withLookOf(Drawing drawing, const Drawing& other)
{
    Drawing looks = other;
    looks.id = drawing.id;
    looks.tool = drawing.tool;
    looks.symbol = std::move(drawing.symbol);
    looks.drawnOn = drawing.drawnOn;
    looks.anchors = std::move(drawing.anchors);
    return looks;
}

Drawing moved(Drawing drawing, const market::Bars& daily, double bars, double from, double to)
{
    for (Anchor& anchor : drawing.anchors) {
        const double price =
            drawing.isLogarithmic ? anchor.price * to / from : anchor.price + to - from;
        const double place = placeOf(daily.days, anchor) + bars;
        const bool isInDay = std::fabs(place - std::round(place)) > 1e-9;
        anchor = anchorAt(daily.days, place, price, isInDay);
    }
    return drawing;
}

std::optional<Drawing> putOnto(const Drawing& drawing, const market::MarketPtr& market,
                               std::size_t instrument, Day day)
{
    const market::AsOf asOf(market, day);
    const market::Bars own = asOf.adjustedBars(instrument);
    if (own.size() == 0 || drawing.anchors.empty())
        return std::nullopt;
    Drawing put = drawing;
    const auto from = market->find(drawing.symbol, drawing.drawnOn);
    if (from == instrument) {
        put = onFooting(drawing, *market, instrument, footingOn(*market, instrument, day));
    } else if (from) {
        const market::Bars other = market::AsOf(market, drawing.drawnOn).adjustedBars(*from);
        const Day first = drawing.anchors.front().day;
        const double scale =
            other.size() == 0 ? 1.0 : closeNear(own, first) / closeNear(other, first);
        for (Anchor& anchor : put.anchors)
            anchor.price *= scale;
    }
    return drawnOn(std::move(put), *market, instrument, day);
}

const Drawing* drawingOf(const Named& named, const market::Market& market, std::size_t instrument)
{
    const Drawing* last = nullptr;
    for (const auto& drawing : named.drawings)
        if (isOf(*drawing, market, instrument) && (!last || drawing->id > last->id))
            last = drawing.get();
    return last;
}

} // namespace sieve::drawings
