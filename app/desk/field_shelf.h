#pragma once

#include "core/language/own_fields.h"

#include <QObject>
#include <memory>
#include <optional>
#include <string>

namespace sieve::app {

class Workbench;

/// The person's own fields. They are part of the work: each change is a step of it. They are always
/// right together: a change that would leave one wrong is refused.
class FieldShelf : public QObject {
    Q_OBJECT
public:
    FieldShelf(Workbench& work, QObject* parent);

    /// As they are now; a job may keep it while they change.
    std::shared_ptr<const language::OwnFields> all() const;
    const language::Field* find(const std::string& name) const; ///< null: none

    // Errors: those of OwnFields; an edit that the work does not take. Nothing changed then.
    /// Puts a field in the place of the one called `former` (empty: none), whose name is followed
    /// wherever the person asked for it.
    std::optional<LocatedError> put(const std::string& former, const language::Field& field);
    std::optional<LocatedError> remove(const std::string& name);

Q_SIGNALS:
    void changed();

private:
    Workbench& work_;
};

} // namespace sieve::app
