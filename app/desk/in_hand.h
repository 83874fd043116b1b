#pragma once

#include "core/watchlists/tray.h"

#include <QString>
#include <optional>
#include <string>
#include <vector>

class QWidget;

namespace sieve::app {

class Desk;

/// Takes stocks in hand as of the day, those of `symbols` that the market has, and selects the
/// first. Where decisions about others would go, the person is asked: add them, or put them in
/// place of those in hand. Gives back whether they were taken.
/// `what` is the step's name, `source` where they come from. Requires: an open market.
bool takeInHand(Desk& desk, QWidget* window, const std::vector<std::string>& symbols,
                const QString& what, const QString& source);

/// Decides about a stock in hand; one that is not joins those that are. Gives back whether it was
/// done. `source`: where it comes from; `reason`: another one than it has. Requires: an open
/// market.
bool markInHand(Desk& desk, std::size_t stock, watchlists::Mark mark, const QString& source,
                const std::optional<QString>& reason = {});

} // namespace sieve::app
