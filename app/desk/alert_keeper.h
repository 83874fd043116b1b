#pragma once

#include "app/desk/asker.h"
#include "core/watchlists/alert.h"

#include <QObject>
#include <vector>

namespace sieve::app {

class Desk;

/// Puts the person's alerts to the market that is open, whenever it has sessions to which they were
/// not put yet, and keeps what they told: in the library, never to be lost.
class AlertKeeper : public QObject {
    Q_OBJECT
public:
    explicit AlertKeeper(Desk& desk);

    const std::vector<watchlists::Raised>& log() const { return log_; } ///< the oldest first
    std::size_t unseen() const;
    bool isSettled() const { return isSettled_; }
    void setSeen(const std::vector<std::int64_t>& ids);

Q_SIGNALS:
    void logChanged();
    /// Told just now, the oldest first.
    void raised(const std::vector<sieve::watchlists::Raised>& fresh);
    /// All alerts were put to the newest session of the open market, and what they told is kept.
    void settled();
    void failed(const QString& why);

private:
    void load();
    void check();
    void put(Day after);
    void settle();
    void take(const std::vector<watchlists::Raised>& fresh);

    Desk& desk_;
    Asker asker_;
    std::vector<watchlists::Raised> log_;
    Day checkedTo_ = Day::fromSerial(0); ///< of the open market, as far as asked in this session
    std::string checkedMarket_;
    bool isSettled_ = false;
};

} // namespace sieve::app
