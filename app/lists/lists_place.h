#pragma once

#include "app/chart/price_chart.h"
#include "app/desk/asker.h"
#include "app/desk/place.h"
#include "app/desk/workbench.h"
#include "app/lists/entries_model.h"
#include "app/parts/actions.h"
#include "core/base/shared.h"
#include "core/watchlists/list_reading.h"

#include <cstdint>
#include <functional>
#include <memory>
#include <optional>

class QAction;
class QLabel;
class QSplitter;
class QTableView;

namespace sieve::app {

class AgendaView;
class ChartWall;
class Desk;
class DrawingShelf;
class EmptyPage;
class EntryPage;
class ListTree;
class PlanShelf;
class ReviewView;

/// The watchlists: their names in folders on the left, the entries of one in the middle with how
/// their plans stand, the chart and the page of the chosen one on the right.
///   lists_place.cpp       what is shown
///   lists_commands.cpp    what is done to lists
///   entries_commands.cpp  what is done to entries
class ListsPlace : public Place {
    Q_OBJECT
public:
    explicit ListsPlace(Desk& desk, QWidget* parent = nullptr);

protected:
    void bringUp() override;
    void showEvent(QShowEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    using Entry = watchlists::Entry;
    using EntryChange = std::function<void(Entry&)>;

    // What is shown
    QWidget* makeSide();
    QWidget* makeMiddle();
    QWidget* makeRight();
    void listen();
    void showLists();
    void showEntries();
    void addLens(QAction*& action, ActionId id, QWidget* lens);
    void setShown(ShownList shown);
    bool hideEmptyColumns();
    void tellList();
    void showWall();
    void showSelection();
    void askChart();
    const Shared<watchlists::Watchlist>* shown() const; ///< null when there is none
    std::int64_t shownList() const;                     ///< 0 when there is none
    std::optional<int> chosenRow() const;               ///< of the model
    std::vector<int> chosenRows() const;                ///< of the model, in the order shown
    QStringList categories() const;

    // What is done to lists
    void addListActions();
    void addList();
    void editList();
    void combineLists();
    void copyList();
    void archiveList();
    void removeList();
    void moveList(int by);
    void placeList(std::int64_t list, const QString& folder, std::int64_t before);
    void takeListInHand();
    void saveList();
    void readList();
    void paste();
    /// Reads a table beside the window; the person sees what it gives before it is taken.
    void readTable(const QString& name, const std::function<Result<imports::Table>()>& read);
    void offerRead(const QString& name, const watchlists::ListRead& read);
    void showLeft();
    void showMoves();
    void editTerms();
    QString freeName(const QString& wanted) const;

    // What is done to entries
    void addEntryActions();
    /// Changes entries of a list where they stand by now; nothing of those that are gone meanwhile.
    void editEntries(const ShownList& list, const std::vector<Entry>& entries, const QString& what,
                     const EntryChange& change);
    void editEntry(const Entry& entry, const QString& what, const EntryChange& change);
    void takeTyped(const Entry& entry, int column, const QString& typed);
    void changeEntries();
    void trade(bool isSale);
    void nextSign();
    void takeOff();
    void moveEntries(int by);
    void moveEntriesTo(const std::vector<int>& rows, int before);
    void keepOrder();
    void transfer(std::int64_t to, const DraggedEntries& entries, bool isMove);
    void transferTo(std::size_t number, bool isMove);
    void take(std::int64_t list, const QMimeData& dropped, bool isMove);
    void putOnto(std::int64_t list, const QString& symbols);
    void putOnto(std::int64_t list, const std::vector<std::size_t>& stocks);
    bool isByHand(std::int64_t list); ///< tells the person where it is not
    std::vector<Entry> chosenEntries() const;

    Desk& desk_;
    Asker entriesAsker_; ///< how the entries stand
    Asker chartAsker_;
    Asker filesAsker_;
    ListTree* lists_;
    QLabel* title_;
    QLabel* told_;
    QTableView* entries_;
    EntriesModel* model_;
    EntriesOrder* order_;
    PriceChart* chart_;
    DrawingShelf* drawings_;
    PlanShelf* plans_;
    EntryPage* page_;
    EmptyPage* empty_;
    bool isChoosing_ = false;    ///< the person does, in the table
    QSplitter* read_;            ///< entries and what is told of the chosen one
    QAction* left_ = nullptr;    ///< who left the list
    QAction* archive_ = nullptr; ///< is shown
    ChartWall* wall_;
    AgendaView* agenda_;
    ReviewView* review_;
    // What is shown in place of the entries; at most one of them
    QAction* onWall_ = nullptr;
    QAction* onAgenda_ = nullptr;
    QAction* onReview_ = nullptr;
};

} // namespace sieve::app
