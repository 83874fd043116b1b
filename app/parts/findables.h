#pragma once

#include "core/base/progress.h"

#include <QString>
#include <functional>
#include <vector>

namespace sieve::app {

/// Something that the finder leads to.
struct Findable {
    QString name;
    QString what;               ///< "stock", "list", …, with what tells it apart
    std::function<void()> open; ///< on the window's thread
};

/// The places of those that fit some words, at most so many: first those whose name is the words,
/// then those that begin with them, then those where a word does, then those that have all of the
/// words anywhere. No words fit all, in their order.
/// Errors: Stopped.
std::vector<std::size_t> findAmong(const std::vector<Findable>& all, const QString& words,
                                   std::size_t most, const Progress& progress);

} // namespace sieve::app
