#pragma once

#include "core/base/day.h"
#include "core/base/minute.h"
#include "core/base/missing.h"

#include <cstddef>
#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::market {

enum class RatingAction : std::uint8_t { Starts, Raises, Keeps, Lowers, Ends };

/// "starts", "raises", "keeps", "lowers", "ends".
std::string_view ratingActionName(RatingAction action);
std::optional<RatingAction> ratingActionNamed(std::string_view name);

/// A row of ratings.csv: what a research house did with its opinion of a stock.
struct Rating {
    Day date;
    std::string house;
    RatingAction action = RatingAction::Keeps;
    double target = missing; ///< price that the house expects, as of `date`

    friend bool operator==(const Rating&, const Rating&) = default;
};

/// An entry of a news feed about a stock.
struct NewsItem {
    Minute time;
    std::string id;
    std::string title;
    std::string summary;
    std::string link;

    friend bool operator==(const NewsItem&, const NewsItem&) = default;
};

/// The texts about an instrument, oldest first. They are many and seldom read, so they are kept as
/// bytes and made on demand.
struct Notices {
    std::vector<Rating> ratings;
    std::vector<NewsItem> news;

    bool isEmpty() const { return ratings.empty() && news.empty(); }
};

/// Nothing when there is nothing to tell.
std::string packed(const Notices& notices);
/// What could be read; damaged bytes give fewer notices, never a fault.
Notices unpackedNotices(std::span<const std::byte> bytes);

} // namespace sieve::market
