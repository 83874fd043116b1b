#pragma once

#include <QTableView>

namespace sieve::app {

/// Keeps a table's first column in sight while the rest is scrolled sideways: it lies over the
/// table, with the same rows and the same selection, only while the first column itself is away.
class FrozenColumn : public QTableView {
    Q_OBJECT
public:
    explicit FrozenColumn(QTableView* table);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void arrange();

    QTableView* table_;
};

} // namespace sieve::app
