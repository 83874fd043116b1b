#include "app/lists/read_list_dialog.h"

#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr int mostNotesShown = 2000;

QTreeWidget* notesOf(const watchlists::ListRead& read)
{
    auto* notes = new QTreeWidget;
    notes->setAccessibleName(ReadListDialog::tr("What is to be said of rows"));
    notes->setHeaderLabels(
        {ReadListDialog::tr("Row"), ReadListDialog::tr("What"), ReadListDialog::tr("The row is")});
    notes->setRootIsDecorated(false);
    notes->setUniformRowHeights(true);
    notes->setProperty("roomy", true);
    for (const watchlists::RowNote& note : read.notes) {
        if (notes->topLevelItemCount() == mostNotesShown) {
            new QTreeWidgetItem(
                notes, {QString(),
                        ReadListDialog::tr("and %1 more").arg(read.notes.size() - mostNotesShown)});
            break;
        }
        auto* line = new QTreeWidgetItem(
            notes, {QString::number(note.line), text(note.words),
                    note.isLeftOut ? ReadListDialog::tr("left out") : QString()});
        line->setTextAlignment(0, Qt::AlignRight | Qt::AlignVCenter);
    }
    notes->resizeColumnToContents(0);
    notes->header()->setStretchLastSection(false);
    notes->header()->setSectionResizeMode(1, QHeaderView::Stretch);
    return notes;
}

} // namespace

ReadListDialog::ReadListDialog(const library::Work& work, const QString& file,
                               const watchlists::ListRead& read, std::int64_t onto, QWidget* parent)
    : QDialog(parent), work_(work), to_(new QComboBox), name_(new QLineEdit(file)),
      fault_(new QLabel)
{
    setWindowTitle(tr("A list from “%1”").arg(file));
    resize(640, read.notes.empty() ? 180 : 460);
    auto* told = new QLabel(
        read.unknown == 0
            ? tr("%1 stocks stand in it.").arg(read.entries.size())
            : tr("%1 stocks stand in it. This market does not have %2 of them; they are kept.")
                  .arg(read.entries.size())
                  .arg(read.unknown));
    told->setWordWrap(true);
    told->setFont(fontOf(Weight::SemiBold));
    to_->addItem(tr("a new list called"));
    for (const auto& list : listsByHand(work))
        to_->addItem(text(list->name), QVariant::fromValue<qlonglong>(list->id));
    to_->setCurrentIndex(std::max(0, to_->findData(QVariant::fromValue<qlonglong>(onto))));
    to_->setAccessibleName(tr("Onto"));
    name_->setAccessibleName(tr("Name of the new list"));
    name_->setEnabled(to_->currentIndex() == 0);
    connect(to_, &QComboBox::currentIndexChanged, this,
            [this](int at) { name_->setEnabled(at == 0); });
    setTone(fault_, Tone::Caution);
    fault_->setWordWrap(true);
    fault_->hide();
    auto* where = new QHBoxLayout;
    where->addWidget(new QLabel(tr("Put them onto")));
    where->addWidget(to_);
    where->addWidget(name_, 1);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    auto* take =
        buttons->addButton(tr("&Take %1").arg(read.entries.size()), QDialogButtonBox::AcceptRole);
    take->setEnabled(!read.entries.empty());
    take->setDefault(true);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(told);
    layout->addLayout(where);
    layout->addWidget(fault_);
    if (!read.notes.empty())
        layout->addWidget(notesOf(read), 1);
    layout->addWidget(buttons);
}

std::optional<std::int64_t> ReadListDialog::list() const
{
    const QVariant id = to_->currentData();
    return id.isValid() ? std::optional<std::int64_t>(id.toLongLong()) : std::nullopt;
}

QString ReadListDialog::newName() const
{
    return name_->text().trimmed();
}

void ReadListDialog::accept()
{
    const std::string name = utf8(newName());
    const bool isTaken =
        std::ranges::any_of(work_.lists, [&name](const auto& each) { return each->name == name; });
    if (list() || (!name.empty() && !isTaken))
        return QDialog::accept();
    fault_->setText(isTaken ? tr("There is a list of that name.") : tr("A list needs a name."));
    fault_->show();
    name_->setFocus();
}

} // namespace sieve::app
