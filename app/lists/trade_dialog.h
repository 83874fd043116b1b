#pragma once

#include "core/watchlists/entry.h"

#include <QDialog>

class QDateEdit;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;

namespace sieve::app {

/// A purchase or a sale of an entry: day, price, shares, why.
class TradeDialog : public QDialog {
    Q_OBJECT
public:
    /// `proposed`: what stands there first.
    TradeDialog(const QString& symbol, const watchlists::Entry& entry,
                const watchlists::Trade& proposed, bool isSale, QWidget* parent);

    watchlists::Trade trade() const;

    void accept() override; ///< once all is right

private:
    watchlists::Entry entry_;
    bool isSale_;
    QDateEdit* on_;
    QDoubleSpinBox* price_;
    QDoubleSpinBox* shares_;
    QLineEdit* why_;
    QLabel* fault_;
};

} // namespace sieve::app
