#pragma once

#include <QObject>

class QWidget;

namespace sieve::app {

/// Lets Ctrl+Z and its like go where a person expects: in an input that holds a change of its own,
/// not yet given, it undoes that; everywhere else in the window it undoes the last step of the
/// work. Left to itself an input keeps the key for good.
class UndoKeys : public QObject {
    Q_OBJECT
public:
    explicit UndoKeys(QWidget& window);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QWidget& window_;
};

} // namespace sieve::app
