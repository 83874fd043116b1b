#include "app/lists/combine_dialog.h"

#include "app/look/tone.h"
#include "app/parts/number_text.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

using watchlists::SetOf;

CombineDialog::CombineDialog(const library::Work& work, std::int64_t first,
                             const market::Market* market, QWidget* parent)
    : QDialog(parent), work_(work), first_(work.findList(first)), market_(market),
      how_(new QComboBox), others_(new QListWidget), into_(new QComboBox), name_(new QLineEdit),
      told_(new QLabel)
{
    setWindowTitle(tr("Combine “%1” with others").arg(text(first_->name)));
    how_->addItem(tr("all that is on one of them"), static_cast<int>(SetOf::Any));
    how_->addItem(tr("only what is on each of them"), static_cast<int>(SetOf::All));
    how_->addItem(tr("“%1” without what is on the others").arg(text(first_->name)),
                  static_cast<int>(SetOf::FirstOnly));
    how_->setAccessibleName(tr("What is taken"));
    others_->setAccessibleName(tr("Other lists"));
    for (const auto& list : work.lists) {
        if (list->id == first || list->isKeptByRule())
            continue;
        auto* item = new QListWidgetItem(
            QStringLiteral("%1  (%2)").arg(text(list->name)).arg(list->entries.size()));
        item->setData(Qt::UserRole, static_cast<qlonglong>(list->id));
        item->setCheckState(Qt::Unchecked);
        others_->addItem(item);
    }
    into_->addItem(tr("a new list"));
    into_->addItem(tr("“%1” itself").arg(text(first_->name)));
    into_->setAccessibleName(tr("Into"));
    name_->setAccessibleName(tr("Name of the new list"));
    name_->setText(tr("%1, combined").arg(text(first_->name)));
    told_->setWordWrap(true);
    auto* form = new QFormLayout;
    form->addRow(tr("&Take"), how_);
    form->addRow(tr("&Other lists"), others_);
    form->addRow(tr("&Into"), into_);
    form->addRow(tr("&Name"), name_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(how_, &QComboBox::activated, this, &CombineDialog::tell);
    connect(into_, &QComboBox::activated, this, &CombineDialog::tell);
    connect(others_, &QListWidget::itemChanged, this, &CombineDialog::tell);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(form);
    layout->addWidget(told_);
    layout->addWidget(buttons);
    resize(460, 420);
    tell();
}

SetOf CombineDialog::how() const
{
    return static_cast<SetOf>(how_->currentData().toInt());
}

std::vector<const watchlists::Watchlist*> CombineDialog::lists() const
{
    std::vector<const watchlists::Watchlist*> lists{first_};
    for (int row = 0; row < others_->count(); ++row)
        if (others_->item(row)->checkState() == Qt::Checked)
            lists.push_back(work_.findList(others_->item(row)->data(Qt::UserRole).toLongLong()));
    return lists;
}

std::vector<watchlists::Entry> CombineDialog::entries() const
{
    return watchlists::combined(lists(), how(), market_);
}

QString CombineDialog::newName() const
{
    return into_->currentIndex() == 0 ? name_->text().trimmed() : QString();
}

void CombineDialog::accept()
{
    tell();
    if (fault().isEmpty())
        QDialog::accept();
}

QString CombineDialog::fault() const
{
    if (lists().size() < 2)
        return tr("Choose one of the other lists at least.");
    if (into_->currentIndex() == 1)
        return {};
    const std::string name = utf8(newName());
    if (name.empty())
        return tr("The new list needs a name.");
    const bool isTaken =
        std::ranges::any_of(work_.lists, [&](const auto& each) { return each->name == name; });
    return isTaken ? tr("There is a list of that name already.") : QString();
}

void CombineDialog::tell()
{
    name_->setEnabled(into_->currentIndex() == 0);
    const QString why = fault();
    setTone(told_, why.isEmpty() ? Tone::Soft : Tone::Caution);
    told_->setText(why.isEmpty() ? tr("%1 entries. What was written to a stock on several lists "
                                      "comes together.")
                                       .arg(entries().size())
                                 : why);
}

} // namespace sieve::app
