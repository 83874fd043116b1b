#pragma once

#include "core/library/screens.h"

#include <QObject>
#include <functional>
#include <string>
#include <vector>

namespace sieve::app {

class LibraryKeeper;
class Workbench;

/// The screens that the person saved, with what they were before. They are part of the work: each
/// change is a step of it.
class ScreenShelf : public QObject {
    Q_OBJECT
public:
    ScreenShelf(LibraryKeeper& keeper, Workbench& work, QObject* parent);

    const std::vector<screens::Screen>& all() const { return screens_; } ///< by name
    const screens::Screen* find(const std::string& name) const;          ///< null: none

    void save(const screens::Screen& screen);                  ///< over one of the same name
    bool saveAll(const std::vector<screens::Screen>& screens); ///< gives back whether it could
    bool remove(const std::vector<std::string>& names);        ///< their versions stay

    /// Hands over what a screen was, the newest first; not when `receiver` is gone by then.
    void readVersions(const std::string& name, QObject* receiver,
                      std::function<void(const std::vector<library::ScreenVersion>&)> take);
    void readRemoved(QObject* receiver, std::function<void(const std::vector<std::string>&)> take);

Q_SIGNALS:
    void changed(); ///< drafts too

private:
    void show();
    void tellFault(const QString& fault);

    LibraryKeeper& keeper_;
    Workbench& work_;
    std::vector<screens::Screen> screens_;
};

} // namespace sieve::app
