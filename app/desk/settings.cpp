#include "app/desk/settings.h"

#include "app/desk/library_keeper.h"
#include "core/library/settings.h"

namespace sieve::app {

Settings::Settings(LibraryKeeper& keeper, QObject* parent) : QObject(parent), keeper_(keeper) {}

const std::string& Settings::value(const std::string& key) const
{
    static const std::string none;
    const auto found = values_.find(key);
    return found == values_.end() ? none : found->second;
}

void Settings::set(const std::string& key, const std::string& value)
{
    if (this->value(key) == value)
        return;
    values_[key] = value;
    Q_EMIT changed(key);
    keeper_.enqueue(
        [key, value](library::Library& library) { library::setSetting(library, key, value); });
}

void Settings::load(std::map<std::string, std::string> values)
{
    values_ = std::move(values);
    isLoaded_ = true;
    Q_EMIT loaded();
}

} // namespace sieve::app
