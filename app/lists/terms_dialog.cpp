#include "app/lists/terms_dialog.h"

#include "app/look/tone.h"
#include "app/parts/number_text.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

TermsDialog::TermsDialog(const watchlists::TradingTerms& terms, const conditions::MarketBook& book,
                         const std::string& currency, QWidget* parent)
    : QDialog(parent), account_(new QDoubleSpinBox), risk_(new QDoubleSpinBox),
      near_(new QDoubleSpinBox), tooFar_(new QDoubleSpinBox), rule_(new QComboBox)
{
    setWindowTitle(tr("Account and limits of plans"));
    auto* form = new QFormLayout;
    const auto add = [form](QDoubleSpinBox* box, const QString& title, double least, double most,
                            double value, const QString& unit, int decimals) {
        box->setRange(least, most);
        box->setDecimals(decimals);
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
        box->setSuffix(unit);
        box->setValue(value);
        box->setAccessibleName(QString(title).remove(u'&'));
        form->addRow(title, box);
    };
    const QString percent = QStringLiteral(" %");
    add(account_, tr("&Account"), 100.0, 1e10, terms.plan.account,
        QStringLiteral(" ") + text(currency), 0);
    account_->setGroupSeparatorShown(true);
    add(risk_, tr("&Share of it lost at a stop"), 0.1, 100.0, 100.0 * terms.plan.risk, percent, 1);
    add(near_, tr("&Near: so close to the entry"), 0.1, 100.0, 100.0 * terms.near, percent, 1);
    add(tooFar_, tr("&Run too far: so much above it"), 0.1, 1000.0, 100.0 * terms.tooFar, percent,
        1);
    rule_->addItem(tr("no money may be at work by your rules"), QString());
    for (const conditions::TimingRule& rule : book.rules)
        rule_->addItem(rule.standsAside ? tr("“%1” is on").arg(text(rule.title))
                                        : tr("“%1” is off").arg(text(rule.title)),
                       text(rule.title));
    rule_->setCurrentIndex(std::max(rule_->findData(text(terms.leavingRule)), 0));
    rule_->setAccessibleName(tr("Leave the market when"));
    form->addRow(tr("&Leave the market when"), rule_);
    auto* hint = new QLabel(tr("The rules of the market stand in Market. When they say to leave, "
                               "every entry that is held says so, whatever its own plan says."));
    hint->setWordWrap(true);
    setTone(hint, Tone::Soft);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(form);
    layout->addWidget(hint);
    layout->addWidget(buttons);
    resize(460, sizeHint().height());
}

watchlists::TradingTerms TermsDialog::terms() const
{
    return {{account_->value(), risk_->value() / 100.0},
            near_->value() / 100.0,
            tooFar_->value() / 100.0,
            utf8(rule_->currentData().toString())};
}

} // namespace sieve::app
