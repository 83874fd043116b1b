#include "app/desk/workbench.h"

#include "app/desk/library_keeper.h"
#include "app/desk/settings.h"
#include "app/parts/number_text.h"
#include "core/drawings/stock.h"
#include "core/library/kept_work.h"
#include "core/library/library.h"
#include "core/library/settings.h"
#include "core/library/work_step.h"
#include "core/screens/run.h"
#include "core/screens/starter.h"

#include <QElapsedTimer>
#include <QUndoCommand>

namespace sieve::app {

namespace {

constexpr int retryAfter = 3000; ///< milliseconds, for what could not be saved
constexpr int slowAfter = 2000;  ///< milliseconds, after which a saving is told to be slow

/// Where a step is seen: what one place alone shows is seen there, wherever it was changed from.
PlaceId placeOf(const Work& before, const Work& after, PlaceId madeIn)
{
    if (before.lists != after.lists || before.tray != after.tray || before.fields != after.fields)
        return madeIn;
    if (before.marketBook != after.marketBook)
        return PlaceId::Market;
    if (before.runs != after.runs)
        return PlaceId::Prove;
    return before.screen != after.screen ? PlaceId::Sift : madeIn;
}

} // namespace

/// What the library holds, as far as its thread knows: each saving starts from it, and keeps the
/// steps that were made since.
struct Workbench::OnDisk {
    Work work;
    std::vector<library::StepMade> unsaved = {};
};

/// One step of the work.
class Workbench::Edit : public QUndoCommand {
public:
    Edit(Workbench& workbench, const Work& after, const QString& what, Step step)
        : QUndoCommand(what), workbench_(workbench),
          place_(placeOf(workbench.work_, after, workbench.navigator_.shown())),
          change_(workbench.work_, after), step_(step)
    {
        sinceLast_.start();
    }
    /// One that the work has already: of a former session, or of this one, put onto another stack.
    Edit(Workbench& workbench, const QString& what, PlaceId place, const library::WorkStep& change)
        : QUndoCommand(what), workbench_(workbench), place_(place), change_(change),
          step_(Step::Own), isThere_(true), isDone_(true)
    {
    }
    Edit* copy() const { return new Edit(workbench_, text(), place_, change_); }

    /// Whether the next edit, not made yet, becomes part of this one; told to it.
    void announce(Edit& next) const
    {
        constexpr qint64 oneGesture = 1000; // milliseconds
        next.joins_ = step_ == Step::MayJoin && next.step_ == Step::MayJoin &&
                      next.text() == text() && sinceLast_.elapsed() <= oneGesture;
    }

    void undo() override
    {
        workbench_.replace(change_.undone(workbench_.work_), made(Kind::Undone));
        workbench_.tellStep(tr("Undone: %1").arg(text()), place_);
    }
    void redo() override
    {
        if (std::exchange(isThere_, false))
            return;
        workbench_.replace(change_.done(workbench_.work_), made(isDone_  ? Kind::Redone
                                                                : joins_ ? Kind::Joined
                                                                         : Kind::New));
        if (std::exchange(isDone_, true)) // not when it is done for the first time
            workbench_.tellStep(tr("Done again: %1").arg(text()), place_);
    }
    int id() const override { return step_ == Step::MayJoin ? 1 : -1; }
    bool mergeWith(const QUndoCommand* other) override
    {
        const auto* next = static_cast<const Edit*>(other);
        if (!next->joins_)
            return false;
        const Work& after = workbench_.work_; // the next one is done already
        const Work before = change_.undone(next->change_.undone(after));
        change_ = library::WorkStep(before, after);
        sinceLast_.restart();
        setObsolete(after == before);
        return true;
    }

private:
    using Kind = library::StepMade::Kind;
    static QString tr(const char* words) { return Workbench::tr(words); }
    library::StepMade made(Kind kind) const { return {kind, utf8(text()), keyOf(place_)}; }

