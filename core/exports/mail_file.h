#pragma once

#include <chrono>
#include <string>
#include <string_view>

namespace sieve::exports {

/// A letter in plain text and in HTML; who reads it sees one of the two.
struct Mail {
    std::string to; ///< one address
    std::string subject;
    std::string text;
    std::string html;
    std::chrono::sys_seconds at{}; ///< when it was written
    std::string id;                ///< told apart by it; letters, digits, '-' and '.'
};

/// Why a text is no address of one recipient; empty: it is one. A line break or another control
/// character, which would begin a head of its own, is never taken.
std::string faultOfAddress(std::string_view address);

/// The letter as a file (RFC 5322, multipart/alternative, UTF-8), which mail programs open. Breaks
/// in the subject become spaces.
/// Errors: std::invalid_argument for an address with a fault.
std::string toEml(const Mail& mail);

} // namespace sieve::exports
