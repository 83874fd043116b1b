#include "core/market/bars.h"

namespace sieve::market {

Bars::Bars(const BarsView& view)
    : days(view.days.begin(), view.days.end()), open(view.open.begin(), view.open.end()),
      high(view.high.begin(), view.high.end()), low(view.low.begin(), view.low.end()),
      close(view.close.begin(), view.close.end()), volume(view.volume.begin(), view.volume.end())
{
}

void Bars::reserve(std::size_t bars)
{
    days.reserve(bars);
    for (auto* column : {&open, &high, &low, &close, &volume})
        column->reserve(bars);
}

void Bars::add(const Bar& bar)
{
    days.push_back(bar.day);
    open.push_back(bar.open);
    high.push_back(bar.high);
    low.push_back(bar.low);
    close.push_back(bar.close);
    volume.push_back(bar.volume);
}

Bar Bars::at(std::size_t bar) const
{
    return {days.at(bar), open[bar], high[bar], low[bar], close[bar], volume[bar]};
}

void Bars::truncate(std::size_t bars)
{
    days.erase(days.begin() + static_cast<std::ptrdiff_t>(bars), days.end());
    for (auto* column : {&open, &high, &low, &close, &volume})
        column->resize(bars);
}

} // namespace sieve::market
