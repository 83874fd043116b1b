#pragma once

#include "app/desk/asker.h"
#include "core/charts/chart.h"
#include "core/watchlists/review.h"

#include <QWidget>
#include <memory>
#include <vector>

class QComboBox;
class QLabel;
class QTreeWidget;

namespace sieve::app {

class Desk;

/// What became of ideas: counted by source, reason and the like, with their cases.
class ReviewView : public QWidget {
    Q_OBJECT
public:
    explicit ReviewView(Desk& desk);

    /// Asks as of the desk's day; `list`: the one that is shown, of which alone it may be told.
    void refresh(std::int64_t list);

Q_SIGNALS:
    void stockChosen(std::size_t stock);
    /// The charts of the chosen row's cases.
    /// The cases, on whose charts the days are marked on which they came.
    void wallWanted(const std::vector<sieve::charts::MarkedDay>& cases, const QString& title);

private:
    struct Answer {
        market::MarketPtr market;
        std::vector<watchlists::ReviewCase> cases;
    };
    void ask();
    void show(Answer answer);
    void fillRows();
    void fillCases();
    const watchlists::ReviewRow* chosenRow() const;
    QString nameOf(const watchlists::ReviewRow& row) const;

    Desk& desk_;
    Asker asker_;
    QComboBox* of_;
    QComboBox* by_;
    QLabel* told_;
    QTreeWidget* rows_;
    QLabel* warning_;
    QTreeWidget* cases_;
    std::int64_t list_ = 0;
    Answer answer_;
    std::vector<watchlists::ReviewRow> shown_;
};

} // namespace sieve::app
