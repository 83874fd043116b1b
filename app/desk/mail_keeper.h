#pragma once

#include "app/desk/asker.h"
#include "core/base/day.h"

#include <QObject>
#include <functional>
#include <optional>

namespace sieve::app {

class Desk;

/// Writes the mails of the evenings on which the person wants them into the outbox: once alerts
/// were put to the newest session, for the newest session whose evening is wanted. What was missed
/// meanwhile is told in that one mail.
class MailKeeper : public QObject {
    Q_OBJECT
public:
    explicit MailKeeper(Desk& desk);

    /// Writes the mail of the newest session now, whatever the evening, with what changed since the
    /// last mail.
    void writeNow();

Q_SIGNALS:
    void told(const QString& fact);
    void failed(const QString& why);

private:
    void check();
    enum class Asked { ByTerms, ByPerson };
    void askMailedTo(std::function<void(std::optional<Day>)> then);
    void write(std::optional<Day> since, Day day, Asked asked);
    void keep(Day day, const std::string& mail);

    Desk& desk_;
    Asker asker_;
    bool isAsking_ = false; ///< the library, up to which session mails were written
};

} // namespace sieve::app
