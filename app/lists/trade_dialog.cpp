#include "app/lists/trade_dialog.h"

#include "app/look/tone.h"
#include "app/parts/number_text.h"

#include <QDateEdit>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QVBoxLayout>
#include <cmath>

namespace sieve::app {

TradeDialog::TradeDialog(const QString& symbol, const watchlists::Entry& entry,
                         const watchlists::Trade& proposed, bool isSale, QWidget* parent)
    : QDialog(parent), entry_(entry), isSale_(isSale), on_(new QDateEdit),
      price_(new QDoubleSpinBox), shares_(new QDoubleSpinBox), why_(new QLineEdit),
      fault_(new QLabel)
{
    setWindowTitle(isSale_ ? tr("Sold %1").arg(symbol) : tr("Bought %1").arg(symbol));
    on_->setCalendarPopup(true);
    on_->setDisplayFormat(QStringLiteral("ddd d MMM yyyy"));
    on_->setDate(dateOf(proposed.on));
    for (QDoubleSpinBox* box : {price_, shares_}) {
        box->setRange(0.0, 1e12);
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    }
    price_->setDecimals(proposed.price < 1.0 ? 4 : 2);
    price_->setValue(isMissing(proposed.price) ? 0.0 : proposed.price);
    shares_->setDecimals(proposed.shares == std::floor(proposed.shares) ? 0 : 4);
    shares_->setValue(std::abs(proposed.shares));
    auto* form = new QFormLayout;
    const auto add = [form](const QString& title, QWidget* line) {
        line->setAccessibleName(QString(title).remove(u'&'));
        form->addRow(title, line);
    };
    add(tr("&Day"), on_);
    add(tr("&Price"), price_);
    add(tr("&Shares"), shares_);
    add(tr("&Why"), why_);
    fault_->setWordWrap(true);
    setTone(fault_, Tone::Caution);
    auto* hint = new QLabel(tr("Price and shares as on that day; splits are taken out later. "
                               "Costs and dividends are not counted."));
    hint->setWordWrap(true);
    setTone(hint, Tone::Soft);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(form);
    layout->addWidget(hint);
    layout->addWidget(fault_);
    layout->addWidget(buttons);
    resize(360, sizeHint().height());
    shares_->setFocus();
    shares_->selectAll();
}

watchlists::Trade TradeDialog::trade() const
{
    return {dayOf(on_->date()), price_->value(), isSale_ ? -shares_->value() : shares_->value(),
            utf8(why_->text().trimmed())};
}

void TradeDialog::accept()
{
    watchlists::Entry entry = entry_;
    const std::string fault = watchlists::addTrade(entry, trade());
    fault_->setText(text(fault));
    if (fault.empty())
        QDialog::accept();
}

} // namespace sieve::app
