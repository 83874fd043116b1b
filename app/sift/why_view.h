#pragma once

#include "app/desk/asker.h"
#include "core/screens/why.h"

#include <QWidget>

class QLabel;
class QTreeWidget;

namespace sieve::app {

class Desk;

/// Why the chosen stock is in or out: each criterion with the stock's figure, the limit and what is
/// missing; below each, every part with its value and the day it comes from.
class WhyView : public QWidget {
    Q_OBJECT
public:
    explicit WhyView(Desk& desk, QWidget* parent = nullptr);
    /// Asks for the chosen stock of the desk, if the view can be seen.
    void setScreen(const screens::Screen& screen);

protected:
    void showEvent(QShowEvent* event) override;

private:
    enum Column { Part, Value, Bound, Away, From, ColumnCount };

    void ask();
    void show(const screens::Why& why);

    Desk& desk_;
    Asker asker_;
    screens::Screen screen_;
    QLabel* verdict_;
    QTreeWidget* tree_;
};

} // namespace sieve::app
