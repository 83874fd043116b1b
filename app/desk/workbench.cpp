#include "app/desk/workbench.h"

#include "app/desk/field_shelf.h"
#include "app/desk/library_keeper.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/settings.h"
#include "app/parts/number_text.h"
#include "core/library/lists.h"
#include "core/library/own_fields.h"
#include "core/library/screens.h"
#include "core/library/settings.h"
#include "core/screens/renaming.h"
#include "core/screens/run.h"
#include "core/screens/starter.h"

#include <QUndoCommand>
#include <algorithm>

namespace sieve::app {

using language::Renaming;

namespace {

constexpr const char* screenKey = "screen_in_hand";
constexpr const char* bookKey = "market_book";
constexpr const char* firstScreen = "Pullback in an uptrend"; ///< what a new person begins from

} // namespace

/// What the library holds, read on its thread.
struct Workbench::Loaded {
    Work work;
    library::LoadedScreens screens;
    library::LoadedFields fields;
    std::map<std::string, std::string> settings;
    std::optional<LocatedError>
        bookProblem; ///< the book could not be read: the standard one is used

    static Loaded from(library::Library& library);
};

Workbench::Loaded Workbench::Loaded::from(library::Library& library)
{
    Loaded loaded;
    loaded.work.tray = library::loadTray(library);
    loaded.work.lists = library::loadLists(library);
    loaded.screens = library::loadScreens(library);
    loaded.fields = library::loadOwnFields(library);
    loaded.settings = library::settings(library);
    for (const screens::Screen& screen : screens::starterScreens())
        if (screen.name == firstScreen)
            loaded.work.screen = screen;
    if (const auto kept = loaded.settings.find(screenKey); kept != loaded.settings.end())
        if (Result<screens::Screen> screen = screens::screenFromToml(kept->second))
            loaded.work.screen = *std::move(screen);
    if (const auto kept = loaded.settings.find(bookKey); kept != loaded.settings.end()) {
        if (auto book = conditions::bookFromToml(kept->second))
            loaded.work.marketBook = *std::move(book);
        else
            loaded.bookProblem = book.error();
    }
    return loaded;
}

/// One step of the work, as it was before and after.
class Workbench::Edit : public QUndoCommand {
public:
    Edit(Workbench& workbench, Work after, const QString& what)
        : QUndoCommand(what), workbench_(workbench), before_(workbench.work_),
          after_(std::move(after))
    {
    }
    void undo() override { workbench_.become(before_); }
    void redo() override { workbench_.become(after_); }
    /// So that an older step does not bring the former name back.
    void carry(const language::Renaming& renaming) const
    {
        before_ = withRenamed(std::move(before_), renaming);
        after_ = withRenamed(std::move(after_), renaming);
    }

private:
    Workbench& workbench_;
    mutable Work before_;
    mutable Work after_;
};

Workbench::Workbench(LibraryKeeper& keeper, Settings& settings, ScreenShelf& screens,
                     FieldShelf& fields, QObject* parent)
    : QObject(parent), keeper_(keeper), settings_(settings), screens_(screens), fields_(fields)
{
    connect(&screens_, &ScreenShelf::changed, this, [this] { book_.reset(); });
    connect(&fields_, &FieldShelf::changed, this, [this] { book_.reset(); });
    constexpr int mostSteps = 200;
    undoStack_.setUndoLimit(mostSteps);
    load();
}

void Workbench::load()
{
    keeper_.enqueue([this](library::Library& library) {
        auto loaded = std::make_shared<Loaded>(Loaded::from(library));
        // The keeper ends before the workbench does, so the workbench is there to take it.
        QMetaObject::invokeMethod(
            this, [this, loaded] { show(*loaded); }, Qt::QueuedConnection);
    });
}

void Workbench::show(Loaded& from)
{
    work_ = std::move(from.work);
    book_.reset();
    isLoaded_ = true;
    settings_.load(std::move(from.settings));
    Q_EMIT loaded();
    Q_EMIT trayChanged();
    Q_EMIT listsChanged();
    fields_.become(std::move(from.fields.fields));
    screens_.become(std::move(from.screens.screens));
    Q_EMIT screenChanged();
    Q_EMIT marketBookChanged();
    if (from.bookProblem)
        Q_EMIT noticed(tr("Your rules for the market could not be read, and the standard ones are "
                          "in their place. %1")
                           .arg(text(sentence(*from.bookProblem))));
    for (const LocatedError& problem : from.screens.problems)
        Q_EMIT noticed(tr("A screen of yours cannot be read and is left as it is. %1")
                           .arg(text(sentence(problem))));
    for (const LocatedError& problem : from.fields.problems)
        Q_EMIT noticed(tr("A field of yours is left out. %1").arg(text(sentence(problem))));
}

screens::NameBookPtr Workbench::nameBook() const
{
    if (book_)
        return book_;
    auto book = std::make_shared<screens::NameBook>();
    book->fields = fields_.all();
    for (const screens::Screen& screen : screens::starterScreens())
        book->screens[screen.name] = screens::conditionOf(screen);
    for (const screens::Screen& screen : screens_.all())
        book->screens[screen.name] = screens::conditionOf(screen);
    for (const watchlists::Watchlist& list : work_.lists) {
        auto members = std::make_shared<engine::ListMembers>();
        for (const watchlists::Entry& entry : list.entries)
            members->stays.push_back({entry.symbol, entry.addedOn});
        book->lists[list.name] = std::move(members);
    }
    book_ = book;
    return book;
}

void Workbench::edit(const QString& what, const std::function<void(Work&)>& change)
{
    Work after = work_;
    change(after);
    for (const Renaming& renaming : renamedLists(work_, after))
        after = withRenamed(std::move(after), renaming);
    if (!(after == work_))
        undoStack_.push(new Edit(*this, std::move(after), what));
}

void Workbench::become(const Work& work)
{
    const Work before = std::exchange(work_, work);
    if (!(before.tray == work.tray)) {
        keeper_.enqueue(
            [tray = work.tray](library::Library& library) { library::saveTray(library, tray); });
        Q_EMIT trayChanged();
    }
    if (before.lists != work.lists) {
        keeper_.enqueue([lists = work.lists, former = before.lists](library::Library& library) {
            library::saveChanges(library, former, lists);
        });
        for (const Renaming& renaming : renamedLists(before, work))
            carryIntoShelf(renaming);
        book_.reset();
        Q_EMIT listsChanged();
    }
    if (!(before.screen == work.screen)) {
        settings_.set(screenKey, screens::toToml(work.screen));
        Q_EMIT screenChanged();
    }
    if (!(before.marketBook == work.marketBook)) {
        settings_.set(bookKey, conditions::toToml(work.marketBook));
        Q_EMIT marketBookChanged();
    }
}

std::int64_t Workbench::newListId() const
{
    std::int64_t id = 1;
    for (const watchlists::Watchlist& list : work_.lists)
        id = std::max(id, list.id + 1);
    return id;
}

std::optional<LocatedError> Workbench::renameField(const std::string& from, const std::string& to)
{
    if (auto error = fields_.rename(from, to))
        return error;
    carry({Renaming::What::Field, from, to});
    return std::nullopt;
}

void Workbench::renameScreen(const std::string& from, const screens::Screen& renamed)
{
    screens_.rename(from, renamed);
    carry({Renaming::What::Screen, from, renamed.name});
}

/// Gives what bears another name that name in all that the person wrote, the steps to undo too.
void Workbench::carry(const Renaming& renaming)
{
    carryIntoShelf(renaming);
    for (int step = 0; step < undoStack_.count(); ++step)
        static_cast<const Edit*>(undoStack_.command(step))->carry(renaming);
    become(withRenamed(work_, renaming));
}

void Workbench::carryIntoShelf(const Renaming& renaming)
{
    const std::vector<screens::Screen> before = screens_.all();
    for (const screens::Screen& screen : before)
        if (names(screen, renaming.what, renaming.from))
            screens_.save(screens::withRenamed(screen, renaming));
}

} // namespace sieve::app
