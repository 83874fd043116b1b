#pragma once

#include "app/desk/navigator.h"
#include "app/parts/actions.h"

#include <span>

class QWidget;

namespace sieve::app {

class Desk;

/// A place of the routine: one row of the table in places.cpp. The frame knows none by name.
struct PlaceRow {
    PlaceId id;
    Within within;     ///< whose actions are its own
    const char* key;   ///< of the library, never changed; also the name of its icon
    const char* title; ///< translated in the context "Places"
    QWidget* (*make)(Desk&);
};

/// In the order of the routine; the n-th has the shortcut Alt+n.
std::span<const PlaceRow> places();

} // namespace sieve::app
