#pragma once

#include "app/desk/asker.h"
#include "app/sift/lens.h"
#include "core/screens/groups.h"

class QComboBox;
class QTreeWidget;
class QTreeWidgetItem;

namespace sieve::app {

/// The matches by sector, industry or exchange: how many of each, and their share beside that of
/// the universe.
class GroupsLens : public Lens {
    Q_OBJECT
public:
    explicit GroupsLens(Desk& desk);
    void show(const SiftedPtr& sifted) override;

private:
    enum Column { Name, Matches, Universe, Share, Expected, Bars, ColumnCount };
    static constexpr int stockRole = Qt::UserRole;

    void ask();
    void fill();
    void addStocks(QTreeWidgetItem* group) const;

    Asker asker_;
    QComboBox* by_;
    QTreeWidget* tree_;
    SiftedPtr sifted_;
    market::MarketPtr market_;                ///< of the groups
    std::vector<screens::MatchGroup> groups_; ///< a row each
};

} // namespace sieve::app
