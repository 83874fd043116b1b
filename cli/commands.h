#pragma once

#include "cli/answer.h"
#include "core/base/day.h"
#include "core/base/progress.h"
#include "core/base/result.h"

#include <cstdint>
#include <filesystem>
#include <optional>
#include <stdexcept>
#include <string>
#include <vector>

namespace sieve::cli {

/// The input was at fault: main tells `what()` on standard error and ends with 1.
class InputFault : public std::runtime_error {
public:
    using std::runtime_error::runtime_error;
    explicit InputFault(const LocatedError& error);
    /// The same for an expression: the text with a mark under the fault, as a compiler shows it.
    InputFault(const LocatedError& error, const std::string& text);
};

/// What every command may be given; each reads what it has a use for.
struct Request {
    std::filesystem::path market;
    std::filesystem::path source;
    std::filesystem::path mapping;
    bool isUpdate = false;
    std::uint64_t seed = 20260930;
    std::string symbol;
    std::vector<std::string> expressions;
    std::string text;
    std::filesystem::path file;
    std::optional<Day> day; ///< the as-of day; the newest session when empty
    std::optional<Day> from;
    std::optional<Day> to;
};

// Datasets and markets. Errors of all: InputFault; std::system_error with the path; Stopped.

Answer demoData(const Request& request);
Answer intake(const Request& request, const Progress& progress);
Answer report(const Request& request);
Answer info(const Request& request, const Progress& progress);

// Expressions over a market.

Answer series(const Request& request);
Answer column(const Request& request);
Answer screen(const Request& request);
Answer daily(const Request& request, const Progress& progress);
Answer explain(const Request& request);
/// With a market: the share of its stocks of which each is known.
Answer fields(const Request& request);

} // namespace sieve::cli
