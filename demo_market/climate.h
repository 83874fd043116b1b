#pragma once

#include "core/base/day.h"
#include "demo_market/dice.h"

#include <array>
#include <cstddef>
#include <string_view>
#include <vector>

namespace sieve::demo_market {

inline constexpr std::size_t sectorCount = 12;
std::size_t sectorNumber(std::string_view sector);

/// The sessions of the main exchange: weekdays without the isles' holidays. The younger one has the
/// same but for its own day.
std::vector<Day> sessionsBetween(Day first, Day last);
bool isTarnDay(Day day); ///< the younger exchange rests, the main one trades
/// Days on which both close early.
bool isShortDay(Day day);

/// What moves all stocks of an exchange on one session.
struct Weather {
    double market = 0.0; ///< change of the whole
    double small = 0.0;  ///< what small companies do beyond that
    std::array<double, sectorCount> sectors{};
};

/// The phases that the demo market goes through: two long rises, a crash, a sharp relief rally
/// inside a fall, a dull year, a narrow rise whose breadth fails, a rotation. The younger exchange
/// lives through them `lagSessions` later.
std::vector<Weather> makeWeather(const std::vector<Day>& sessions, std::size_t lagSessions,
                                 Dice dice);

} // namespace sieve::demo_market
