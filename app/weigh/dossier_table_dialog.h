#pragma once

#include "core/dossier/dossier.h"
#include "core/market/market.h"

#include <QDialog>

namespace sieve::app {

/// One table of a dossier with all of its columns, to be copied and saved.
class DossierTableDialog : public QDialog {
    Q_OBJECT
public:
    DossierTableDialog(const QString& stock, const dossier::Table& table, market::MarketPtr market,
                       QWidget* parent);

    /// Tabs between the cells, as a spreadsheet takes them.
    void copy() const;

Q_SIGNALS:
    void failed(const QString& message);

private:
    void save();

    QString stock_;
    dossier::Table table_;
    market::MarketPtr market_;
};

} // namespace sieve::app
