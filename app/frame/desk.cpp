#include "app/frame/desk.h"

#include "app/parts/number_text.h"
#include "core/screens/renaming.h"
#include "core/screens/run.h"
#include "core/screens/starter.h"
#include "core/screens/store.h"
#include "core/watchlists/store.h"

#include <QUndoCommand>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr const char* screenKey = "screen_in_hand";
constexpr const char* bookKey = "market_book";
constexpr const char* recentSourcesKey = "recent_sources";
constexpr const char* firstScreen = "Pullback in an uptrend"; ///< what a new person begins from

/// What the library holds, read on its thread.
struct Loaded {
    Work work;
    screens::LoadedScreens screens;
    screens::LoadedFields fields;
    std::map<std::string, std::string> settings;
    std::optional<LocatedError>
        bookProblem; ///< the book could not be read: the standard one is used
};

Loaded load(storage::Library& library)
{
    Loaded loaded;
    loaded.work.tray = watchlists::loadTray(library);
    loaded.work.lists = watchlists::loadLists(library);
    loaded.screens = screens::loadScreens(library);
    loaded.fields = screens::loadOwnFields(library);
    loaded.settings = storage::settings(library);
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

} // namespace

watchlists::Watchlist* Work::list(std::int64_t id)
{
    const auto found = std::ranges::find(lists, id, &watchlists::Watchlist::id);
    return found == lists.end() ? nullptr : &*found;
}

namespace {

using expressions::Renaming;

Work withRenamed(Work work, const Renaming& renaming)
{
    work.screen = screens::withRenamed(std::move(work.screen), renaming);
    work.marketBook = conditions::withRenamed(std::move(work.marketBook), renaming);
    return work;
}

/// The lists that bear another name after a step than before it.
std::vector<Renaming> renamedLists(const Work& before, const Work& after)
{
    std::vector<Renaming> renamings;
    for (const watchlists::Watchlist& list : before.lists) {
        const auto now = std::ranges::find(after.lists, list.id, &watchlists::Watchlist::id);
        if (now != after.lists.end() && now->name != list.name)
            renamings.push_back({Renaming::What::List, list.name, now->name});
    }
    return renamings;
}

} // namespace

/// One step of the work, as it was before and after.
class Desk::Edit : public QUndoCommand {
public:
    Edit(Desk& desk, Work after, const QString& what)
        : QUndoCommand(what), desk_(desk), before_(desk.work_), after_(std::move(after))
    {
    }
    void undo() override { desk_.become(before_); }
    void redo() override { desk_.become(after_); }
    /// So that an older step does not bring the former name back.
    void carry(const expressions::Renaming& renaming) const
    {
        before_ = withRenamed(std::move(before_), renaming);
        after_ = withRenamed(std::move(after_), renaming);
    }

private:
    Desk& desk_;
    mutable Work before_;
    mutable Work after_;
};

Desk::Desk(std::filesystem::path library, std::filesystem::path markets, QObject* parent)
    : QObject(parent), markets_(std::move(markets), this), reader_(*this), shelf_(keeper_, this),
      fields_(keeper_, this), keeper_(std::move(library), this)
{
    connect(&markets_, &MarketKeeper::opened, this, &Desk::takeMarket);
    connect(&markets_, &MarketKeeper::noticed, this, &Desk::noticed);
    connect(&shelf_, &ScreenShelf::changed, this, [this] {
        book_.reset();
        Q_EMIT savedScreensChanged();
    });
    connect(&fields_, &FieldShelf::changed, this, [this] {
        book_.reset();
        Q_EMIT ownFieldsChanged();
    });
    connect(&reader_, &MarketReader::failed, this, &Desk::noticed);
    connect(&keeper_, &LibraryKeeper::failed, this, &Desk::noticed, Qt::QueuedConnection);
    connect(
        &keeper_, &LibraryKeeper::opened, this,
        [this](bool, const QString& notice) {
            if (!notice.isEmpty())
                Q_EMIT noticed(notice);
        },
        Qt::QueuedConnection);
    constexpr int mostSteps = 200;
    undoStack_.setUndoLimit(mostSteps);
    loadWork();
    keeper_.start();
}

