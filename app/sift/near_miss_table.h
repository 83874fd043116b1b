#pragma once

#include "app/sift/sifted.h"

#include <QTreeWidget>

namespace sieve::app {

/// The stocks that a single limit keeps out, the nearest first: which limit, and by how far.
class NearMissTable : public QTreeWidget {
    Q_OBJECT
public:
    explicit NearMissTable(QWidget* parent = nullptr);
    void show(const SiftedPtr& sifted);
    void setChosen(std::optional<std::size_t> stock);

Q_SIGNALS:
    void chosen(std::size_t instrument);

private:
    enum Column { Symbol, Name, By, Figure, Bound, Away, ColumnCount };
    static constexpr int stockRole = Qt::UserRole;

    bool isSized_ = false;
};

} // namespace sieve::app
