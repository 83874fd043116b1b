#pragma once

#include "core/conditions/market_book.h"
#include "core/watchlists/trading_terms.h"

#include <QDialog>

class QComboBox;
class QDoubleSpinBox;

namespace sieve::app {

/// What plans go by: the account, what may be lost, when a price is near or has run too far, and
/// which rule of the market says to leave it.
class TermsDialog : public QDialog {
    Q_OBJECT
public:
    TermsDialog(const watchlists::TradingTerms& terms, const conditions::MarketBook& book,
                const std::string& currency, QWidget* parent);

    watchlists::TradingTerms terms() const;

private:
    QDoubleSpinBox* account_;
    QDoubleSpinBox* risk_;
    QDoubleSpinBox* near_;
    QDoubleSpinBox* tooFar_;
    QComboBox* rule_;
};

} // namespace sieve::app
