#include "app/lists/list_dialog.h"

#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "core/screens/starter.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

QStringList foldersOf(const library::Work& work)
{
    QStringList folders;
    for (const auto& list : work.lists) {
        QString path = text(list->head.folder);
        while (!path.isEmpty()) {
            if (!folders.contains(path))
                folders << path;
            path = path.left(std::max<qsizetype>(path.lastIndexOf(u'/'), 0));
        }
    }
    folders.sort();
    return folders;
}

ListDialog::ListDialog(const library::Work& work, const watchlists::Watchlist& list,
                       QWidget* parent)
    : QDialog(parent), work_(work), list_(list), name_(new QLineEdit(text(list.name))),
      folder_(new QComboBox), keeper_(new QComboBox), columns_(new QComboBox), told_(new QLabel)
{
    setWindowTitle(list.id == 0 ? tr("New list") : tr("The list “%1”").arg(text(list.name)));
    name_->setAccessibleName(tr("Name"));
    name_->setMaxLength(300);
    name_->selectAll();
    folder_->setEditable(true);
    folder_->setAccessibleName(tr("Folder"));
    folder_->addItem(QString());
    folder_->addItems(foldersOf(work));
    folder_->setEditText(text(list.head.folder));
    folder_->lineEdit()->setPlaceholderText(tr("none; one in another: Trading/Long"));
    keeper_->setAccessibleName(tr("Kept by"));
    keeper_->addItem(tr("you, by hand"), QString());
    const auto addScreen = [&](const std::string& name) {
        keeper_->addItem(tr("the screen “%1”").arg(text(name)), text(name));
    };
    for (const auto& kept : work.screens)
        addScreen(kept->screen.name);
    for (const screens::Screen& screen : screens::starterScreens())
        if (!work.findScreen(screen.name))
            addScreen(screen.name);
    if (const QString screen = text(list.head.screen); !screen.isEmpty()) {
        if (keeper_->findData(screen) < 0)
            addScreen(list.head.screen); // it is gone; the list still names it
        keeper_->setCurrentIndex(keeper_->findData(screen));
    }
    keeper_->setEnabled(list.id == 0 || list.isKeptByRule()); // entries of one's own stay
    columns_->setAccessibleName(tr("Columns"));
    columns_->addItem(tr("those of lists alone"), QString());
    for (const screens::ColumnSet& set : *work.columnSets)
        columns_->addItem(text(set.name), text(set.name));
    for (const screens::ColumnSet& set : screens::readyColumnSets())
        if (columns_->findData(text(set.name)) < 0)
            columns_->addItem(text(set.name), text(set.name));
    columns_->setCurrentIndex(std::max(columns_->findData(text(list.head.columns)), 0));
    told_->setWordWrap(true);
    auto* form = new QFormLayout;
    form->addRow(tr("&Name"), name_);
    form->addRow(tr("&Folder"), folder_);
    form->addRow(tr("&Kept by"), keeper_);
    form->addRow(tr("&Columns"), columns_);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(name_, &QLineEdit::textEdited, this, &ListDialog::tell);
    connect(keeper_, &QComboBox::activated, this, &ListDialog::tell);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(form);
    layout->addWidget(told_);
    layout->addWidget(buttons);
    resize(440, sizeHint().height());
    setTone(told_, Tone::Soft);
    told_->setText(QString());
}

watchlists::Watchlist ListDialog::list() const
{
    watchlists::Watchlist list = list_;
    list.name = utf8(name_->text().trimmed());
    list.head.folder = screens::tidyFolder(utf8(folder_->currentText()));
    list.head.screen = utf8(keeper_->currentData().toString());
    list.head.columns = utf8(columns_->currentData().toString());
    return list;
}

void ListDialog::accept()
{
    tell();
    if (fault().isEmpty())
        QDialog::accept();
}

QString ListDialog::fault() const
{
    const std::string name = utf8(name_->text().trimmed());
    if (name.empty())
        return tr("A list needs a name.");
    const bool isTaken = std::ranges::any_of(
        work_.lists, [&](const auto& each) { return each->name == name && each->id != list_.id; });
    return isTaken ? tr("There is a list of that name already.") : QString();
}

void ListDialog::tell()
{
    const QString why = fault();
    setTone(told_, why.isEmpty() ? Tone::Soft : Tone::Caution);
    told_->setText(!why.isEmpty() ? why
                   : keeper_->currentData().toString().isEmpty()
                       ? QString()
                       : tr("On it are, on each day, all stocks that pass the screen as known on "
                            "that day. What you write to one is kept."));
}

} // namespace sieve::app
