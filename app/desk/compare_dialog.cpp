#include "app/desk/compare_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/findables.h"
#include "app/parts/number_text.h"
#include "app/parts/step_through.h"

#include <QDialogButtonBox>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>

namespace sieve::app {

CompareDialog::CompareDialog(Desk& desk, QWidget* parent)
    : QDialog(parent), desk_(desk), asker_(this), words_(new QLineEdit), list_(new QListWidget)
{
    setWindowTitle(tr("Compare with"));
    resize(380, 420);
    words_->setPlaceholderText(tr("a symbol or name, a sector, one of your lists"));
    words_->setAccessibleName(tr("What to compare with"));
    words_->installEventFilter(this);
    list_->setAccessibleName(tr("What the chart can be compared with"));
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    buttons->addButton(tr("Compare"), QDialogButtonBox::AcceptRole);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(words_);
    layout->addWidget(list_, 1);
    layout->addWidget(buttons);
    connect(words_, &QLineEdit::textChanged, this, &CompareDialog::find);
    connect(list_, &QListWidget::itemActivated, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    find();
}

const charts::Comparable* CompareDialog::chosen() const
{
    const int row = list_->currentRow();
    return row < 0 ? nullptr : &(*found_.all)[found_.places[static_cast<std::size_t>(row)]];
}

void CompareDialog::find()
{
    asker_.ask(
        [before = found_, market = desk_.market().evaluator()->marketPtr(),
         lists = desk_.work().now().lists,
         words = words_->text().trimmed()](const Progress& progress) {
            constexpr std::size_t most = 80; // more are not looked through
            Found found = before;
            if (!found.all) {
                found.all = std::make_shared<const std::vector<charts::Comparable>>(
                    charts::comparables(*market, lists));
                std::vector<Findable> named;
                for (const charts::Comparable& each : *found.all)
                    named.push_back({text(each.title), text(each.kind), {}});
                found.named = std::make_shared<const std::vector<Findable>>(std::move(named));
            }
            found.places = findAmong(*found.named, words, most, progress);
            return found;
        },
        [this](Found found) { showFound(std::move(found)); });
}

void CompareDialog::showFound(Found found)
{
    list_->clear();
    found_ = std::move(found);
    for (const std::size_t place : found_.places) {
        const Findable& each = (*found_.named)[place];
        list_->addItem(tr("%1  (%2)").arg(each.name, each.what));
    }
    list_->setCurrentRow(0);
}

/// Up and Down in the line go through the list.
bool CompareDialog::eventFilter(QObject* watched, QEvent* event)
{
    const bool isStep =
        event->type() == QEvent::KeyPress && stepThrough(*list_, *static_cast<QKeyEvent*>(event));
    return isStep || QDialog::eventFilter(watched, event);
}

} // namespace sieve::app
