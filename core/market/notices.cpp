#include "core/market/notices.h"

#include "core/base/pack.h"
#include "core/base/words.h"

namespace sieve::market {

namespace {
constexpr Words<RatingAction, 5> actions{{{{RatingAction::Starts, "starts"},
                                           {RatingAction::Raises, "raises"},
                                           {RatingAction::Keeps, "keeps"},
                                           {RatingAction::Lowers, "lowers"},
                                           {RatingAction::Ends, "ends"}}}};
} // namespace

std::string_view ratingActionName(RatingAction action)
{
    return actions.word(action);
}

std::optional<RatingAction> ratingActionNamed(std::string_view name)
{
    return actions.value(name);
}

std::string packed(const Notices& notices)
{
    if (notices.isEmpty())
        return {};
    Packer packer;
    packer.add(static_cast<std::uint32_t>(notices.ratings.size()));
    for (const Rating& rating : notices.ratings) {
        packer.add(rating.date);
        packer.add(rating.action);
        packer.add(rating.target);
        packer.add(std::string_view(rating.house));
    }
    packer.add(static_cast<std::uint32_t>(notices.news.size()));
    for (const NewsItem& item : notices.news) {
        packer.add(item.time.serial());
        for (const std::string* text : {&item.id, &item.title, &item.summary, &item.link})
            packer.add(std::string_view(*text));
    }
    return packer.bytes();
}

Notices unpackedNotices(std::span<const std::byte> bytes)
{
    Notices notices;
    if (bytes.empty())
        return notices;
    Unpacker unpacker(bytes);
    for (std::size_t left = unpacker.readCount(); left > 0 && unpacker.isWhole(); --left) {
        Rating rating{unpacker.readDay(), {}, unpacker.read<RatingAction>()};
        rating.target = unpacker.read<double>();
        rating.house = unpacker.readText();
        if (unpacker.isWhole())
            notices.ratings.push_back(std::move(rating));
    }
    for (std::size_t left = unpacker.readCount(); left > 0 && unpacker.isWhole(); --left) {
        NewsItem item{Minute::fromSerial(unpacker.read<std::int32_t>()), {}, {}, {}, {}};
        for (std::string* text : {&item.id, &item.title, &item.summary, &item.link})
            *text = unpacker.readText();
        if (unpacker.isWhole())
            notices.news.push_back(std::move(item));
    }
    return notices;
}

} // namespace sieve::market
