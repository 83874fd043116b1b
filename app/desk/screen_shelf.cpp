#include "app/desk/screen_shelf.h"

#include "app/desk/library_keeper.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"

#include <algorithm>

namespace sieve::app {

ScreenShelf::ScreenShelf(LibraryKeeper& keeper, Workbench& work, QObject* parent)
    : QObject(parent), keeper_(keeper), work_(work)
{
    connect(&work_, &Workbench::screensChanged, this, &ScreenShelf::show);
}

void ScreenShelf::show()
{
    screens_.clear();
    for (const auto& kept : work_.now().screens)
        screens_.push_back(kept->screen);
    Q_EMIT changed();
}

const screens::Screen* ScreenShelf::find(const std::string& name) const
{
    const auto found = std::ranges::find(screens_, name, &screens::Screen::name);
    return found == screens_.end() ? nullptr : &*found;
}

void ScreenShelf::save(const screens::Screen& screen)
{
    work_.edit(tr("Save the screen “%1”").arg(text(screen.name)),
               [&](Work& work) { keepScreen(work, screen, work_.newId()); });
}

bool ScreenShelf::saveAll(const std::vector<screens::Screen>& screens)
{
    return work_.edit(tr("Take in %1 screens").arg(screens.size()), [&](Work& work) {
        for (const screens::Screen& screen : screens)
            keepScreen(work, screen, work_.newId());
    });
}

bool ScreenShelf::remove(const std::vector<std::string>& names)
{
    const QString what = names.size() == 1 ? tr("Remove the screen “%1”").arg(text(names.front()))
                                           : tr("Remove %1 screens").arg(names.size());
    return work_.edit(what, [&](Work& work) {
        for (const std::string& name : names)
            removeScreen(work, name);
    });
}

void ScreenShelf::readVersions(const std::string& name, QObject* receiver,
                               std::function<void(const std::vector<library::ScreenVersion>&)> take)
{
    keeper_.ask(
        receiver, [name](library::Library& library) { return library::versionsOf(library, name); },
        std::move(take), [this](const QString& fault) { tellFault(fault); });
}

void ScreenShelf::readRemoved(QObject* receiver,
                              std::function<void(const std::vector<std::string>&)> take)
{
    keeper_.ask(
        receiver, [](library::Library& library) { return library::removedScreens(library); },
        std::move(take), [this](const QString& fault) { tellFault(fault); });
}

void ScreenShelf::tellFault(const QString& fault)
{
    Q_EMIT work_.noticed(tr("What your screens were before could not be read: %1").arg(fault));
}

} // namespace sieve::app
