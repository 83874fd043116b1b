#pragma once

#include <QObject>
#include <map>
#include <string>

namespace sieve::app {

class LibraryKeeper;

/// Named values that are remembered from one session to the next: where one stopped, widths, the
/// palette. A value holds at once and is written on the library's thread.
class Settings : public QObject {
    Q_OBJECT
public:
    Settings(LibraryKeeper& keeper, QObject* parent);

    const std::string& value(const std::string& key) const; ///< empty when never set
    void set(const std::string& key, const std::string& value);

    bool isLoaded() const { return isLoaded_; }
    void load(std::map<std::string, std::string> values); ///< what the library holds

Q_SIGNALS:
    void loaded();
    void changed(const std::string& key); ///< by set()

private:
    LibraryKeeper& keeper_;
    std::map<std::string, std::string> values_;
    bool isLoaded_ = false;
};

} // namespace sieve::app
