#include "app/sift/column_chooser.h"

#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "core/language/vocabulary.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

using language::CellGraphic;

constexpr int columnTextRole = Qt::UserRole;

std::string columnOf(const QListWidgetItem* item)
{
    return utf8(item->data(columnTextRole).toString());
}

} // namespace

ColumnChooser::ColumnChooser(const std::vector<std::string>& columns, screens::CellGraphics cells,
                             const language::Vocabulary& vocabulary, QWidget* parent)
    : QDialog(parent), vocabulary_(vocabulary), cells_(std::move(cells)), search_(new QLineEdit),
      list_(new QListWidget), graphic_(new QComboBox), meaning_(new QLabel)
{
    setWindowTitle(tr("Columns"));
    resize(560, 600);
    search_->setPlaceholderText(tr("Find a field, or type an expression and press Return"));
    search_->setClearButtonEnabled(true);
    search_->setAccessibleName(tr("Find a field"));
    list_->setDragDropMode(QAbstractItemView::InternalMove);
    list_->setAccessibleName(tr("Columns"));
    graphic_->addItems({tr("the figure alone"), tr("a bar among all stocks"),
                        tr("a mark in the year's range"), tr("a line of the last months"),
                        tr("a sign of rise or fall")});
    graphic_->setAccessibleName(tr("Shown in the cell"));
    meaning_->setWordWrap(true);
    setTone(meaning_, Tone::Soft);
    meaning_->setMinimumHeight(fontMetrics().height() * 3);
    meaning_->setAlignment(Qt::AlignTop);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    buttons->addButton(tr("Show these columns"), QDialogButtonBox::AcceptRole)
        ->setAutoDefault(false);
    auto* shown = new QHBoxLayout;
    shown->addWidget(new QLabel(tr("Shown in the cell:")));
    shown->addWidget(graphic_);
    shown->addStretch(1);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(search_);
    layout->addWidget(list_, 1);
    layout->addLayout(shown);
    layout->addWidget(meaning_);
    layout->addWidget(buttons);

    for (const std::string& column : columns)
        list_->addItem(makeItem(column, true));
    for (const language::Field& field : vocabulary_.fields())
        if (std::ranges::find(columns, field.name) == columns.end() && field.name != "no_data")
            list_->addItem(makeItem(field.name, false));

    connect(search_, &QLineEdit::textChanged, this, &ColumnChooser::filter);
    connect(search_, &QLineEdit::returnPressed, this, &ColumnChooser::addOwn);
    connect(list_, &QListWidget::currentItemChanged, this, &ColumnChooser::updateTexts);
    connect(graphic_, &QComboBox::activated, this, &ColumnChooser::setGraphic);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    list_->setCurrentRow(0);
}

QListWidgetItem* ColumnChooser::makeItem(const std::string& column, bool isChosen) const
{
    const auto* field = vocabulary_.field(column);
    auto* item = new QListWidgetItem(text(field ? field->title : column));
    item->setData(columnTextRole, text(column));
    item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
    item->setCheckState(isChosen ? Qt::Checked : Qt::Unchecked);
    return item;
}

const language::Field* ColumnChooser::fieldOf(const QListWidgetItem* item) const
{
    return vocabulary_.field(columnOf(item));
}

CellGraphic ColumnChooser::graphicOf(const QListWidgetItem* item) const
{
    const auto chosen = cells_.find(columnOf(item));
    if (chosen != cells_.end())
        return chosen->second;
    const auto* field = fieldOf(item);
    return field ? field->graphic : CellGraphic::None;
}

std::vector<std::string> ColumnChooser::columns() const
{
    std::vector<std::string> chosen;
    for (int row = 0; row < list_->count(); ++row)
        if (list_->item(row)->checkState() == Qt::Checked)
            chosen.push_back(columnOf(list_->item(row)));
    return chosen;
}

screens::CellGraphics ColumnChooser::cells() const
{
    screens::CellGraphics cells;
    for (int row = 0; row < list_->count(); ++row) {
        const QListWidgetItem* item = list_->item(row);
        const auto* field = fieldOf(item);
        const CellGraphic graphic = graphicOf(item);
        if (item->checkState() == Qt::Checked &&
            graphic != (field ? field->graphic : CellGraphic::None))
            cells[columnOf(item)] = graphic;
    }
    return cells;
}

void ColumnChooser::filter(const QString& words)
{
    for (int row = 0; row < list_->count(); ++row) {
        QListWidgetItem* item = list_->item(row);
        const auto* field = fieldOf(item);
        const QString all = QStringList{item->text(), text(columnOf(item)),
                                        field ? text(field->meaning) : QString()}
                                .join(QLatin1Char(' '));
        bool matches = true;
        for (const QString& word : words.split(QLatin1Char(' '), Qt::SkipEmptyParts))
            matches = matches && all.contains(word, Qt::CaseInsensitive);
        item->setHidden(!matches);
    }
}

void ColumnChooser::updateTexts()
{
    const QListWidgetItem* item = list_->currentItem();
    if (!item)
        return;
    const auto* field = fieldOf(item);
    graphic_->setEnabled(!field || field->kind == Kind::Number);
    graphic_->setCurrentIndex(static_cast<int>(graphicOf(item)));
    meaning_->setText(
        !field ? tr("An expression of your own.")
        : field->formula.empty()
            ? tr("%1: %2").arg(text(field->name), text(field->meaning))
            : tr("%1 = %2\n%3").arg(text(field->name), text(field->formula), text(field->meaning)));
}

/// Who chooses a graphic wants the column.
void ColumnChooser::setGraphic(int graphic)
{
    QListWidgetItem* item = list_->currentItem();
    if (!item)
        return;
    cells_[columnOf(item)] = static_cast<CellGraphic>(graphic);
    item->setCheckState(Qt::Checked);
}

void ColumnChooser::addOwn()
{
    const QString expression = search_->text().trimmed();
    if (expression.isEmpty() || vocabulary_.field(utf8(expression)))
        return;
    auto* item = makeItem(utf8(expression), true);
    list_->insertItem(0, item);
    search_->clear();
    list_->setCurrentItem(item);
}

} // namespace sieve::app
