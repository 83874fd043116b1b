#pragma once

#include <QLocalServer>
#include <QObject>
#include <QString>
#include <QStringList>

namespace sieve::app {

/// One window a library: a second start rings at the first one, which comes to the front and is
/// told what the second was started with.
class Doorbell : public QObject {
    Q_OBJECT
public:
    /// `library` is the file that both would open.
    explicit Doorbell(const QString& library, QObject* parent = nullptr);

    /// Whether a window answered within a second or two: then there is nothing more to do.
    static bool ring(const QString& library, const QStringList& arguments);
    /// Answers from now on. Requires: this program holds the library, so that what is left of a
    /// crashed one may be cleared away.
    void listen();

Q_SIGNALS:
    void rung(const QStringList& arguments);

private:
    void answer();

    QString name_;
    QLocalServer server_;
};

} // namespace sieve::app
