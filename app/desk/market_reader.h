#pragma once

#include "app/desk/asker.h"
#include "core/conditions/reading.h"

#include <QObject>
#include <memory>

namespace sieve::app {

class Desk;

/// Reads the market by the person's book whenever one of the two changes. What it read is there for
/// Market, which shows it, and for the frame, which tells the stance everywhere.
class MarketReader : public QObject {
    Q_OBJECT
public:
    explicit MarketReader(Desk& desk);

    /// Null until a market has been read.
    const std::shared_ptr<const conditions::Reading>& reading() const { return reading_; }
    const std::shared_ptr<const conditions::Groups>& groups() const { return groups_; }

Q_SIGNALS:
    void changed();
    void failed(const QString& message);

private:
    void read();
    void readGroups();
    void readAgainIfNamed();

    Desk& desk_;
    Asker rules_;
    Asker groupsAsker_;
    std::shared_ptr<const conditions::Reading> reading_;
    std::shared_ptr<const conditions::Groups> groups_;
};

} // namespace sieve::app
