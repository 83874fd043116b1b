#pragma once

#include "app/frame/asker.h"
#include "app/frame/field_shelf.h"
#include "app/frame/library_keeper.h"
#include "app/frame/market_keeper.h"
#include "app/frame/market_reader.h"
#include "app/frame/screen_shelf.h"
#include "core/conditions/market_book.h"
#include "core/expressions/evaluator.h"
#include "core/screens/name_book.h"
#include "core/screens/screen.h"
#include "core/watchlists/tray.h"
#include "core/watchlists/watchlist.h"

#include <QObject>
#include <QUndoStack>
#include <filesystem>
#include <functional>
#include <map>
#include <optional>
#include <vector>

namespace sieve::app {

/// What the person makes and may undo.
struct Work {
    watchlists::Tray tray;
    std::vector<watchlists::Watchlist> lists;
    screens::Screen screen; ///< the one in hand in Sift
    conditions::MarketBook marketBook = conditions::standardBook();

    watchlists::Watchlist* list(std::int64_t id); ///< null when there is none
    friend bool operator==(const Work&, const Work&) = default;
};

/// The person's desk: the market that is open, the as-of day, the selected stock, and the work.
/// Every place reads it and listens to it; no place knows another.
class Desk : public QObject {
    Q_OBJECT
public:
    /// An empty library path keeps the work in memory only. `markets` is the folder in which the
    /// markets that are made from datasets are kept.
    Desk(std::filesystem::path library, std::filesystem::path markets, QObject* parent = nullptr);
    ~Desk() override;

    // The market
    MarketKeeper& markets() { return markets_; }
    /// Sources that were opened lately, the newest first.
    std::vector<std::filesystem::path> recentSources() const;
    bool hasMarket() const { return evaluator_ != nullptr; }
    const std::shared_ptr<expressions::Evaluator>& evaluator() const { return evaluator_; }
    const market::Market& market() const { return evaluator_->market(); }
    const std::shared_ptr<const intake::IntakeReport>& report() const { return report_; }
    MarketReader& conditions() { return reader_; } ///< how it is doing, by the person's rules

    // The as-of day: always a session
    Day day() const { return day_; }
    bool isLatest() const;
    void setDay(Day day); ///< the session on or before it
    void stepSessions(int sessions);
    void goToLatest();

    // The selected stock
    std::optional<std::size_t> selected() const { return selected_; }
    void select(std::size_t instrument);
    void selectSymbol(const std::string& symbol);

    // The work
    const Work& work() const { return work_; }
    bool isWorkLoaded() const { return isWorkLoaded_; }
    /// Changes the work as one step that can be undone, and saves what changed. A list that it
    /// gives another name is found by that name wherever the person asked for it.
    void edit(const QString& what, const std::function<void(Work&)>& change);
    QUndoStack& undoStack() { return undoStack_; }
    std::int64_t newListId() const;
    FieldShelf& fieldShelf() { return fields_; }
    /// Gives an own field another name, in all that the person wrote.
    /// Errors: those of OwnFields::rename; nothing changed then.
    std::optional<LocatedError> renameField(const std::string& from, const std::string& to);
    ScreenShelf& screenShelf() { return shelf_; }
    /// Puts a saved screen in the place of the one called `from`; who asks for it by its name goes
    /// on to find it.
    void renameScreen(const std::string& from, const screens::Screen& renamed);
    /// What the person's fields, screens and lists are called now: for a job.
    screens::NameBookPtr nameBook() const;
    const std::string& setting(const std::string& key) const; ///< empty when never set
    void setSetting(const std::string& key, const std::string& value);
    LibraryKeeper& keeper() { return keeper_; }

Q_SIGNALS:
    void marketOpened(); ///< with its day; no dayChanged comes beside it
    void dayChanged();
    void selectionChanged();
    void workLoaded();
    void trayChanged();
    void listsChanged();
    void screenChanged();
    void marketBookChanged();
    void savedScreensChanged();
    void ownFieldsChanged();
    void noticed(const QString& notice); ///< something that the person must know
    void placeWanted(const QString& id); ///< a place asks for another to be shown
    void listWanted(qint64 id);          ///< … and for this list in it

private:
    class Edit;
    void loadWork();
    void become(const Work& work); ///< shows and saves the differences
    void carry(const expressions::Renaming& renaming);
    void carryIntoShelf(const expressions::Renaming& renaming);
    void takeMarket(const std::shared_ptr<intake::Intake>& intake);

    void rememberSource();

    MarketKeeper markets_;
    std::shared_ptr<expressions::Evaluator> evaluator_;
    std::shared_ptr<const intake::IntakeReport> report_;
    Day day_ = Day::fromSerial(0);
    std::optional<std::size_t> selected_;
    Work work_;
    bool isWorkLoaded_ = false;
    std::map<std::string, std::string> settings_;
    mutable screens::NameBookPtr book_; ///< empty when a name changed since it was made
    QUndoStack undoStack_;
    MarketReader reader_;
    ScreenShelf shelf_;
    FieldShelf fields_;
    LibraryKeeper keeper_; ///< last: ending it finishes what was given
};

} // namespace sieve::app