Desk::~Desk() = default;

void Desk::loadWork()
{
    keeper_.give([this](storage::Library& library) {
        auto loaded = std::make_shared<Loaded>(load(library));
        // The keeper ends before the desk does, so the desk is there to take it.
        QMetaObject::invokeMethod(
            this,
            [this, loaded] {
                work_ = std::move(loaded->work);
                book_.reset();
                settings_ = std::move(loaded->settings);
                isWorkLoaded_ = true;
                rememberSource();
                Q_EMIT workLoaded();
                Q_EMIT trayChanged();
                Q_EMIT listsChanged();
                fields_.become(std::move(loaded->fields.fields));
                shelf_.become(std::move(loaded->screens.screens));
                Q_EMIT screenChanged();
                Q_EMIT marketBookChanged();
                if (loaded->bookProblem)
                    Q_EMIT noticed(tr("Your rules for the market could not be read, and the "
                                      "standard ones are in their place. %1")
                                       .arg(text(sentence(*loaded->bookProblem))));
                for (const LocatedError& problem : loaded->screens.problems)
                    Q_EMIT noticed(tr("A screen of yours cannot be read and is left as it is. %1")
                                       .arg(text(sentence(problem))));
                for (const LocatedError& problem : loaded->fields.problems)
                    Q_EMIT noticed(
                        tr("A field of yours is left out. %1").arg(text(sentence(problem))));
            },
            Qt::QueuedConnection);
    });
}

void Desk::takeMarket(const std::shared_ptr<intake::Intake>& intake)
{
    evaluator_ = std::make_shared<expressions::Evaluator>(intake->market);
    report_ = std::make_shared<const intake::IntakeReport>(std::move(intake->report));
    day_ = market().sessions().back();
    selected_.reset();
    rememberSource();
    Q_EMIT marketOpened();
    if (!work_.tray.isEmpty())
        selectSymbol(work_.tray.cards().front().symbol);
}

screens::NameBookPtr Desk::nameBook() const
{
    if (book_)
        return book_;
    auto book = std::make_shared<screens::NameBook>();
    book->fields = fields_.all();
    for (const screens::Screen& screen : screens::starterScreens())
        book->screens[screen.name] = screens::conditionOf(screen);
    for (const screens::Screen& screen : shelf_.all())
        book->screens[screen.name] = screens::conditionOf(screen);
    for (const watchlists::Watchlist& list : work_.lists) {
        auto members = std::make_shared<expressions::ListMembers>();
        for (const watchlists::Entry& entry : list.entries)
            members->stays.push_back({entry.symbol, entry.addedOn});
        book->lists[list.name] = std::move(members);
    }
    book_ = book;
    return book;
}

std::vector<std::filesystem::path> Desk::recentSources() const
{
    std::vector<std::filesystem::path> sources;
    for (const QString& path : text(setting(recentSourcesKey)).split(u'\n', Qt::SkipEmptyParts))
        sources.emplace_back(utf8(path));
    return sources;
}

void Desk::rememberSource()
{
    if (!isWorkLoaded_ || !hasMarket())
        return; // what was remembered is not known yet
    constexpr std::size_t mostRemembered = 8;
    std::vector<std::filesystem::path> sources = recentSources();
    std::erase(sources, markets_.source());
    sources.insert(sources.begin(), markets_.source());
    sources.resize(std::min(sources.size(), mostRemembered));
    QStringList paths;
    for (const std::filesystem::path& source : sources)
        paths.append(text(source.string()));
    setSetting(recentSourcesKey, utf8(paths.join(u'\n')));
}

bool Desk::isLatest() const
{
    return !hasMarket() || day_ == market().sessions().back();
}

void Desk::setDay(Day day)
{
    if (!hasMarket())
        return;
    const Day session = market().sessionOnOrBefore(day);
    if (session == day_)
        return;
    day_ = session;
    Q_EMIT dayChanged();
}

