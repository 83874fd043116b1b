#pragma once

#include "core/base/day.h"

#include <QObject>
#include <cstddef>
#include <optional>
#include <string>

namespace sieve::app {

class OpenMarket;

/// What all places look at: the as-of day and the selected stock. A market that is opened starts at
/// its last session, with the same stock selected where it has it; OpenMarket::opened() tells of
/// that, no signal from here.
class Focus : public QObject {
    Q_OBJECT
public:
    /// Requires: made before anybody else listens to the market, so that it has the new day when
    ///           the others hear of the new market.
    Focus(OpenMarket& market, QObject* parent);

    // The as-of day: always a session
    Day day() const { return day_; }
    bool isLatest() const;
    /// The session on or before it. Where there is none the day stays, and the person is told.
    void setDay(Day day);
    void stepSessions(int sessions);
    void goToLatest();

    // The selected stock
    std::optional<std::size_t> selected() const { return selected_; }
    void select(std::size_t instrument);
    void selectSymbol(const std::string& symbol);

Q_SIGNALS:
    void dayChanged();
    void selectionChanged();
    void told(const QString& fact);

private:
    OpenMarket& market_;
    Day day_ = Day::fromSerial(0);
    std::optional<std::size_t> selected_;
    std::string symbol_; ///< of the selected stock, by which it is found in another market
};

} // namespace sieve::app
