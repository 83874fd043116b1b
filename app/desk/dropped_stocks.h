#pragma once

#include <QString>
#include <cstddef>
#include <functional>
#include <vector>

class QObject;

namespace sieve::app {

class Desk;

/// Looks beside the window's thread for the stocks that a dropped text names for certain, and hands
/// them to `take`, unless `owner` is gone or another market is open by then. Each drop is looked
/// through by itself, so that none takes the place of one before. Requires: an open market.
void findDropped(Desk& desk, QObject* owner, const QString& dropped,
                 const std::function<void(const std::vector<std::size_t>&)>& take);

} // namespace sieve::app
