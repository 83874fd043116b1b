#include "app/frame/intake_report_dialog.h"

#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QSaveFile>
#include <QSortFilterProxyModel>
#include <QTableView>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

class FindingsModel : public QAbstractTableModel {
public:
    FindingsModel(std::shared_ptr<const intake::IntakeReport> report, QObject* parent)
        : QAbstractTableModel(parent), report_(std::move(report))
    {
    }
    int rowCount(const QModelIndex& parent = {}) const override
    {
        return parent.isValid() ? 0 : static_cast<int>(report_->findings.size());
    }
    int columnCount(const QModelIndex& parent = {}) const override
    {
        return parent.isValid() ? 0 : 6;
    }
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override
    {
        if (role != Qt::DisplayRole && role != Qt::ToolTipRole)
            return {};
        const intake::Finding& finding = report_->findings[static_cast<std::size_t>(index.row())];
        switch (index.column()) {
        case 0:
            return text(finding.file);
        case 1:
            return finding.line == 0 ? QVariant() : QVariant(static_cast<qulonglong>(finding.line));
        case 2:
            return text(finding.column);
        case 3:
            return text(finding.what);
        case 4:
            return text(finding.why);
        default:
            return text(finding.done);
        }
    }
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override
    {
        if (role != Qt::DisplayRole || orientation != Qt::Horizontal)
            return {};
        const QString titles[] = {QObject::tr("File"),          QObject::tr("Line"),
                                  QObject::tr("Column"),        QObject::tr("What"),
                                  QObject::tr("What is wrong"), QObject::tr("What was done")};
        return titles[section];
    }

private:
    std::shared_ptr<const intake::IntakeReport> report_;
};

void save(const intake::IntakeReport& report, QWidget* parent)
{
    const QString path = QFileDialog::getSaveFileName(parent, QObject::tr("Save the report"),
                                                      QStringLiteral("intake-report.csv"),
                                                      QObject::tr("CSV (*.csv)"));
    if (path.isEmpty())
        return;
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly) ||
        file.write(QByteArray::fromStdString(intake::toCsv(report))) < 0 || !file.commit())
        QMessageBox::warning(
            parent, QObject::tr("Not saved"),
            QObject::tr("%1: %2. Choose another place.").arg(path, file.errorString()));
}

} // namespace

IntakeReportDialog::IntakeReportDialog(std::shared_ptr<const intake::IntakeReport> report,
                                       QWidget* parent)
    : QDialog(parent)
{
    setWindowTitle(tr("Intake report"));
    resize(980, 520);
    auto* summary = new QLabel(
        report->findings.empty()
            ? tr("%L1 rows in %L2 files were read. Nothing was wrong.")
                  .arg(report->rows)
                  .arg(report->files)
            : tr("%L1 rows in %L2 files were read, %L3 left out. Every one that was left out, or "
                 "kept although it looks odd, stands below.")
                  .arg(report->rows)
                  .arg(report->files)
                  .arg(report->rowsLeftOut));
    auto* search = new QLineEdit;
    search->setPlaceholderText(tr("Find"));
    search->setClearButtonEnabled(true);
    search->setAccessibleName(tr("Find in the report"));
    auto* filter = new QSortFilterProxyModel(this);
    filter->setSourceModel(new FindingsModel(report, this));
    filter->setFilterKeyColumn(-1);
    filter->setFilterCaseSensitivity(Qt::CaseInsensitive);
    auto* table = new QTableView;
    table->setModel(filter);
    prepareTable(table);
    table->horizontalHeader()->setStretchLastSection(true);
    fitColumns(table);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    QPushButton* saveButton = buttons->addButton(tr("Save as CSV…"), QDialogButtonBox::ActionRole);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(summary);
    layout->addWidget(search);
    layout->addWidget(table, 1);
    layout->addWidget(buttons);
    connect(search, &QLineEdit::textChanged, filter, &QSortFilterProxyModel::setFilterFixedString);
    connect(saveButton, &QPushButton::clicked, this, [this, report] { save(*report, this); });
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

} // namespace sieve::app
