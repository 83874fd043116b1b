#pragma once

#include "core/screens/screen.h"

#include <string>
#include <vector>

namespace sieve::screens {

/// One thing in which two screens differ.
struct Difference {
    enum class What { Added, Removed, Changed };

    What what = What::Changed;
    std::string part;   ///< "criterion", "universe", "rank", …
    std::string before; ///< empty where it was added
    std::string after;  ///< empty where it was removed

    friend bool operator==(const Difference&, const Difference&) = default;
};

/// What became of a screen, in the order of its parts. Criteria of the same words are the same one;
/// of the others, those that differ in their numbers only belong together, and then those that
/// stand in the same place between the same neighbours. Remarks of files are not compared.
std::vector<Difference> differences(const Screen& before, const Screen& after);

} // namespace sieve::screens
