#pragma once

#include "app/frame/asker.h"
#include "core/screens/run.h"
#include "core/screens/table.h"

#include <QWidget>
#include <memory>

class QLabel;
class QTableView;
class QToolButton;

namespace sieve::app {

class Desk;
class StackView;
class TableModel;

/// From thousands to the few: the stack on the left, what passes on the right.
class SiftPlace : public QWidget {
    Q_OBJECT
public:
    explicit SiftPlace(Desk& desk, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* event) override;

private:
    struct Answer {
        screens::ScreenRun run;
        std::shared_ptr<const screens::ResultTable> table;
    };
    void buildHead();
    void buildResults();
    void ask();
    void show(Answer answer);
    void commit(const QString& what);
    void takeScreen();
    void fillScreenMenu();
    void choose(const screens::Screen& screen);
    void saveAs();
    void chooseColumns();
    void sortBy(int column);
    void fillTray();
    void showSelection();
    void select(int row);

    Desk& desk_;
    Asker asker_;
    screens::Screen draft_; ///< the screen as it stands, each letter included
    screens::ScreenRun run_;
    int sortColumn_ = -1; ///< -1: by the screen's rank
    screens::Order order_ = screens::Order::Descending;
    StackView* stack_;
    QToolButton* name_;
    QLabel* purpose_;
    QLabel* summary_;
    QTableView* results_;
    TableModel* model_;
};

} // namespace sieve::app
