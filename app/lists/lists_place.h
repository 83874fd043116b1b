#pragma once

#include "app/chart/price_chart.h"
#include "app/desk/asker.h"
#include "app/desk/place.h"
#include "core/base/shared.h"
#include "core/watchlists/stocks.h"

#include <cstdint>
#include <functional>

class QAction;
class QLabel;
class QTableView;

namespace sieve::app {

class ChartWall;
class Desk;
class DrawingShelf;
class EmptyPage;
class EntriesModel;
class ListNames;

/// The watchlists: their names on the left, the entries of one in the middle with what became of
/// them, the chart of the selected one below.
class ListsPlace : public Place {
    Q_OBJECT
public:
    explicit ListsPlace(Desk& desk, QWidget* parent = nullptr);

protected:
    void bringUp() override;
    void showEvent(QShowEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    QWidget* makeSide();
    QWidget* makeMiddle();
    void showLists();
    void showEntries();
    void setEntries(const Shared<watchlists::Watchlist>& list,
                    std::vector<watchlists::EntryResult> results, market::MarketPtr market);
    void showWall();
    void showSelection();
    void askChart();
    void editEntry(const QString& what, std::int64_t list, const watchlists::Entry& entry,
                   const std::function<void(watchlists::Watchlist&, std::size_t)>& change);
    const Shared<watchlists::Watchlist>* shown() const; ///< null when there is none
    void putOnto(std::int64_t list, const QString& symbols);
    void putOnto(std::int64_t list, const std::vector<std::size_t>& stocks);
    void addList();
    void renameList();
    void removeList();
    void removeEntry();
    void showLeft();
    QString askName(const QString& title, const QString& initial);
    std::int64_t shownList() const; ///< 0 when there is none

    Desk& desk_;
    Asker entriesAsker_; ///< what became of the entries
    Asker chartAsker_;
    ListNames* names_;
    QLabel* title_;
    QTableView* entries_;
    EntriesModel* model_;
    PriceChart* chart_;
    DrawingShelf* drawings_;
    EmptyPage* empty_;
    QAction* left_ = nullptr; ///< who left the list
    ChartWall* wall_;
    QAction* onWall_ = nullptr; ///< the wall is shown in place of the entries
};

} // namespace sieve::app
