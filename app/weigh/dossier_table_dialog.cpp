#include "app/weigh/dossier_table_dialog.h"

#include "app/parts/beside.h"
#include "app/parts/number_text.h"
#include "core/dossier/sheet.h"
#include "core/storage/file_aside.h"

#include <QApplication>
#include <QClipboard>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QHeaderView>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>
#include <system_error>

namespace sieve::app {

DossierTableDialog::DossierTableDialog(const QString& stock, const dossier::Table& table,
                                       market::MarketPtr market, QWidget* parent)
    : QDialog(parent), stock_(stock), table_(table), market_(std::move(market))
{
    setWindowTitle(tr("%1: %2").arg(stock, text(table_.title)));
    auto* grid = new QTableWidget(static_cast<int>(table_.rows.size()),
                                  static_cast<int>(table_.heads.size()));
    grid->setAccessibleName(text(table_.title));
    grid->setEditTriggers(QAbstractItemView::NoEditTriggers);
    QStringList heads;
    for (const std::string& head : table_.heads) {
        const auto day = Day::parse(head); // periods are told by their end
        heads << (day ? shortDayText(*day) : text(head));
    }
    grid->setHorizontalHeaderLabels(heads);
    QStringList titles;
    for (std::size_t i = 0; i < table_.rows.size(); ++i) {
        const dossier::Row& row = table_.rows[i];
        titles << text(nameOf(row));
        for (std::size_t k = 0; k < row.cells.size(); ++k) {
            const dossier::Cell& cell = row.cells[k];
            const QString shown = cell.text.empty() ? valueText(cell.value, cell.kind, cell.unit,
                                                                cell.decimals, market_->texts())
                                                    : text(cell.text);
            auto* item = new QTableWidgetItem(cell.restated ? shown + QStringLiteral(" *") : shown);
            item->setTextAlignment(cell.kind == Kind::Text ? Qt::AlignLeft | Qt::AlignVCenter
                                                           : Qt::AlignRight | Qt::AlignVCenter);
            if (cell.restated)
                item->setToolTip(tr("First said %1 on %2, restated on %3")
                                     .arg(valueText(cell.restated->first, cell.kind, cell.unit,
                                                    cell.decimals, market_->texts()),
                                          shortDayText(cell.restated->firstOn),
                                          shortDayText(cell.restated->lastOn)));
            else
                item->setToolTip(text(cell.note.empty() ? cell.expression : cell.note));
            grid->setItem(static_cast<int>(i), static_cast<int>(k), item);
        }
    }
    grid->setVerticalHeaderLabels(titles);
    grid->resizeColumnsToContents();
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    auto* copyButton = buttons->addButton(tr("&Copy"), QDialogButtonBox::ActionRole);
    auto* saveButton = buttons->addButton(tr("&Save as CSV…"), QDialogButtonBox::ActionRole);
    connect(copyButton, &QPushButton::clicked, this, &DossierTableDialog::copy);
    connect(saveButton, &QPushButton::clicked, this, &DossierTableDialog::save);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(grid, 1);
    layout->addWidget(buttons);
    resize(960, 520);
}

void DossierTableDialog::copy() const
{
    QApplication::clipboard()->setText(
        text(exports::toTabs(dossier::sheetOf(table_, market_->texts()))));
}

void DossierTableDialog::save()
{
    const QString name = QFileDialog::getSaveFileName(
        this, tr("Save the table"), QStringLiteral("%1 %2.csv").arg(stock_, text(table_.key)),
        tr("CSV (*.csv)"));
    if (name.isEmpty())
        return;
    beside(
        this,
        [name, csv = exports::toCsv(dossier::sheetOf(table_, market_->texts()))] {
            try {
                storage::writeWhole(utf8(name), csv);
                return QString();
            } catch (const std::system_error& fault) {
                return tr("%1 could not be written: %2").arg(name, text(fault.code().message()));
            }
        },
        [this](const QString& fault) {
            if (!fault.isEmpty())
                Q_EMIT failed(fault);
        });
}

} // namespace sieve::app
