#include "app/sift/paste_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSplitter>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

PasteDialog::PasteDialog(Desk& desk, const QString& text, QWidget* parent)
    : QDialog(parent), desk_(desk), asker_(this), text_(new QPlainTextEdit),
      picked_(new QTreeWidget), summary_(new QLabel)
{
    setWindowTitle(tr("Symbols from a text"));
    resize(860, 520);
    text_->setAccessibleName(tr("Text with symbols"));
    text_->setPlaceholderText(
        tr("Paste any text: a mail, a table from a page, a column of a spreadsheet"));
    text_->setTabChangesFocus(true);
    picked_->setAccessibleName(tr("Symbols found"));
    picked_->setProperty("roomy", true);
    picked_->setColumnCount(ColumnCount);
    picked_->setHeaderLabels({tr("Symbol"), tr("Name"), tr("In the text")});
    picked_->setRootIsDecorated(false);
    picked_->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
    setTone(summary_, Tone::Soft);
    auto* halves = new QSplitter;
    halves->addWidget(text_);
    halves->addWidget(picked_);
    halves->setSizes({360, 480});
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* foot = new QHBoxLayout;
    foot->addWidget(summary_, 1);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(halves, 1);
    layout->addLayout(foot);
    addButton(tr("Take in hand"), Use::Tray);
    addButton(tr("As the universe"), Use::Universe);
    addButton(tr("Onto a list…"), Use::List);
    for (QPushButton* button : buttons_)
        foot->addWidget(button);
    foot->addWidget(buttons);
    connect(text_, &QPlainTextEdit::textChanged, this, &PasteDialog::ask);
    connect(picked_, &QTreeWidget::itemChanged, this, &PasteDialog::updateTexts);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    text_->setPlainText(text);
    updateTexts();
}

void PasteDialog::addButton(const QString& title, Use use)
{
    auto* button = new QPushButton(title);
    button->setAutoDefault(use == Use::Tray);
    connect(button, &QPushButton::clicked, this, [this, use] {
        use_ = use;
        accept();
    });
    buttons_.push_back(button);
}

void PasteDialog::ask()
{
    asker_.ask(
        [market = desk_.market().evaluator()->marketPtr(), text = utf8(text_->toPlainText())](
            const Progress&) { return market::pickSymbols(*market, text); },
        [this](const std::vector<market::PickedSymbol>& picked) { show(picked); });
}

void PasteDialog::show(const std::vector<market::PickedSymbol>& picked)
{
    const QSignalBlocker quiet(picked_);
    picked_->clear();
    for (const market::PickedSymbol& each : picked) {
        const bool isAmbiguous = each.instruments.size() > 1;
        for (const std::size_t instrument : each.instruments) {
            const market::Instrument& found = desk_.market().data().instrument(instrument);
            auto* item = new QTreeWidgetItem(picked_);
            item->setText(Symbol, text(found.symbol));
            item->setFont(Symbol, fontOf(Weight::SemiBold));
            item->setText(Name, text(found.name));
            item->setText(Typed, isAmbiguous     ? tr("%1: one of several").arg(text(each.typed))
                                 : each.isFormer ? tr("%1: its former symbol").arg(text(each.typed))
                                                 : text(each.typed));
            item->setForeground(Typed, isAmbiguous ? look().caution : look().softInk);
            item->setCheckState(Symbol, isAmbiguous ? Qt::Unchecked : Qt::Checked);
        }
        if (each.instruments.empty()) {
            auto* item = new QTreeWidgetItem(picked_);
            item->setText(Symbol, missingText);
            item->setText(Name, tr("not in this market"));
            item->setText(Typed, text(each.typed));
            item->setForeground(Name, look().caution);
            item->setFlags(item->flags() & ~Qt::ItemIsUserCheckable);
        }
    }
    updateTexts();
}

std::vector<std::string> PasteDialog::symbols() const
{
    std::vector<std::string> symbols;
    for (int row = 0; row < picked_->topLevelItemCount(); ++row) {
        const QTreeWidgetItem* item = picked_->topLevelItem(row);
        const std::string symbol = utf8(item->text(Symbol));
        if (item->checkState(Symbol) == Qt::Checked &&
            std::ranges::find(symbols, symbol) == symbols.end())
            symbols.push_back(symbol);
    }
    return symbols;
}

void PasteDialog::updateTexts()
{
    int unknown = 0;
    int open = 0;
    for (int row = 0; row < picked_->topLevelItemCount(); ++row) {
        const QTreeWidgetItem* item = picked_->topLevelItem(row);
        const bool isKnown = item->flags() & Qt::ItemIsUserCheckable;
        unknown += isKnown ? 0 : 1;
        open += isKnown && item->checkState(Symbol) != Qt::Checked ? 1 : 0;
    }
    const std::size_t taken = symbols().size();
    summary_->setText(
        picked_->topLevelItemCount() == 0
            ? tr("No symbol is found in this text")
            : tr("%1 to take, %2 left open, %3 unknown").arg(taken).arg(open).arg(unknown));
    for (QPushButton* button : buttons_)
        button->setEnabled(taken > 0);
}

} // namespace sieve::app
