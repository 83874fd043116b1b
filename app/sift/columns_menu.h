#pragma once

#include "core/screens/column_sets.h"

#include <QMenu>
#include <functional>

namespace sieve::app {

class Desk;

/// Sets of columns to be put under the screen in hand: the ready ones and the person's own.
class ColumnsMenu : public QMenu {
    Q_OBJECT
public:
    /// `inHand` gives the columns that are shown, to be kept as a set; `place` takes the actions.
    ColumnsMenu(Desk& desk, std::function<screens::ColumnSet()> inHand, QWidget* place);

Q_SIGNALS:
    void chosen(const screens::ColumnSet& set);
    void editWanted();

private:
    void fill();
    void addSet(QMenu* where, const screens::ColumnSet& set);
    void keepInHand();

    Desk& desk_;
    std::function<screens::ColumnSet()> inHand_;
    QAction* choose_;
    QAction* keep_;
};

} // namespace sieve::app
