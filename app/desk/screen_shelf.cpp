#include "app/desk/screen_shelf.h"

#include "app/desk/library_keeper.h"

#include <QPointer>
#include <algorithm>

namespace sieve::app {

ScreenShelf::ScreenShelf(LibraryKeeper& keeper, QObject* parent) : QObject(parent), keeper_(keeper)
{
}

const screens::Screen* ScreenShelf::find(const std::string& name) const
{
    const auto found = std::ranges::find(screens_, name, &screens::Screen::name);
    return found == screens_.end() ? nullptr : &*found;
}

void ScreenShelf::become(std::vector<screens::Screen> screens)
{
    screens_ = std::move(screens);
    Q_EMIT changed();
}

void ScreenShelf::put(const screens::Screen& screen)
{
    std::erase_if(screens_, [&](const auto& each) { return each.name == screen.name; });
    screens_.insert(std::ranges::upper_bound(screens_, screen.name, {}, &screens::Screen::name),
                    screen);
}

void ScreenShelf::save(const screens::Screen& screen)
{
    put(screen);
    keeper_.enqueue([screen](library::Library& library) { saveScreen(library, screen); });
    Q_EMIT changed();
}

void ScreenShelf::rename(const std::string& from, const screens::Screen& renamed)
{
    std::erase_if(screens_, [&](const auto& each) { return each.name == from; });
    put(renamed);
    keeper_.enqueue(
        [from, renamed](library::Library& library) { renameScreen(library, from, renamed); });
    Q_EMIT changed();
}

void ScreenShelf::remove(const std::string& name)
{
    std::erase_if(screens_, [&](const auto& each) { return each.name == name; });
    keeper_.enqueue([name](library::Library& library) { library::removeScreen(library, name); });
    Q_EMIT changed();
}

/// The keeper ends before the shelf does, so the shelf is there to take what was read; whether the
/// receiver still is can only be told on its own thread.
template <class Read, class Take> void ScreenShelf::read(Read read, QObject* receiver, Take take)
{
    keeper_.enqueue(
        [this, read, take, receiver = QPointer<QObject>(receiver)](library::Library& library) {
            QMetaObject::invokeMethod(
                this,
                [found = read(library), take, receiver] {
                    if (receiver)
                        take(found);
                },
                Qt::QueuedConnection);
        });
}

void ScreenShelf::readVersions(const std::string& name, QObject* receiver,
                               std::function<void(const std::vector<library::ScreenVersion>&)> take)
{
    read([name](library::Library& library) { return library::versionsOf(library, name); }, receiver,
         std::move(take));
}

void ScreenShelf::readRemoved(QObject* receiver,
                              std::function<void(const std::vector<std::string>&)> take)
{
    read([](library::Library& library) { return library::removedScreens(library); }, receiver,
         std::move(take));
}

} // namespace sieve::app
