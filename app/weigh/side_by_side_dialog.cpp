#include "app/weigh/side_by_side_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "app/weigh/dossier_page.h"
#include "core/market/as_of.h"
#include "core/market/symbol_picking.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QScrollArea>
#include <QScrollBar>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

SideBySideDialog::SideBySideDialog(Desk& desk, Day day, const QStringList& symbols, bool isByYear,
                                   Make make, QWidget* parent)
    : QDialog(parent), desk_(desk), asker_(this), market_(desk.market().evaluator()->marketPtr()),
      make_(std::move(make)), isByYear_(isByYear), symbols_(new QLineEdit), told_(new QLabel),
      heads_(new QWidget), scroll_(new QScrollArea)
{
    setWindowTitle(tr("Side by side, as known on %1").arg(dayText(day)));
    symbols_->setAccessibleName(tr("Symbols of two to four stocks"));
    symbols_->setPlaceholderText(tr("Symbols of two to four stocks"));
    symbols_->setText(symbols.join(QLatin1Char(' ')));
    connect(symbols_, &QLineEdit::returnPressed, this, &SideBySideDialog::ask);
    setTone(told_, Tone::Soft);
    told_->setWordWrap(true);
    new QHBoxLayout(heads_);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn);
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setFocusPolicy(Qt::NoFocus);
    auto* top = new QHBoxLayout;
    top->addWidget(new QLabel(tr("Stocks")));
    top->addWidget(symbols_, 1);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(top);
    layout->addWidget(told_);
    layout->addWidget(heads_);
    layout->addWidget(scroll_, 1);
    resize(1180, 760);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    ask();
}

QString SideBySideDialog::told() const
{
    return told_->text();
}

void SideBySideDialog::ask()
{
    std::vector<std::size_t> stocks;
    for (const std::size_t stock : market::certainPicks(*market_, utf8(symbols_->text())))
        if (std::ranges::find(stocks, stock) == stocks.end())
            stocks.push_back(stock);
    const bool areTooMany = stocks.size() > most;
    if (areTooMany)
        stocks.resize(most);
    told_->setText(stocks.size() < 2 ? tr("Write the symbols of two to four stocks, then Return.")
                   : areTooMany      ? tr("The first four are shown.")
                                     : tr("J and Shift+J go from part to part."));
    asker_.ask(
        [make = make_, stocks](const Progress& progress) {
            Dossiers made;
            for (const std::size_t stock : stocks)
                made.push_back(std::make_shared<const dossier::Dossier>(make(stock, progress)));
            return made;
        },
        [this](const Dossiers& made) { setDossiers(made); });
}

void SideBySideDialog::setDossiers(const Dossiers& dossiers)
{
    dossiers_ = dossiers;
    pages_.clear();
    auto* heads = static_cast<QHBoxLayout*>(heads_->layout());
    while (QLayoutItem* item = heads->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    heads->setContentsMargins(0, 0, scroll_->verticalScrollBar()->sizeHint().width(), 0);
    heads->setSpacing(8);
    auto* sheet = new QWidget;
    auto* row = new QHBoxLayout(sheet);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(8);
    for (const auto& dossier : dossiers_) {
        auto* head = new QLabel(tr("%1  %2").arg(text(dossier->symbol), text(dossier->name)));
        head->setFont(fontOf(Weight::SemiBold, 1.1));
        head->setIndent(14);
        head->setMinimumWidth(10);
        heads->addWidget(head, 1);
        auto* page = new DossierPage;
        page->setAccessibleName(tr("Dossier of %1").arg(text(dossier->symbol)));
        page->setByYear(isByYear_);
        row->addWidget(page, 1);
        pages_.push_back(page);
        connect(page, &DossierPage::rowChosen, this, [this, page](const QRect& place) {
            const QPoint at = page->mapTo(scroll_->widget(), place.center());
            scroll_->ensureVisible(at.x(), at.y(), 0, 60);
        });
        connect(page, &DossierPage::stockChosen, this, &SideBySideDialog::stockChosen);
        connect(page, &DossierPage::explanationAsked, this,
                [this, stock = dossier->stock](const QString& expression, const QString& title) {
                    Q_EMIT explanationAsked(stock, expression, title);
                });
    }
    scroll_->setWidget(sheet);
    for (std::size_t i = 0; i < pages_.size(); ++i)
        pages_[i]->show(dossiers_[i], market_);
    if (pages_.size() > 1)
        pages_[0]->setFocus();                             // its keys go on from here
    QTimer::singleShot(0, this, &SideBySideDialog::align); // once they know how wide they are
}

/// Each part begins at one height on all pages.
void SideBySideDialog::align()
{
    std::map<std::string, int> heights;
    for (DossierPage* page : pages_) {
        page->setLeastHeights({});
        for (const auto& [part, height] : page->partHeights())
            heights[part] = std::max(heights[part], height);
    }
    for (DossierPage* page : pages_)
        page->setLeastHeights(heights);
}

void SideBySideDialog::jump(int by)
{
    if (pages_.empty())
        return;
    QScrollBar& bar = *scroll_->verticalScrollBar();
    const std::vector<std::string> keys = dossier::partKeys();
    const auto at =
        std::ranges::find(keys, utf8(pages_[0]->partAt(bar.value()))) - keys.begin() + by;
    if (at >= 0 && at < std::ssize(keys))
        bar.setValue(pages_[0]->topOf(keys[static_cast<std::size_t>(at)]).value_or(bar.value()));
}

void SideBySideDialog::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_J)
        return jump(event->modifiers() & Qt::ShiftModifier ? -1 : 1);
    QDialog::keyPressEvent(event);
}

void SideBySideDialog::resizeEvent(QResizeEvent* event)
{
    QDialog::resizeEvent(event);
    QTimer::singleShot(0, this, &SideBySideDialog::align);
}

} // namespace sieve::app
