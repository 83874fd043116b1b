#include "app/sift/column_chooser.h"

#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "core/expressions/vocabulary.h"

#include <QDialogButtonBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr int textRole = Qt::UserRole;

QListWidgetItem* makeItem(const std::string& column, bool isChosen)
{
    const auto* field = expressions::Vocabulary::builtIn().field(column);
    auto* item = new QListWidgetItem(
        field ? QStringLiteral("%1   %2").arg(text(field->title), text(column)) : text(column));
    item->setData(textRole, text(column));
    item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
    item->setCheckState(isChosen ? Qt::Checked : Qt::Unchecked);
    return item;
}

} // namespace

ColumnChooser::ColumnChooser(std::vector<std::string> columns, QWidget* parent)
    : QDialog(parent), search_(new QLineEdit), list_(new QListWidget), meaning_(new QLabel)
{
    setWindowTitle(tr("Columns"));
    resize(520, 560);
    search_->setPlaceholderText(tr("Find a field, or type an expression and press Return"));
    search_->setClearButtonEnabled(true);
    search_->setAccessibleName(tr("Find a field"));
    list_->setDragDropMode(QAbstractItemView::InternalMove);
    list_->setAccessibleName(tr("Columns"));
    meaning_->setWordWrap(true);
    setTone(meaning_, Tone::Soft);
    meaning_->setMinimumHeight(fontMetrics().height() * 3);
    meaning_->setAlignment(Qt::AlignTop);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    buttons->addButton(tr("Show these columns"), QDialogButtonBox::AcceptRole)
        ->setAutoDefault(false);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(search_);
    layout->addWidget(list_, 1);
    layout->addWidget(meaning_);
    layout->addWidget(buttons);

    for (const std::string& column : columns)
        list_->addItem(makeItem(column, true));
    for (const expressions::Field& field : expressions::Vocabulary::builtIn().fields())
        if (std::ranges::find(columns, field.name) == columns.end() && field.name != "no_data")
            list_->addItem(makeItem(field.name, false));

    connect(search_, &QLineEdit::textChanged, this, &ColumnChooser::filter);
    connect(search_, &QLineEdit::returnPressed, this, &ColumnChooser::addOwn);
    connect(list_, &QListWidget::currentItemChanged, this, &ColumnChooser::tell);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    list_->setCurrentRow(0);
}

std::vector<std::string> ColumnChooser::columns() const
{
    std::vector<std::string> chosen;
    for (int row = 0; row < list_->count(); ++row)
        if (list_->item(row)->checkState() == Qt::Checked)
            chosen.push_back(utf8(list_->item(row)->data(textRole).toString()));
    return chosen;
}

void ColumnChooser::filter(const QString& words)
{
    for (int row = 0; row < list_->count(); ++row) {
        QListWidgetItem* item = list_->item(row);
        const auto* field =
            expressions::Vocabulary::builtIn().field(utf8(item->data(textRole).toString()));
        const QString all =
            item->text() + QLatin1Char(' ') + (field ? text(field->meaning) : QString());
        bool matches = true;
        for (const QString& word : words.split(QLatin1Char(' '), Qt::SkipEmptyParts))
            matches = matches && all.contains(word, Qt::CaseInsensitive);
        item->setHidden(!matches);
    }
}

void ColumnChooser::tell()
{
    const QListWidgetItem* item = list_->currentItem();
    if (!item)
        return;
    const auto* field =
        expressions::Vocabulary::builtIn().field(utf8(item->data(textRole).toString()));
    meaning_->setText(!field ? tr("An expression of your own.")
                      : field->formula.empty()
                          ? text(field->meaning)
                          : tr("%1.\nFormula: %2").arg(text(field->meaning), text(field->formula)));
}

void ColumnChooser::addOwn()
{
    const QString expression = search_->text().trimmed();
    if (expression.isEmpty() || expressions::Vocabulary::builtIn().field(utf8(expression)))
        return;
    auto* item = makeItem(utf8(expression), true);
    list_->insertItem(0, item);
    search_->clear();
    list_->setCurrentItem(item);
}

} // namespace sieve::app
