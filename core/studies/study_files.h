#pragma once

#include "core/studies/following.h"

#include <functional>
#include <optional>
#include <string>
#include <string_view>

namespace sieve::studies {

/// Later than every day of a market: what a question that names no end asks to.
Day lastDay();

/// The person's or a ready screen of that name.
using ScreenNamed = std::function<std::optional<screens::Screen>(std::string_view)>;

/// A question as TOML, the form of files (docs/studies.md). What it does not say is as in
/// FollowingQuestion; `screen` is a name, or else the criteria stand in the file.
/// Errors: located: no TOML, a key that is unknown or of another type, no such screen.
Result<FollowingQuestion> followingFromToml(std::string_view toml, const ScreenNamed& screenNamed);
/// Reading it gives the question again; the screen's criteria stand in it.
std::string toToml(const FollowingQuestion& question);

} // namespace sieve::studies
