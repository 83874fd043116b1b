#pragma once

#include "core/market/market.h"

namespace sieve::test {

/// A market of one stock with one bar.
inline market::MarketPtr oneStock()
{
    market::InstrumentRecord record;
    record.instrument.symbol = "AAAA.C";
    record.instrument.sector = "Energy";
    record.bars.days = {*Day::parse("2024-01-02")};
    record.bars.open = record.bars.high = record.bars.low = record.bars.close = {10.0};
    record.bars.volume = {100.0};
    std::vector<market::InstrumentRecord> records{record};
    return std::make_shared<const market::Market>(market::MarketDescription{}, std::move(records));
}

} // namespace sieve::test
