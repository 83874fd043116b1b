#pragma once

#include "core/library/work.h"

#include <optional>
#include <string>

/// A person's work for tests.
namespace sieve::test {

screens::Screen screenNamed(const std::string& name, const std::string& criterion = "close > 5");
watchlists::Watchlist listNamed(std::int64_t id, const std::string& name);
Shared<drawings::Drawing> levelAt(std::int64_t id, double price);
Shared<watchlists::Verdict> judged(std::int64_t id, const std::string& symbol,
                                   std::optional<bool> isLiked);
watchlists::TradePlan plannedAt(double entry);
watchlists::EntryPage writtenPage();
Shared<studies::KeptRun> keptRun(std::int64_t id, const std::string& name);
Shared<watchlists::Alert> levelAlert(std::int64_t id, double level);
/// Something of every kind.
library::Work richWork();

} // namespace sieve::test
