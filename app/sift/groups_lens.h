#pragma once

#include "app/sift/lens.h"

class QComboBox;
class QTreeWidget;

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

    void fill();

    QComboBox* by_;
    QTreeWidget* tree_;
    SiftedPtr sifted_;
};

} // namespace sieve::app
