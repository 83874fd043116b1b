#pragma once

#include "core/screens/name_book.h"

#include <QObject>
#include <memory>
#include <optional>
#include <string>

namespace sieve::app {

class LibraryKeeper;

/// The person's own fields. They are always right together: a change that would leave one wrong is
/// refused. Changes hold at once and are written on the library's thread.
class FieldShelf : public QObject {
    Q_OBJECT
public:
    FieldShelf(LibraryKeeper& keeper, QObject* parent);

    /// As they are now; a job may keep it while they change.
    const std::shared_ptr<const language::OwnFields>& all() const { return fields_; }
    const language::Field* find(const std::string& name) const; ///< null: none
    void become(language::OwnFields fields);                    ///< what the library holds

    // Errors: those of OwnFields; nothing changed then.
    std::optional<LocatedError> put(const language::Field& field);
    std::optional<LocatedError> rename(const std::string& from, const std::string& to);
    std::optional<LocatedError> remove(const std::string& name);

Q_SIGNALS:
    void changed();

private:
    template <class Change>
    std::optional<LocatedError> change(Change change, const std::vector<std::string>& removed);

    LibraryKeeper& keeper_;
    std::shared_ptr<const language::OwnFields> fields_ = screens::noOwnFields();
};

} // namespace sieve::app
