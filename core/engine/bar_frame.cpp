#include "core/engine/bar_frame.h"

#include <algorithm>

namespace sieve::engine {

namespace {

/// By BarField.
constexpr std::array columns{&market::BarsView::open, &market::BarsView::high,
                             &market::BarsView::low, &market::BarsView::close,
                             &market::BarsView::volume};

} // namespace

BarFrame dailyFrame(const market::Market& market, std::size_t instrument, std::size_t footing)
{
    const market::BarsView& bars = market.bars(instrument);
    BarFrame frame{&market, instrument, footing, bars.days, {}, {}};
    if (market.splits(instrument).empty())
        frame.columns = {bars.open, bars.high, bars.low, bars.close, bars.volume};
    return frame;
}

std::span<const double> barsInPlace(const BarFrame& frame, market::BarField field, std::size_t from,
                                    std::size_t to)
{
    const auto place = static_cast<std::size_t>(field);
    if (const auto& column = frame.columns.at(place); !column.empty())
        return column.subspan(from, to - from);
    const auto isAsTraded = [&frame](std::size_t bar) {
        return frame.market->footing(frame.instrument, bar) == frame.footing;
    };
    if (!isAsTraded(from) || !isAsTraded(to - 1))
        return {};
    return tradedColumn(*frame.market, frame.instrument, field).subspan(from, to - from);
}

std::span<const double> tradedColumn(const market::Market& market, std::size_t instrument,
                                     market::BarField field)
{
    return market.bars(instrument).*columns.at(static_cast<std::size_t>(field));
}

std::size_t barsBy(const BarFrame& frame, Day day)
{
    return static_cast<std::size_t>(std::ranges::upper_bound(frame.days, day) - frame.days.begin());
}

} // namespace sieve::engine