void Desk::stepSessions(int sessions)
{
    if (!hasMarket())
        return;
    const std::span<const Day> all = market().sessions();
    const auto here = std::ranges::lower_bound(all, day_) - all.begin();
    const auto there =
        std::clamp<std::ptrdiff_t>(here + sessions, 0, static_cast<std::ptrdiff_t>(all.size()) - 1);
    setDay(all[static_cast<std::size_t>(there)]);
}

void Desk::goToLatest()
{
    if (hasMarket())
        setDay(market().sessions().back());
}

void Desk::select(std::size_t instrument)
{
    if (selected_ == instrument)
        return;
    selected_ = instrument;
    Q_EMIT selectionChanged();
}

void Desk::selectSymbol(const std::string& symbol)
{
    if (!hasMarket())
        return;
    if (const auto instrument = market().find(symbol))
        select(*instrument);
}

void Desk::edit(const QString& what, const std::function<void(Work&)>& change)
{
    Work after = work_;
    change(after);
    for (const Renaming& renaming : renamedLists(work_, after))
        after = withRenamed(std::move(after), renaming);
    if (!(after == work_))
        undoStack_.push(new Edit(*this, std::move(after), what));
}

void Desk::become(const Work& work)
{
    const Work before = std::exchange(work_, work);
    if (!(before.tray == work.tray)) {
        keeper_.give(
            [tray = work.tray](storage::Library& library) { watchlists::saveTray(library, tray); });
        Q_EMIT trayChanged();
    }
    if (before.lists != work.lists) {
        keeper_.give([lists = work.lists, former = before.lists](storage::Library& library) {
            watchlists::saveChanges(library, former, lists);
        });
        for (const Renaming& renaming : renamedLists(before, work))
            carryIntoShelf(renaming);
        book_.reset();
        Q_EMIT listsChanged();
    }
    if (!(before.screen == work.screen)) {
        setSetting(screenKey, screens::toToml(work.screen));
        Q_EMIT screenChanged();
    }
    if (!(before.marketBook == work.marketBook)) {
        setSetting(bookKey, conditions::toToml(work.marketBook));
        Q_EMIT marketBookChanged();
    }
}

std::int64_t Desk::newListId() const
{
    std::int64_t id = 1;
    for (const watchlists::Watchlist& list : work_.lists)
        id = std::max(id, list.id + 1);
    return id;
}

std::optional<LocatedError> Desk::renameField(const std::string& from, const std::string& to)
{
    if (auto error = fields_.rename(from, to))
        return error;
    carry({Renaming::What::Field, from, to});
    return std::nullopt;
}

void Desk::renameScreen(const std::string& from, const screens::Screen& renamed)
{
    shelf_.rename(from, renamed);
    carry({Renaming::What::Screen, from, renamed.name});
}

/// Gives what bears another name that name in all that the person wrote, the steps to undo too.
void Desk::carry(const Renaming& renaming)
{
    carryIntoShelf(renaming);
    for (int step = 0; step < undoStack_.count(); ++step)
        static_cast<const Edit*>(undoStack_.command(step))->carry(renaming);
    become(withRenamed(work_, renaming));
}

void Desk::carryIntoShelf(const Renaming& renaming)
{
    const std::vector<screens::Screen> before = shelf_.all();
    for (const screens::Screen& screen : before)
        if (names(screen, renaming.what, renaming.from))
            shelf_.save(screens::withRenamed(screen, renaming));
}

const std::string& Desk::setting(const std::string& key) const
{
    static const std::string none;
    const auto found = settings_.find(key);
    return found == settings_.end() ? none : found->second;
}

void Desk::setSetting(const std::string& key, const std::string& value)
{
    if (setting(key) == value)
        return;
    settings_[key] = value;
    keeper_.give(
        [key, value](storage::Library& library) { storage::setSetting(library, key, value); });
}

} // namespace sieve::app
