#include "app/frame/places.h"

#include "app/lists/lists_place.h"
#include "app/market/market_place.h"
#include "app/parts/empty_page.h"
#include "app/prove/prove_place.h"
#include "app/sift/sift_place.h"
#include "app/weigh/weigh_place.h"

#include <QObject>
#include <array>

namespace sieve::app {

namespace {

QWidget* notBuiltYet(const QString& title, const QString& text)
{
    auto* page = new EmptyPage;
    page->setTexts(title, text);
    return page;
}

constexpr std::array rows{
    PlaceRow{PlaceId::Market, Within::Market, keyOf(PlaceId::Market),
             QT_TRANSLATE_NOOP("Places", "Market"),
             [](Desk& desk) -> QWidget* { return new MarketPlace(desk); }},
    PlaceRow{PlaceId::Sift, Within::Sift, keyOf(PlaceId::Sift), QT_TRANSLATE_NOOP("Places", "Sift"),
             [](Desk& desk) -> QWidget* { return new SiftPlace(desk); }},
    PlaceRow{PlaceId::Weigh, Within::Weigh, keyOf(PlaceId::Weigh),
             QT_TRANSLATE_NOOP("Places", "Weigh"),
             [](Desk& desk) -> QWidget* { return new WeighPlace(desk); }},
    PlaceRow{PlaceId::Lists, Within::Lists, keyOf(PlaceId::Lists),
             QT_TRANSLATE_NOOP("Places", "Lists"),
             [](Desk& desk) -> QWidget* { return new ListsPlace(desk); }},
    PlaceRow{PlaceId::Prove, Within::Prove, keyOf(PlaceId::Prove),
             QT_TRANSLATE_NOOP("Places", "Prove"),
             [](Desk& desk) -> QWidget* { return new ProvePlace(desk); }},
    PlaceRow{PlaceId::Live, Within::Window, keyOf(PlaceId::Live),
             QT_TRANSLATE_NOOP("Places", "Live"),
             [](Desk&) -> QWidget* {
                 return notBuiltYet(
                     QObject::tr("Live is not built yet"),
                     QObject::tr("Here you will be told, during the session, when something on a "
                                 "list does what you wait for. This version cannot do it."));
             }},
};

} // namespace

std::span<const PlaceRow> places()
{
    return rows;
}

} // namespace sieve::app
