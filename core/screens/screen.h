#pragma once

// What a person looks for, and what a day has to offer:
//   screen.h  universe, criteria and rank, as text      run.h     who passes, and what each costs
//   store.h   the person's screens in the library       table.h   columns of figures, sorted
//   starter.h the screens that the program brings

#include "core/base/result.h"

#include <string>
#include <string_view>
#include <vector>

namespace sieve::screens {

struct Criterion {
    std::string text; ///< a condition of the language
    bool isOn = true;
    std::string comment;

    friend bool operator==(const Criterion&, const Criterion&) = default;
};

/// Everything is text of the language, so a screen can be kept before it is right.
struct Screen {
    std::string name;
    std::string purpose;  ///< one sentence
    std::string universe; ///< a condition; empty: every stock
    std::vector<Criterion> criteria;
    std::string rankBy;               ///< a figure, the largest first; empty: by symbol
    int keep = 0;                     ///< the best so many; 0: all
    std::vector<std::string> columns; ///< fields or expressions

    friend bool operator==(const Screen&, const Screen&) = default;
};

/// The screen as TOML, the form of the starter library and of files.
std::string toToml(const Screen& screen);
/// Errors: located: no TOML, no name, a key of another type, a criterion without text.
Result<Screen> screenFromToml(std::string_view toml);

} // namespace sieve::screens
