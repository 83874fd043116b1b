#pragma once

#include "core/base/minute.h"

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace sieve::feed {

/// A second of universal time.
class Moment {
public:
    /// The second that lies `serial` seconds after 1970-01-01 00:00 UTC.
    static constexpr Moment fromSerial(std::int64_t serial) { return Moment(serial); }
    static constexpr Moment of(Minute minute, int second = 0)
    {
        return Moment(std::int64_t{60} * minute.serial() + second);
    }
    /// Reads "2026-09-30T14:05:30Z" and nothing else; empty when it is not one.
    static std::optional<Moment> parse(std::string_view text);

    constexpr std::int64_t serial() const { return serial_; }
    /// In which it lies.
    Minute minute() const;
    std::string iso() const; ///< "2026-09-30T14:05:30Z"

    friend constexpr auto operator<=>(Moment, Moment) = default;

private:
    explicit constexpr Moment(std::int64_t serial) : serial_(serial) {}
    std::int64_t serial_;
};

} // namespace sieve::feed
