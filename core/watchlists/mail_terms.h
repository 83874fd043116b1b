#pragma once

#include "core/base/day.h"
#include "core/base/result.h"

#include <array>
#include <string>
#include <string_view>

namespace sieve::watchlists {

/// What a person wants to be told by mail, on which evenings. The mails go into a folder beside the
/// library (library/outbox.h), from where another program sends them.
struct MailTerms {
    std::string to = {}; ///< one address; empty: no mail is written
    std::array<bool, 7> evenings{true, true, true, true, true, false, false}; ///< from Monday on
    bool hasBrief = true;     ///< what changed since the last mail
    bool hasAlerts = true;    ///< what alerts told since, with their stocks
    std::string columns = {}; ///< the set of columns in which stocks are told; empty: none

    friend bool operator==(const MailTerms&, const MailTerms&) = default;
};

/// Whether a mail is wanted on the evening of a day.
bool isWanted(const MailTerms& terms, Day day);

/// As TOML, and back.
/// Errors: located: no TOML, an unknown key, a weekday that is none, a line break in the address.
std::string toToml(const MailTerms& terms);
Result<MailTerms> mailTermsFromToml(std::string_view toml);

} // namespace sieve::watchlists
