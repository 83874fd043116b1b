#include "app/desk/field_shelf.h"

#include "app/desk/library_keeper.h"
#include "core/library/own_fields.h"

#include <algorithm>

namespace sieve::app {

FieldShelf::FieldShelf(LibraryKeeper& keeper, QObject* parent) : QObject(parent), keeper_(keeper) {}

const language::Field* FieldShelf::find(const std::string& name) const
{
    const auto all = fields_->fields();
    const auto found = std::ranges::find(all, name, &language::Field::name);
    return found == all.end() ? nullptr : &*found;
}

void FieldShelf::become(language::OwnFields fields)
{
    fields_ = std::make_shared<const language::OwnFields>(std::move(fields));
    Q_EMIT changed();
}

template <class Change> std::optional<LocatedError>
FieldShelf::change(Change change, const std::vector<std::string>& removed)
{
    language::OwnFields fields = *fields_;
    if (auto error = change(fields))
        return error;
    keeper_.enqueue([fields, removed](library::Library& library) {
        library::saveOwnFields(library, fields, removed);
    });
    become(std::move(fields));
    return std::nullopt;
}

std::optional<LocatedError> FieldShelf::put(const language::Field& field)
{
    return change([&](language::OwnFields& fields) { return fields.put(field); }, {});
}

std::optional<LocatedError> FieldShelf::rename(const std::string& from, const std::string& to)
{
    return change([&](language::OwnFields& fields) { return fields.rename(from, to); }, {from});
}

std::optional<LocatedError> FieldShelf::remove(const std::string& name)
{
    return change([&](language::OwnFields& fields) { return fields.remove(name); }, {name});
}

} // namespace sieve::app
