#pragma once

#include "app/desk/asker.h"
#include "app/desk/navigator.h"
#include "core/library/history.h"
#include "core/library/name_books.h"
#include "core/library/work.h"
#include "core/screens/name_book.h"

#include <QObject>
#include <QTimer>
#include <QUndoStack>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>

namespace sieve::library {
class Library;
struct LoadedWork;
} // namespace sieve::library

namespace sieve::app {

using library::Work;

class LibraryKeeper;
class Settings;

/// The person's work as it is now: each edit is one step of the one undo history and goes to the
/// library at once, in one transaction. What could not be saved is tried again until it is.
class Workbench : public QObject {
    Q_OBJECT
public:
    /// Whether an edit is a step of its own, or part of the one before it where both are called the
    /// same and come within a second: notches of a wheel, repeats of a key.
    enum class Step { Own, MayJoin };

    /// Asks the library for the work; loaded() tells that it is there.
    Workbench(LibraryKeeper& keeper, Settings& settings, Navigator& navigator, QObject* parent);

    const Work& now() const { return work_; }
    bool isLoaded() const { return isLoaded_; }
    /// Changes the work as one step that can be undone, and saves what changed. A list that it
    /// gives another name is found by that name wherever the person asked for it. Gives back
    /// whether it could: not before the work is loaded, and not when another program has the
    /// library; the person is told why.
    bool edit(const QString& what, const std::function<void(Work&)>& change, Step step = Step::Own);
    QUndoStack& undoStack() { return undoStack_; }
    std::int64_t newId() { return nextId_++; }        ///< for a list or a screen
    bool isSaved() const { return saved_ == asked_; } ///< all edits are on the disk
    bool isFailing() const { return isFailing_; }     ///< the last saving failed; it is tried again

    /// What the person's fields, screens, lists, checklists and drawings are called now: for a job.
    screens::NameBookPtr nameBook() const;

Q_SIGNALS:
    void loaded();
    void savingEnded(); ///< well or not: isSaved(), isFailing()
    void trayChanged();
    void listsChanged();
    void screenChanged(); ///< the one in hand
    void screensChanged();
    void fieldsChanged();
    void columnSetsChanged();
    void chartSetUpsChanged();
    void weighingChanged();
    void checklistsChanged();
    void verdictsChanged();
    void alertsChanged();
    void mailChanged();
    void termsChanged(); ///< the account, the risk, the limits of plans
    void marketBookChanged();
    void drawingsChanged();
    void runsChanged();                  ///< the kept answers of studies
    void noticed(const QString& notice); ///< something that the person must know
    void told(const QString& fact);      ///< something that is good to know

private:
    class Edit;
    struct OnDisk;
    void load();
    void show(const library::LoadedWork& loaded);
    void tellProblems(const library::LoadedWork& loaded);
    /// Shows and saves the differences, as a step of the history that is kept.
    void replace(const Work& work, const library::StepMade& step);
    void copyPast(library::Library& library, const OnDisk& onDisk); ///< on the library's thread
    void tellNoPast(const QString& why);
    void readPast(const std::shared_ptr<library::Library>& copy, const Work& then);
    void takePast(const std::vector<library::PastStep>& past);
    void tellChanges(const Work& before);
    void save(const std::optional<library::StepMade>& step);
    void heardOfSaving(quint64 number, const QString& fault);
    void tellSlow();
    void tellStep(const QString& what, PlaceId place); ///< of undo and redo

    LibraryKeeper& keeper_;
    Settings& settings_;
    Navigator& navigator_;
    Work work_;
    std::shared_ptr<OnDisk> onDisk_; ///< used on the library's thread alone
    bool isLoaded_ = false;
    bool isFailing_ = false; ///< the last saving failed
    bool isSlow_ = false;    ///< the person was told that the last one takes long
    quint64 asked_ = 0;      ///< savings
    quint64 saved_ = 0;      ///< the last of them that is done; each saves all before it too
    std::int64_t nextId_ = 1;
    QTimer retry_;
    QTimer slow_;                       ///< runs while something is being saved
    mutable screens::NameBookPtr book_; ///< empty when a name changed since it was made
    mutable library::NameBooks books_;
    QUndoStack undoStack_;
    Asker past_; ///< the steps of former sessions
};

} // namespace sieve::app
