#pragma once

#include "core/library/screens.h"

#include <QObject>
#include <functional>
#include <string>
#include <vector>

namespace sieve::app {

class LibraryKeeper;

/// The screens that the person saved, with what they were before. Changes are shown at once and
/// written on the library's thread.
class ScreenShelf : public QObject {
    Q_OBJECT
public:
    ScreenShelf(LibraryKeeper& keeper, QObject* parent);

    const std::vector<screens::Screen>& all() const { return screens_; } ///< by name
    const screens::Screen* find(const std::string& name) const;          ///< null: none
    void become(std::vector<screens::Screen> screens);                   ///< what the library holds

    void save(const screens::Screen& screen); ///< over one of the same name
    /// Puts it in the place of the one of another name, which must be there; the new name is free.
    void rename(const std::string& from, const screens::Screen& renamed);
    void remove(const std::string& name); ///< its versions stay

    /// Hands over what a screen was, the newest first; not when `receiver` is gone by then.
    void readVersions(const std::string& name, QObject* receiver,
                      std::function<void(const std::vector<library::ScreenVersion>&)> take);
    void readRemoved(QObject* receiver, std::function<void(const std::vector<std::string>&)> take);

Q_SIGNALS:
    void changed();

private:
    void put(const screens::Screen& screen);
    template <class Read, class Take> void read(Read read, QObject* receiver, Take take);

    LibraryKeeper& keeper_;
    std::vector<screens::Screen> screens_;
};

} // namespace sieve::app
