#pragma once

#include "core/market/market.h"
#include "core/watchlists/watchlist.h"

#include <QDialog>

namespace sieve::app {

/// Who was on a list once: since when, until when, at which prices and why, the last to leave
/// first.
class FormerEntriesDialog : public QDialog {
    Q_OBJECT
public:
    /// `market` is null while none is open.
    FormerEntriesDialog(const watchlists::Watchlist& list, const market::MarketPtr& market,
                        QWidget* parent);
};

} // namespace sieve::app
