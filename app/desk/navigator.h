#pragma once

#include <QObject>
#include <cstdint>

namespace sieve::app {

/// The places of the routine. A value is never stored: the library knows places by their keys.
enum class PlaceId { Market, Sift, Weigh, Lists, Prove, Live };

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

Q_SIGNALS:
    void placeWanted(sieve::app::PlaceId place);
    void listWanted(qint64 list);

private:
    PlaceId shown_ = PlaceId::Market;
};

} // namespace sieve::app
