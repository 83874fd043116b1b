#pragma once

#include <QWidget>

class QTableView;

namespace sieve::app {

/// A line under a table, in its columns: what the model says of each column in `footRole`.
class TableFoot : public QWidget {
    Q_OBJECT
public:
    static constexpr int footRole = Qt::UserRole + 40; ///< of headerData: text of the foot

    explicit TableFoot(QTableView* table);

protected:
    void paintEvent(QPaintEvent* event) override;
    QSize sizeHint() const override;

private:
    QTableView* table_;
};

} // namespace sieve::app
