#pragma once

#include "app/desk/asker.h"
#include "app/sift/sifted.h"

#include <QMenu>
#include <string>
#include <vector>

namespace sieve::app {

class Desk;

/// How results leave the program and symbols come into it.
class OutAndIn : public QMenu {
    Q_OBJECT
public:
    /// `place` takes the actions, whose keys work all over it.
    OutAndIn(Desk& desk, QWidget* place);
    void show(const SiftedPtr& sifted) { sifted_ = sifted; }
    /// What some text names, shown before it is taken; asks where to.
    void importText(const QString& typed);

Q_SIGNALS:
    void trayWanted(const std::vector<std::string>& symbols);

private:
    void copySymbols();
    void copyTable();
    void save(const QString& kind);
    void addToList(const std::vector<std::string>& symbols);

    Desk& desk_;
    Asker saver_;
    SiftedPtr sifted_ = std::make_shared<const Sifted>();
};

/// The symbols of the results, in the order of the table.
std::vector<std::string> symbolsOf(const Sifted& sifted);

} // namespace sieve::app
