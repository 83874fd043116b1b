#include "app/frame/intake_report_dialog.h"

#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "core/storage/file_aside.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>
#include <numeric>

namespace sieve::app {

namespace {

class FindingsModel : public QAbstractTableModel {
public:
    FindingsModel(std::shared_ptr<const intake::IntakeReport> report, QObject* parent)
        : QAbstractTableModel(parent), report_(std::move(report)), rows_(report_->findings.size())
    {
        std::iota(rows_.begin(), rows_.end(), std::size_t{0});
    }
    void setRows(std::vector<std::size_t> rows) ///< the findings that are shown
    {
        beginResetModel();
        rows_ = std::move(rows);
        endResetModel();
    }
    int rowCount(const QModelIndex& parent = {}) const override
    {
        return parent.isValid() ? 0 : static_cast<int>(rows_.size());
    }
    int columnCount(const QModelIndex& parent = {}) const override
    {
        return parent.isValid() ? 0 : 6;
    }
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override
    {
        if (role != Qt::DisplayRole && role != Qt::ToolTipRole)
            return {};
        const intake::Finding& finding =
            report_->findings[rows_[static_cast<std::size_t>(index.row())]];
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
    std::vector<std::size_t> rows_;
};

/// The places of the findings in which the words stand.
std::vector<std::size_t> findingsWith(const intake::IntakeReport& report, const QString& words,
                                      const Progress& progress)
{
    std::vector<std::size_t> found;
    for (std::size_t i = 0; i < report.findings.size(); ++i) {
        if (progress.stopRequested())
            throw Stopped{};
        const intake::Finding& each = report.findings[i];
        const std::string line = each.line == 0 ? std::string() : std::to_string(each.line);
        const std::string* parts[] = {&each.file, &line,     &each.column,
                                      &each.what, &each.why, &each.done};
        const bool isWanted = std::ranges::any_of(parts, [&words](const std::string* part) {
            return text(*part).contains(words, Qt::CaseInsensitive);
        });
        if (isWanted)
            found.push_back(i);
    }
    return found;
}

} // namespace

IntakeReportDialog::IntakeReportDialog(std::shared_ptr<const intake::IntakeReport> report,
                                       QWidget* parent)
    : QDialog(parent), report_(std::move(report)), finder_(this, Asker::About::Else),
      saver_(this, Asker::About::Else)
{
    setWindowTitle(tr("Intake report"));
    resize(980, 520);
    auto* summary = new QLabel(
        report_->findings.empty()
            ? tr("%L1 rows in %L2 files were read. Nothing was wrong.")
                  .arg(report_->rows)
                  .arg(report_->files)
            : tr("%L1 rows in %L2 files were read, %L3 left out. Every one that was left out, or "
                 "kept although it looks odd, stands below.")
                  .arg(report_->rows)
                  .arg(report_->files)
                  .arg(report_->rowsLeftOut));
    auto* search = new QLineEdit;
    search->setPlaceholderText(tr("Find"));
    search->setClearButtonEnabled(true);
    search->setAccessibleName(tr("Find in the report"));
    auto* model = new FindingsModel(report_, this);
    auto* table = new QTableView;
    table->setModel(model);
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
    connect(search, &QLineEdit::textChanged, this, [this, model](const QString& words) {
        finder_.ask(
            [report = report_, words](const Progress& progress) {
                return findingsWith(*report, words, progress);
            },
            [model](std::vector<std::size_t> rows) { model->setRows(std::move(rows)); });
    });
    connect(saveButton, &QPushButton::clicked, this, &IntakeReportDialog::save);
    connect(&saver_, &Asker::failed, this, [this](const QString& fault) {
        QMessageBox::warning(this, tr("Not saved"), tr("%1. Choose another place.").arg(fault));
    });
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

void IntakeReportDialog::save()
{
    const QString path = QFileDialog::getSaveFileName(
        this, tr("Save the report"), QStringLiteral("intake-report.csv"), tr("CSV (*.csv)"));
    if (path.isEmpty())
        return;
    saver_.ask(
        [report = report_, path](const Progress&) {
            storage::writeWhole(std::filesystem::path(utf8(path)), intake::toCsv(*report));
            return true;
        },
        [](bool) {});
}

} // namespace sieve::app
