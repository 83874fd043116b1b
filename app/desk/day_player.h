#pragma once

#include <QObject>
#include <QTimer>

namespace sieve::app {

class Focus;
class OpenMarket;

/// Goes forward from a past day by itself, session after session, until the latest one. The as-of
/// day governs every place, so that nothing of the days to come shows anywhere.
class DayPlayer : public QObject {
    Q_OBJECT
public:
    DayPlayer(OpenMarket& market, Focus& focus, QObject* parent);

    void toggle(); ///< on the latest day the person is told where to begin
    bool isPlaying() const { return timer_.isActive(); }
    void changePace(int by);
    QString pace() const; ///< "2 sessions a second"

Q_SIGNALS:
    void changed(); ///< it begins, ends or has another pace
    void told(const QString& fact);

private:
    void stop();
    void step();
    int interval() const; ///< milliseconds

    Focus& focus_;
    QTimer timer_;
    int pace_;
};

} // namespace sieve::app
