#pragma once

#include "app/desk/work.h"
#include "core/screens/name_book.h"

#include <QObject>
#include <QUndoStack>
#include <functional>
#include <optional>
#include <string>

namespace sieve::app {

class FieldShelf;
class LibraryKeeper;
class ScreenShelf;
class Settings;

/// The person's work as it is now: each edit is one step of the one undo history and goes to the
/// library at once. Names that change are changed wherever the person's texts ask for them.
class Workbench : public QObject {
    Q_OBJECT
public:
    /// Asks the library for the work; loaded() tells that it is there.
    /// Requires: made before anybody else listens to the shelves, so that nameBook() is right when
    ///           the others hear of a change.
    Workbench(LibraryKeeper& keeper, Settings& settings, ScreenShelf& screens, FieldShelf& fields,
              QObject* parent);

    const Work& now() const { return work_; }
    bool isLoaded() const { return isLoaded_; }
    /// Changes the work as one step that can be undone, and saves what changed. A list that it
    /// gives another name is found by that name wherever the person asked for it.
    void edit(const QString& what, const std::function<void(Work&)>& change);
    QUndoStack& undoStack() { return undoStack_; }
    std::int64_t newListId() const;

    /// Gives an own field another name, in all that the person wrote.
    /// Errors: those of OwnFields::rename; nothing changed then.
    std::optional<LocatedError> renameField(const std::string& from, const std::string& to);
    /// Puts a saved screen in the place of the one called `from`; who asks for it by its name goes
    /// on to find it.
    void renameScreen(const std::string& from, const screens::Screen& renamed);
    /// What the person's fields, screens and lists are called now: for a job.
    screens::NameBookPtr nameBook() const;

Q_SIGNALS:
    void loaded();
    void trayChanged();
    void listsChanged();
    void screenChanged();
    void marketBookChanged();
    void noticed(const QString& notice); ///< something that the person must know

private:
    class Edit;
    struct Loaded;
    void load();
    void show(Loaded& loaded);
    void become(const Work& work); ///< shows and saves the differences
    void carry(const language::Renaming& renaming);
    void carryIntoShelf(const language::Renaming& renaming);

    LibraryKeeper& keeper_;
    Settings& settings_;
    ScreenShelf& screens_;
    FieldShelf& fields_;
    Work work_;
    bool isLoaded_ = false;
    mutable screens::NameBookPtr book_; ///< empty when a name changed since it was made
    QUndoStack undoStack_;
};

} // namespace sieve::app