    Workbench& workbench_;
    PlaceId place_;
    library::WorkStep change_;
    Step step_;
    QElapsedTimer sinceLast_;
    bool joins_ = false;   ///< it becomes part of the edit before it
    bool isThere_ = false; ///< the work has it before it is done
    bool isDone_ = false;
};

Workbench::Workbench(LibraryKeeper& keeper, Settings& settings, Navigator& navigator,
                     QObject* parent)
    : QObject(parent), keeper_(keeper), settings_(settings), navigator_(navigator),
      onDisk_(std::make_shared<OnDisk>()), past_(this, Asker::About::Else)
{
    constexpr int mostSteps = 200;
    undoStack_.setUndoLimit(mostSteps);
    retry_.setSingleShot(true);
    connect(&retry_, &QTimer::timeout, this, [this] { save(std::nullopt); });
    connect(&past_, &Asker::failed, this, &Workbench::tellNoPast);
    slow_.setSingleShot(true);
    slow_.setInterval(slowAfter);
    connect(&slow_, &QTimer::timeout, this, &Workbench::tellSlow);
    load();
}

/// The keeper ends before the workbench does, so the workbench is there to take what comes.
void Workbench::load()
{
    keeper_.enqueue([this, onDisk = onDisk_](library::Library& library) {
        try {
            auto loaded = std::make_shared<const library::LoadedWork>(library::loadWork(library));
            onDisk->work = loaded->work;
            QMetaObject::invokeMethod(
                this,
                [this, loaded, settings = library::settings(library),
                 firstId = library.idsForSession()] {
                    nextId_ = firstId;
                    settings_.load(settings);
                    show(*loaded);
                },
                Qt::QueuedConnection);
        } catch (const std::exception& fault) {
            const QString why = QString::fromUtf8(fault.what());
            QMetaObject::invokeMethod(
                this,
                [this, why] {
                    Q_EMIT noticed(
                        tr("Your work could not be read: %1. It is left as it is, and nothing can "
                           "be "
                           "changed in this session. Backups stand beside it, in %2.backups.")
                            .arg(why, text(keeper_.file().string())));
                },
                Qt::QueuedConnection);
        }
    });
    keeper_.enqueue(
        [this, onDisk = onDisk_](library::Library& library) { copyPast(library, *onDisk); });
}

/// Comes after the work was read and shown, and before any edit of it is saved.
void Workbench::copyPast(library::Library& library, const OnDisk& onDisk)
{
    try {
        if (library.file().empty() || library::stepsKept(library) == 0)
            return;
        const std::shared_ptr copy = library::Library::copyOf(library.file());
        QMetaObject::invokeMethod(
            this, [this, copy, then = onDisk.work] { readPast(copy, then); }, Qt::QueuedConnection);
    } catch (const std::exception& fault) {
        const QString why = QString::fromUtf8(fault.what());
        QMetaObject::invokeMethod(
            this, [this, why] { tellNoPast(why); }, Qt::QueuedConnection);
    }
}

void Workbench::tellNoPast(const QString& why)
{
    Q_EMIT noticed(tr("What was done in former sessions cannot be undone: %1").arg(why));
}

void Workbench::show(const library::LoadedWork& from)
{
    work_ = from.work;
    book_.reset();
    isLoaded_ = true;
    Q_EMIT loaded();
    Q_EMIT trayChanged();
    Q_EMIT listsChanged();
    Q_EMIT fieldsChanged();
    Q_EMIT screensChanged();
    Q_EMIT screenChanged();
    Q_EMIT columnSetsChanged();
    Q_EMIT chartSetUpsChanged();
    Q_EMIT weighingChanged();
    Q_EMIT checklistsChanged();
    Q_EMIT verdictsChanged();
    Q_EMIT termsChanged();
    Q_EMIT mailChanged();
    Q_EMIT alertsChanged();
    Q_EMIT marketBookChanged();
    Q_EMIT drawingsChanged();
    Q_EMIT runsChanged();
    tellProblems(from);
}

/// One notice for all, so that none hides another.
void Workbench::tellProblems(const library::LoadedWork& from)
{
    using What = library::LoadedWork::Problem::What;
    QStringList told;
    for (const auto& problem : from.problems) {
        const QString why = text(sentence(problem.error));
        const QString kept =
            problem.keptAs.empty()
                ? QString()
                : tr(" Its text is kept in %1.").arg(text(problem.keptAs.string()));
        switch (problem.what) {
        case What::Screen:
            told << tr("A screen of yours cannot be read and is left as it is. %1").arg(why);
            break;
        case What::Field:
            told << tr("A field of yours is left out. %1").arg(why);
            break;
        case What::Drawing:
            told << tr("A drawing of yours cannot be read and is left as it is. %1").arg(why);
            break;
        case What::ScreenInHand:
            told << tr("The screen in hand could not be read. %1").arg(why) + kept;
            break;
        case What::ColumnSets:
            told << tr("Your sets of columns could not be read. %1").arg(why) + kept;
            break;
        case What::ChartSetUps:
            told << tr("Your set-ups of charts could not be read. %1").arg(why) + kept;
            break;
        case What::Weighing:
            told << tr("Your reasons, chosen peers and followed stocks could not be read. %1")
                            .arg(why) +
                        kept;
            break;
        case What::Checklists:
            told << tr("Your checklists could not be read. %1").arg(why) + kept;
            break;
        case What::Verdict:
            told << tr("A verdict of yours cannot be read and is left as it is. %1").arg(why);
            break;
        case What::Plan:
            told << tr("A plan of yours could not be read. %1").arg(why) + kept;
            break;
        case What::EntryPage:
            told << tr("What you wrote to an entry of a list could not be read. %1").arg(why) +
                        kept;
            break;
        case What::Alert:
            told << tr("An alert of yours cannot be read and is left as it is. %1").arg(why);
            break;
        case What::KeptRun:
            told << tr("A kept answer of yours cannot be read and is left as it is. %1").arg(why);
            break;
        case What::TradingTerms:
            told << tr("Your account and the limits of plans could not be read. %1").arg(why) +
                        kept;
            break;
        case What::MailTerms:
            told << tr("What you want to be told by mail could not be read. %1").arg(why) + kept;
            break;
        case What::MarketBook:
            told << tr("Your rules for the market could not be read, and the standard ones are in "
                       "their place. %1")
                            .arg(why) +
                        kept;
            break;
        }
    }
    if (!told.isEmpty())
        Q_EMIT noticed(told.join(QLatin1Char('\n')));
}

screens::NameBookPtr Workbench::nameBook() const
{
    if (book_)
        return book_;
    return book_ = books_.of(work_);
}

bool Workbench::edit(const QString& what, const std::function<void(Work&)>& change, Step step)
{
    if (!isLoaded_ || keeper_.isReadOnly()) {
        Q_EMIT noticed(isLoaded_ ? tr("“%1” was not done: another Wise Sieve has your library, and "
                                      "this window only shows it.")
                                       .arg(what)
                                 : tr("“%1” was not done: your work is not read yet.").arg(what));
        return false;
    }
    Work after = work_;
    change(after);
    followRenamedLists(work_, after);
    if (after != work_) {
        auto* made = new Edit(*this, after, what, step);
        if (undoStack_.index() > 0)
            static_cast<const Edit*>(undoStack_.command(undoStack_.index() - 1))->announce(*made);
        undoStack_.push(made);
    }
    return true;
}

void Workbench::replace(const Work& work, const library::StepMade& step)
{
    const Work before = std::exchange(work_, work);
    save(step);
    tellChanges(before);
}

/// The steps of former sessions are read from a copy, beside the window and the library's thread.
void Workbench::readPast(const std::shared_ptr<library::Library>& copy, const Work& then)
{
    constexpr std::size_t mostRead = 60;
    if (!isLoaded_)
        return;
    past_.ask([copy, then](const Progress&) { return library::pastSteps(*copy, then, mostRead); },
              [this](const std::vector<library::PastStep>& past) { takePast(past); });
}

/// Puts them under what was done since. Where something of that was undone already they stay away:
/// nothing may be done again without being asked for.
void Workbench::takePast(const std::vector<library::PastStep>& past)
{
    if (past.empty() || undoStack_.index() != undoStack_.count())
        return;
    std::vector<Edit*> edits;
    for (const library::PastStep& each : past)
        edits.push_back(new Edit(*this, text(each.what), placeWithKey(each.place), each.step));
    for (int at = 0; at < undoStack_.count(); ++at)
        edits.push_back(static_cast<const Edit*>(undoStack_.command(at))->copy());
    undoStack_.clear();
    for (Edit* each : edits)
        undoStack_.push(each);
}

void Workbench::tellChanges(const Work& before)
{
    const bool areNamesOther = before.lists != work_.lists || before.screens != work_.screens ||
                               before.fields != work_.fields || before.drawings != work_.drawings ||
                               before.checklists != work_.checklists ||
                               before.verdicts != work_.verdicts;
    if (areNamesOther)
        book_.reset();
    const Work now = work_; // who hears of a change may make another
    if (before.fields != now.fields)
        Q_EMIT fieldsChanged();
    if (before.tray != now.tray)
        Q_EMIT trayChanged();
    if (before.lists != now.lists)
        Q_EMIT listsChanged();
    if (before.screens != now.screens || before.drafts != now.drafts)
        Q_EMIT screensChanged();
    if (before.screen != now.screen)
        Q_EMIT screenChanged();
    if (before.columnSets != now.columnSets)
        Q_EMIT columnSetsChanged();
    if (before.weighing != now.weighing)
        Q_EMIT weighingChanged();
    if (before.checklists != now.checklists)
        Q_EMIT checklistsChanged();
    if (before.verdicts != now.verdicts)
        Q_EMIT verdictsChanged();
    if (before.terms != now.terms)
        Q_EMIT termsChanged();
    if (before.mail != now.mail)
        Q_EMIT mailChanged();
    if (before.alerts != now.alerts)
        Q_EMIT alertsChanged();
    if (before.chartSetUps != now.chartSetUps)
        Q_EMIT chartSetUpsChanged();
    if (before.marketBook != now.marketBook)
        Q_EMIT marketBookChanged();
    if (before.drawings != now.drawings)
        Q_EMIT drawingsChanged();
    if (before.runs != now.runs)
        Q_EMIT runsChanged();
}

void Workbench::save(const std::optional<library::StepMade>& step)
{
    if (!slow_.isActive())
        slow_.start();
    keeper_.enqueue([this, onDisk = onDisk_, work = work_, step,
                     number = ++asked_](library::Library& library) {
        QString fault;
        if (step)
            onDisk->unsaved.push_back(*step);
        try {
            library::saveSteps(library, onDisk->work, work, onDisk->unsaved);
            onDisk->work = work;
            onDisk->unsaved.clear();
        } catch (const std::exception& error) {
            fault = QString::fromUtf8(error.what());
        }
        QMetaObject::invokeMethod(
            this, [this, number, fault] { heardOfSaving(number, fault); }, Qt::QueuedConnection);
    });
}

void Workbench::heardOfSaving(quint64 number, const QString& fault)
{
    if (fault.isEmpty()) {
        saved_ = number;
        if (isSaved())
            slow_.stop();
        const bool wasFailing = std::exchange(isFailing_, false);
        if (const bool wasSlow = std::exchange(isSlow_, false); wasSlow || wasFailing)
            Q_EMIT told(tr("All changes are saved now."));
        return Q_EMIT savingEnded();
    }
    slow_.stop();
    retry_.start(retryAfter);
    const bool isNew = !std::exchange(isFailing_, true);
    if (isNew)
        Q_EMIT noticed(tr("Your last changes are not saved: %1. They are kept in this window, and "
                          "saving is tried again every few seconds.")
                           .arg(fault));
    Q_EMIT savingEnded();
}

void Workbench::tellSlow()
{
    isSlow_ = true;
    Q_EMIT told(tr("Your last changes are still being written; the disk is slow."));
}

void Workbench::tellStep(const QString& what, PlaceId place)
{
    if (navigator_.shown() != place)
        navigator_.show(place); // what changes is seen to change
    Q_EMIT told(what);
}

} // namespace sieve::app
