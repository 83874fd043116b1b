#pragma once

#include "app/desk/asker.h"
#include "app/sift/sifted.h"

#include <QMenu>
#include <string>
#include <vector>

namespace sieve::app {

class Desk;

/// How results leave the program and symbols come into it. A widget that takes its actions too
/// makes their keys work while it is closed.
class OutAndIn : public QMenu {
    Q_OBJECT
public:
    OutAndIn(Desk& desk, QWidget* parent);
    void show(const SiftedPtr& sifted) { sifted_ = sifted; }
    /// What some text names, shown before it is taken; asks where to.
    void takeText(const QString& typed);

Q_SIGNALS:
    void trayWanted(const std::vector<std::string>& symbols);

private:
    void addEntry(const QString& name, const QKeySequence& key, const std::function<void()>& run);
    void copySymbols() const;
    void copyTable() const;
    void save(const QString& kind);
    void addToList(const std::vector<std::string>& symbols);

    Desk& desk_;
    Asker saver_;
    SiftedPtr sifted_ = std::make_shared<const Sifted>();
};

/// The symbols of the results, in the order of the table.
std::vector<std::string> symbolsOf(const Sifted& sifted);

} // namespace sieve::app
