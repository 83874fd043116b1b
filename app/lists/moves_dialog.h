#pragma once

#include "core/market/market.h"
#include "core/watchlists/stays.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QTreeWidget;

namespace sieve::app {

/// Who came onto a list and who went: day by day, and between any two days.
class MovesDialog : public QDialog {
    Q_OBJECT
public:
    MovesDialog(const QString& list, watchlists::Stays stays, market::MarketPtr market,
                QWidget* parent);

Q_SIGNALS:
    void stockChosen(std::size_t stock);

private:
    void fillDays();
    void tellBetween();
    QString namesOf(const std::vector<std::size_t>& stocks) const;

    watchlists::Stays stays_;
    market::MarketPtr market_;
    QTreeWidget* days_;
    QComboBox* from_;
    QComboBox* to_;
    QLabel* between_;
};

} // namespace sieve::app
