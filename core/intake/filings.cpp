#include "core/intake/filings.h"

namespace sieve::intake {

void readFilings(const std::filesystem::path&, Records&, IntakeReport&, const Progress&) {}

} // namespace sieve::intake
