#pragma once

#include "app/desk/asker.h"
#include "core/base/shared.h"
#include "core/watchlists/watchlist.h"

#include <QDialog>

namespace sieve::app {

class Desk;

/// Who was on a list once: since when, until when, at which prices and why, the last to leave
/// first.
class FormerEntriesDialog : public QDialog {
    Q_OBJECT
public:
    FormerEntriesDialog(Desk& desk, const Shared<watchlists::Watchlist>& list, QWidget* parent);

private:
    Asker asker_;
};

} // namespace sieve::app
