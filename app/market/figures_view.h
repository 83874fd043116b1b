#pragma once

#include "app/desk/asker.h"
#include "core/conditions/panes.h"

#include <QWidget>
#include <memory>

class QTableWidget;
class QTableWidgetItem;

namespace sieve::app {

class Desk;
class ExpressionEdit;

/// Breadth in figures: each series of a line as it stands, with its place in its own ten years. A
/// tick draws it under the line; any other figure of the language can be added.
class FiguresView : public QWidget {
    Q_OBJECT
public:
    explicit FiguresView(Desk& desk, QWidget* parent = nullptr);
    void show(const conditions::Line& line, Day day);

private:
    enum Column { Title, Now, Before, Place, ColumnCount };

    void ask();
    void fill(const std::vector<conditions::Pane>& figures, std::size_t bar);
    void setDrawn(const std::string& figure, bool isDrawn);
    void addOwn();

    Desk& desk_;
    Asker asker_;
    QTableWidget* table_;
    ExpressionEdit* own_;
    conditions::Line line_;
    Day day_ = Day::fromSerial(0);
    bool isFilling_ = false;
};

} // namespace sieve::app
