#pragma once

#include "app/desk/asker.h"
#include "core/dossier/dossier.h"

#include <QDialog>
#include <functional>
#include <memory>

class QDialogButtonBox;

namespace sieve::app {

class DossierPage;

/// A page of a dossier in a window of its own: why a stock moved, what is new about those followed.
class DossierDialog : public QDialog {
    Q_OBJECT
public:
    using Make = std::function<dossier::Dossier(const Progress&)>;

    /// `make` owns all that it uses; it runs beside the window's thread.
    DossierDialog(const QString& title, market::MarketPtr market, Make make, QWidget* parent);

    DossierPage& page() { return *page_; }
    QDialogButtonBox& buttons() { return *buttons_; }

Q_SIGNALS:
    void failed(const QString& message);

private:
    Asker asker_;
    DossierPage* page_;
    QDialogButtonBox* buttons_;
};

} // namespace sieve::app
