#include "app/weigh/dossier_dialog.h"

#include "app/weigh/dossier_page.h"

#include <QDialogButtonBox>
#include <QScrollArea>
#include <QVBoxLayout>

namespace sieve::app {

DossierDialog::DossierDialog(const QString& title, market::MarketPtr market, Make make,
                             QWidget* parent)
    : QDialog(parent), asker_(this), page_(new DossierPage),
      buttons_(new QDialogButtonBox(QDialogButtonBox::Close))
{
    setWindowTitle(title);
    auto* scroll = new QScrollArea;
    scroll->setWidget(page_);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setFrameShape(QFrame::NoFrame);
    connect(page_, &DossierPage::rowChosen, scroll, [scroll](const QRect& place) {
        scroll->ensureVisible(place.center().x(), place.center().y(), 0, 60);
    });
    connect(buttons_, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(scroll, 1);
    layout->addWidget(buttons_);
    resize(560, 560);
    page_->setFocus();
    connect(&asker_, &Asker::failed, this, &DossierDialog::failed);
    asker_.ask(
        [make = std::move(make)](const Progress& progress) {
            return std::make_shared<const dossier::Dossier>(make(progress));
        },
        [this, market = std::move(market)](const std::shared_ptr<const dossier::Dossier>& made) {
            page_->show(made, market);
        });
}

} // namespace sieve::app
