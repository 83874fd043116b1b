#pragma once

#include "core/base/result.h"
#include "core/library/work.h"

#include <span>
#include <vector>

namespace sieve::library {

class Library;

/// The person's drawings in the library, by id. One that cannot be read stays in the library;
/// `problems` tells of it.
struct LoadedDrawings {
    std::vector<Shared<drawings::Drawing>> drawings;
    std::vector<LocatedError> problems;
};
LoadedDrawings loadDrawings(Library& library);
/// Brings the library from the drawings `before` to the drawings `after`, both by id, inside the
/// caller's transaction.
void saveDrawings(Library& library, std::span<const Shared<drawings::Drawing>> before,
                  std::span<const Shared<drawings::Drawing>> after);

} // namespace sieve::library
