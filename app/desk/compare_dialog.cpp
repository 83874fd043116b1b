#include "app/desk/compare_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"

#include <QDialogButtonBox>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

namespace sieve::app {

CompareDialog::CompareDialog(Desk& desk, QWidget* parent)
    : QDialog(parent), desk_(desk), words_(new QLineEdit), list_(new QListWidget)
{
    setWindowTitle(tr("Compare with"));
    resize(380, 420);
    words_->setPlaceholderText(tr("a symbol or name, a sector, one of your lists"));
    words_->setAccessibleName(tr("Words of what is compared"));
    words_->installEventFilter(this);
    list_->setAccessibleName(tr("What the chart can be compared with"));
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    buttons->addButton(tr("Compare"), QDialogButtonBox::AcceptRole);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(words_);
    layout->addWidget(list_, 1);
    layout->addWidget(buttons);
    connect(words_, &QLineEdit::textChanged, this, &CompareDialog::fill);
    connect(list_, &QListWidget::itemActivated, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    fill();
}

const charts::Comparable* CompareDialog::chosen() const
{
    const int row = list_->currentRow();
    return row < 0 ? nullptr : &found_[static_cast<std::size_t>(row)];
}

void CompareDialog::fill()
{
    constexpr std::size_t most = 80; // more are not looked through
    found_ = charts::comparables(desk_.market().data(), desk_.work().now().lists,
                                 utf8(words_->text().trimmed()), most);
    list_->clear();
    for (const charts::Comparable& each : found_)
        list_->addItem(tr("%1  (%2)").arg(text(each.title), text(each.kind)));
    list_->setCurrentRow(0);
}

/// Up and Down in the line go through the list.
bool CompareDialog::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        const int by = key == Qt::Key_Down ? 1 : key == Qt::Key_Up ? -1 : 0;
        const int row = list_->currentRow() + by;
        if (by != 0) {
            if (row >= 0 && row < list_->count())
                list_->setCurrentRow(row);
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

} // namespace sieve::app
