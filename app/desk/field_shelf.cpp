#include "app/desk/field_shelf.h"

#include "app/desk/workbench.h"
#include "app/parts/number_text.h"

#include <algorithm>

namespace sieve::app {

namespace {

std::optional<LocatedError> told(bool isDone)
{
    if (isDone)
        return std::nullopt;
    return LocatedError{{}, "nothing was changed", "read the notice in the window"};
}

} // namespace

FieldShelf::FieldShelf(Workbench& work, QObject* parent) : QObject(parent), work_(work)
{
    connect(&work_, &Workbench::fieldsChanged, this, &FieldShelf::changed);
}

std::shared_ptr<const language::OwnFields> FieldShelf::all() const
{
    return work_.now().fields.pointer();
}

const language::Field* FieldShelf::find(const std::string& name) const
{
    const auto fields = work_.now().fields->fields();
    const auto found = std::ranges::find(fields, name, &language::Field::name);
    return found == fields.end() ? nullptr : &*found;
}

std::optional<LocatedError> FieldShelf::put(const std::string& former, const language::Field& field)
{
    Work after = work_.now();
    if (!former.empty() && former != field.name)
        if (auto error = renameField(after, former, field.name))
            return error;
    if (auto error = after.fields.edit().put(field))
        return error;
    return told(work_.edit(tr("Save the field %1").arg(text(field.name)),
                           [&](Work& work) { work = after; }));
}

std::optional<LocatedError> FieldShelf::remove(const std::string& name)
{
    Work after = work_.now();
    if (auto error = after.fields.edit().remove(name))
        return error;
    return told(
        work_.edit(tr("Remove the field %1").arg(text(name)), [&](Work& work) { work = after; }));
}

} // namespace sieve::app
