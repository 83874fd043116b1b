#include "app/desk/mail_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/library_keeper.h"
#include "app/desk/mail_keeper.h"
#include "app/desk/workbench.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "core/exports/mail_file.h"
#include "core/library/outbox.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

MailDialog::MailDialog(const watchlists::MailTerms& terms, std::span<const screens::ColumnSet> own,
                       const QString& outbox, QWidget* parent)
    : QDialog(parent), to_(new QLineEdit(text(terms.to))),
      brief_(new QCheckBox(tr("the &brief: what changed since the last mail"))),
      alerts_(new QCheckBox(tr("all that &alerts told since"))), columns_(new QComboBox),
      fault_(new QLabel)
{
    setWindowTitle(tr("What is told by mail"));
    to_->setPlaceholderText(tr("name@example.org; empty: no mail is written"));
    to_->setAccessibleName(tr("To"));
    auto* week = new QWidget;
    auto* evenings = new QHBoxLayout(week);
    evenings->setContentsMargins(0, 0, 0, 0);
    for (std::size_t day = 0; day < evenings_.size(); ++day) {
        evenings_[day] = new QCheckBox(
            QLocale().standaloneDayName(static_cast<int>(day) + 1, QLocale::ShortFormat));
        evenings_[day]->setChecked(terms.evenings[day]);
        evenings->addWidget(evenings_[day]);
    }
    evenings->addStretch(1);
    brief_->setChecked(terms.hasBrief);
    alerts_->setChecked(terms.hasAlerts);
    columns_->addItem(tr("no table of stocks"), QString());
    for (const auto& sets : {own, std::span(screens::readyColumnSets())})
        for (const screens::ColumnSet& set : sets)
            if (columns_->findData(text(set.name)) < 0)
                columns_->addItem(text(set.name), text(set.name));
    columns_->setCurrentIndex(std::max(columns_->findData(text(terms.columns)), 0));
    columns_->setAccessibleName(tr("Columns of the stocks"));
    auto* form = new QGridLayout;
    const auto add = [form](const QString& title, QWidget* what) {
        auto* label = new QLabel(title);
        label->setBuddy(what);
        form->addWidget(label, form->rowCount(), 0);
        form->addWidget(what, form->rowCount() - 1, 1);
    };
    add(tr("&To"), to_);
    add(tr("On the evenings of"), week);
    add(tr("What"), alerts_);
    add(QString(), brief_);
    add(tr("&Columns of their stocks"), columns_);
    auto* hint = new QLabel(
        tr("Wise Sieve sends nothing itself. Each mail is written as a file into %1, from where "
           "your mail program can open or send it.")
            .arg(outbox));
    hint->setWordWrap(true);
    hint->setTextInteractionFlags(Qt::TextSelectableByMouse);
    setTone(hint, Tone::Soft);
    fault_->setWordWrap(true);
    setTone(fault_, Tone::Caution);
    fault_->hide();
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    auto* now = buttons->addButton(tr("&Write one now"), QDialogButtonBox::ActionRole);
    now->setAutoDefault(false);
    connect(now, &QPushButton::clicked, this, [this] {
        isOneWantedNow_ = true;
        accept();
    });
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(form);
    layout->addWidget(fault_);
    layout->addWidget(hint);
    layout->addWidget(buttons);
    resize(560, sizeHint().height());
}

watchlists::MailTerms MailDialog::terms() const
{
    watchlists::MailTerms terms{utf8(to_->text().trimmed()),
                                {},
                                brief_->isChecked(),
                                alerts_->isChecked(),
                                utf8(columns_->currentData().toString())};
    for (std::size_t day = 0; day < evenings_.size(); ++day)
        terms.evenings.at(day) = evenings_[day]->isChecked();
    return terms;
}

void MailDialog::accept()
{
    const std::string to = utf8(to_->text().trimmed());
    const std::string fault =
        to.empty() && !isOneWantedNow_ ? std::string() : exports::faultOfAddress(to);
    if (fault.empty())
        return QDialog::accept();
    isOneWantedNow_ = false;
    fault_->setText(text(fault));
    fault_->show();
    to_->setFocus();
}

void editMail(Desk& desk, QWidget* window)
{
    const auto outbox = library::outboxOf(desk.keeper().file());
    MailDialog dialog(*desk.work().now().mail, *desk.work().now().columnSets, text(outbox.string()),
                      window);
    if (dialog.exec() != QDialog::Accepted)
        return;
    const watchlists::MailTerms terms = dialog.terms();
    desk.work().edit(MailDialog::tr("What is told by mail"),
                     [&terms](Work& work) { work.mail = terms; });
    if (dialog.isOneWantedNow())
        desk.mail().writeNow();
}

} // namespace sieve::app
