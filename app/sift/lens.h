#pragma once

#include "app/parts/actions.h"
#include "app/sift/sifted.h"

#include <QWidget>
#include <span>
#include <vector>

namespace sieve::app {

class Desk;

/// One way to look at what passes. Shown a finished answer; the chosen stock is the desk's.
class Lens : public QWidget {
    Q_OBJECT
public:
    explicit Lens(Desk& desk) : desk_(desk) {}
    /// Called only while the lens can be seen.
    virtual void show(const SiftedPtr& sifted) = 0;

Q_SIGNALS:
    void trayWanted(const std::vector<std::string>& symbols);
    void boundWanted(std::size_t criterion, std::size_t limit, double bound);

protected:
    Desk& desk_;
};

struct LensEntry {
    ActionId id; ///< shows it, and bears its title, tip and key
    Lens* (*make)(Desk&);
};

/// All lenses beside the table, in their order. A new one is a file, a row of this and its action.
std::span<const LensEntry> lenses();

} // namespace sieve::app
