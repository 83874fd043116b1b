#pragma once

#include "app/desk/asker.h"

#include <QObject>
#include <QTimer>
#include <functional>

namespace sieve::app {

class Desk;

/// Writes what is due for the stocks on lists as an iCalendar file: when asked, and, where the
/// person wants that, anew whenever the market or the lists change.
class CalendarKeeper : public QObject {
    Q_OBJECT
public:
    explicit CalendarKeeper(Desk& desk);

    void write(const QString& file);
    /// The file that is kept up to date; empty: none.
    QString keptFile() const;
    void keep(const QString& file);

Q_SIGNALS:
    void told(const QString& fact);
    void failed(const QString& why);

private:
    void writeKept();
    void ask(Asker& asker, const QString& file, std::function<void(std::size_t)> take);

    Desk& desk_;
    Asker asker_;
    Asker keptAsker_;
    QTimer soon_; ///< edits come in rows
};

} // namespace sieve::app
