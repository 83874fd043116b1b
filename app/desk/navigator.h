#pragma once

#include <QObject>
#include <array>
#include <cstdint>
#include <string_view>

namespace sieve::app {

/// The places of the routine. A value is never stored: the library knows places by their keys.
enum class PlaceId { Market, Sift, Weigh, Lists, Prove, Live };

/// How the library calls them; never changed. In the order of the places.
inline constexpr std::array placeKeys{"market", "sift", "weigh", "lists", "prove", "live"};
constexpr const char* keyOf(PlaceId place)
{
    return placeKeys.at(static_cast<std::size_t>(place));
}
/// The place of that key; Market for an unknown one.
constexpr PlaceId placeWithKey(std::string_view key)
{
    for (std::size_t at = 0; at < placeKeys.size(); ++at)
        if (key == placeKeys.at(at))
            return static_cast<PlaceId>(at);
    return PlaceId::Market;
}

/// The way from one place to another, of which it knows no more than the name.
class Navigator : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    void show(PlaceId place) { Q_EMIT placeWanted(place); }
    PlaceId shown() const { return shown_; }
    void setShown(PlaceId place) { shown_ = place; } ///< said by the window
    /// Lists with this list.
    void showList(std::int64_t list)
    {
        Q_EMIT placeWanted(PlaceId::Lists);
        Q_EMIT listWanted(list);
    }

    /// Prove, with what followed the matches of the screen in hand.
    void showFollowed()
    {
        Q_EMIT placeWanted(PlaceId::Prove);
        Q_EMIT followedWanted();
    }

Q_SIGNALS:
    void placeWanted(sieve::app::PlaceId place);
    void listWanted(qint64 list);
    void followedWanted();

private:
    PlaceId shown_ = PlaceId::Market;
};

} // namespace sieve::app
