#pragma once

#include <QMenu>

namespace sieve::app {

class Desk;

/// The person's own short list of reasons, each with its number as a key; at the end, to change it.
class ReasonMenu : public QMenu {
    Q_OBJECT
public:
    ReasonMenu(Desk& desk, QWidget* parent);

Q_SIGNALS:
    void chosen(const QString& reason);

protected:
    bool event(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    QAction* actionOf(int key) const;
    void editReasons();

    Desk& desk_;
};

} // namespace sieve::app
