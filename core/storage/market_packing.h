#pragma once

#include "core/base/pack.h"
#include "core/market/market.h"

#include <string>

namespace sieve::storage {

// What the market file holds that is no column of equal rows: who the instruments are, and the
// market.

void pack(Packer& packer, const market::Instrument& instrument);
/// What is missing at the end of damaged bytes is empty: see Unpacker::isWhole.
market::Instrument unpackInstrument(Unpacker& unpacker);

std::string packed(const market::MarketDescription& description);
market::MarketDescription unpackDescription(Unpacker& unpacker);

} // namespace sieve::storage
