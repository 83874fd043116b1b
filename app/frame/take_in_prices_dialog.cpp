#include "app/frame/take_in_prices_dialog.h"

#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "core/intake/byte_source.h"
#include "core/intake/price_preview.h"
#include "core/intake/source.h"

#include <QAbstractTableModel>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableView>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

using intake::PriceColumn;

QString titleOf(PriceColumn column)
{
    const std::array<QString, intake::priceColumnCount> titles{
        QObject::tr("Symbol"),         QObject::tr("Day"),    QObject::tr("Open"),
        QObject::tr("High"),           QObject::tr("Low"),    QObject::tr("Close"),
        QObject::tr("Adjusted close"), QObject::tr("Volume"), QObject::tr("Dividend"),
        QObject::tr("Split")};
    return titles.at(static_cast<std::size_t>(column));
}

void addMark(QComboBox* box, const QString& name, char mark)
{
    box->addItem(name, QChar::fromLatin1(mark));
}

char markOf(const QComboBox* box)
{
    return box->currentData().toChar().toLatin1();
}

void select(QComboBox* box, const QVariant& data)
{
    box->setCurrentIndex(std::max(box->findData(data), 0));
}

} // namespace

/// The rows of a preview; what could not be read stands out.
class PreviewModel : public QAbstractTableModel {
public:
    using QAbstractTableModel::QAbstractTableModel;

    void setPreview(intake::PricePreview preview)
    {
        beginResetModel();
        preview_ = std::move(preview);
        endResetModel();
    }
    const intake::PricePreview& preview() const { return preview_; }
    int rowCount(const QModelIndex& parent = {}) const override
    {
        return parent.isValid() ? 0 : static_cast<int>(preview_.rows.size());
    }
    int columnCount(const QModelIndex& parent = {}) const override
    {
        return parent.isValid() ? 0 : static_cast<int>(intake::priceColumnCount);
    }
    QVariant data(const QModelIndex& index, int role = Qt::DisplayRole) const override
    {
        const auto& cell = preview_.rows[static_cast<std::size_t>(index.row())].cells.at(
            static_cast<std::size_t>(index.column()));
        switch (role) {
        case Qt::DisplayRole:
            return cell.isRead || !cell.text.empty() ? text(cell.text) : tr("nothing");
        case Qt::ForegroundRole:
            return cell.isRead ? QVariant() : QVariant(look().fall);
        case Qt::ToolTipRole:
            return cell.isRead ? QVariant() : QVariant(tr("This cannot be read so"));
        case Qt::TextAlignmentRole:
            return int(index.column() < 2 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter;
        default:
            return {};
        }
    }
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override
    {
        if (orientation != Qt::Horizontal)
            return {};
        if (role == Qt::TextAlignmentRole)
            return int(section < 2 ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter;
        return role == Qt::DisplayRole ? QVariant(titleOf(static_cast<PriceColumn>(section)))
                                       : QVariant();
    }

private:
    intake::PricePreview preview_;
};

TakeInPricesDialog::TakeInPricesDialog(QWidget* parent)
    : QDialog(parent), asker_(this, Asker::About::Else), path_(new QLineEdit),
      separator_(new QComboBox), decimal_(new QComboBox), thousands_(new QComboBox),
      days_(new QComboBox), title_(new QLabel), model_(new PreviewModel(this)),
      table_(new QTableView), verdict_(new QLabel)
{
    setWindowTitle(tr("Take in prices"));
    resize(1000, 560);
    path_->setReadOnly(true);
    path_->setPlaceholderText(tr("One file of prices, or a folder of them"));
    path_->setAccessibleName(tr("Source"));
    auto* folder = new QPushButton(tr("&Folder…"));
    auto* file = new QPushButton(tr("F&ile…"));
    connect(folder, &QPushButton::clicked, this, [this] { choose(true); });
    connect(file, &QPushButton::clicked, this, [this] { choose(false); });
    auto* top = new QHBoxLayout;
    top->addWidget(path_, 1);
    top->addWidget(folder);
    top->addWidget(file);

    table_->setModel(model_);
    prepareTable(table_);
    table_->setAccessibleName(tr("The first rows as they are read"));
    verdict_->setWordWrap(true);
    auto* right = new QVBoxLayout;
    right->addWidget(title_);
    right->addWidget(table_, 1);
    right->addWidget(verdict_);
    auto* middle = new QHBoxLayout;
    middle->setSpacing(18);
    middle->addWidget(makeChoices());
    middle->addLayout(right, 1);

    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    takeIn_ = buttons->addButton(tr("&Take in"), QDialogButtonBox::AcceptRole);
    takeIn_->setEnabled(false);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* column = new QVBoxLayout(this);
    column->addLayout(top);
    column->addLayout(middle, 1);
    column->addWidget(buttons);
    connect(&asker_, &Asker::failed, this, [this](const QString& message) {
        verdict_->setText(message);
        setTone(verdict_, Tone::Caution);
    });
    refresh();
}

QWidget* TakeInPricesDialog::makeChoices()
{
    addMark(separator_, tr("comma"), ',');
    addMark(separator_, tr("semicolon"), ';');
    addMark(separator_, tr("tab"), '\t');
    addMark(separator_, tr("bar  |"), '|');
    addMark(decimal_, tr("point  1.5"), '.');
    addMark(decimal_, tr("comma  1,5"), ',');
    addMark(thousands_, tr("none"), '\0');
    addMark(thousands_, tr("comma  1,000"), ',');
    addMark(thousands_, tr("point  1.000"), '.');
    addMark(thousands_, tr("blank  1 000"), ' ');
    for (const intake::DayForm form :
         {intake::DayForm::Iso, intake::DayForm::Digits, intake::DayForm::DayMonthYear,
          intake::DayForm::MonthDayYear})
        days_->addItem(text(intake::dayFormName(form)), static_cast<int>(form));
    auto* choices = new QWidget;
    auto* form = new QFormLayout(choices);
    form->setContentsMargins(0, 0, 0, 0);
    form->addRow(tr("Cells are parted by"), separator_);
    form->addRow(tr("Decimal mark"), decimal_);
    form->addRow(tr("Thousands"), thousands_);
    form->addRow(tr("Days are written"), days_);
    for (std::size_t i = 0; i < columns_.size(); ++i) {
        columns_.at(i) = new QComboBox;
        columns_.at(i)->setMinimumWidth(140);
        form->addRow(titleOf(static_cast<PriceColumn>(i)), columns_.at(i));
        columns_.at(i)->setAccessibleName(titleOf(static_cast<PriceColumn>(i)));
        connect(columns_.at(i), &QComboBox::currentIndexChanged, this,
                &TakeInPricesDialog::refresh);
    }
    separator_->setAccessibleName(tr("Cells are parted by"));
    decimal_->setAccessibleName(tr("Decimal mark"));
    thousands_->setAccessibleName(tr("Thousands"));
    days_->setAccessibleName(tr("Days are written"));
    for (QComboBox* box : {decimal_, thousands_, days_})
        connect(box, &QComboBox::currentIndexChanged, this, &TakeInPricesDialog::refresh);
    connect(separator_, &QComboBox::currentIndexChanged, this, [this] {
        if (!isFilling_)
            fillHeadings();
        refresh();
    });
    return choices;
}

void TakeInPricesDialog::choose(bool isFolder)
{
    const QString path = isFolder
                             ? QFileDialog::getExistingDirectory(this, tr("Folder of price files"))
                             : QFileDialog::getOpenFileName(this, tr("File of prices"), {},
                                                            tr("Tables (*.csv *.txt *.tsv *.gz)"));
    if (!path.isEmpty())
        setSource(path.toStdString());
}

void TakeInPricesDialog::setSource(const std::filesystem::path& source)
{
    source_ = source;
    path_->setText(text(source.string()));
    asker_.ask(
        [source](const Progress&) {
            Sample sample;
            const std::filesystem::path file = intake::firstTable(source);
            if (file.empty()) {
                sample.fault = tr("There is no table of prices (.csv, .txt, .tsv, also .gz)");
                return sample;
            }
            sample.text = intake::sampleOf(file);
            sample.file = file.filename().string();
            Result<intake::PriceLayout> layout = intake::recogniseLayout(sample.text);
            if (layout)
                sample.layout = *std::move(layout);
            else
                sample.fault = text(layout.error().problem);
            return sample;
        },
        [this](const Sample& sample) { showSample(sample); });
}

void TakeInPricesDialog::showSample(const Sample& sample)
{
    sample_ = sample.text;
    fault_ = sample.fault;
    title_->setText(sample_.empty()
                        ? QString()
                        : tr("The first rows of %1 as they are read").arg(text(sample.file)));
    intake::PriceLayout layout = sample.layout;
    if (!fault_.isEmpty() && !sample_.empty())
        layout.separator = intake::separatorOf(sample_);
    showLayout(layout);
}

void TakeInPricesDialog::showLayout(const intake::PriceLayout& layout)
{
    isFilling_ = true;
    select(separator_, QChar::fromLatin1(layout.separator));
    select(decimal_, QChar::fromLatin1(layout.decimalMark));
    select(thousands_, QChar::fromLatin1(layout.thousandsMark));
    select(days_, static_cast<int>(layout.dayForm));
    fillHeadings();
    for (std::size_t i = 0; i < columns_.size(); ++i)
        select(columns_.at(i), text(layout.headings.at(i)));
    isFilling_ = false;
    refresh();
}

void TakeInPricesDialog::fillHeadings()
{
    const bool wasFilling = std::exchange(isFilling_, true);
    const auto preview = intake::previewOf(sample_, layoutChosen(), 0);
    for (std::size_t i = 0; i < columns_.size(); ++i) {
        columns_.at(i)->clear();
        const bool isSymbol = static_cast<PriceColumn>(i) == PriceColumn::Symbol;
        columns_.at(i)->addItem(isSymbol ? tr("the file's name") : tr("not there"), QString());
        for (const std::string& heading : preview.headings)
            columns_.at(i)->addItem(text(heading), text(heading));
    }
    isFilling_ = wasFilling;
}

intake::PriceLayout TakeInPricesDialog::layoutChosen() const
{
    intake::PriceLayout layout;
    layout.separator = markOf(separator_);
    layout.decimalMark = markOf(decimal_);
    layout.thousandsMark = markOf(thousands_);
    layout.dayForm = static_cast<intake::DayForm>(days_->currentData().toInt());
    for (std::size_t i = 0; i < columns_.size(); ++i)
        layout.headings.at(i) = utf8(columns_.at(i)->currentData().toString());
    return layout;
}

void TakeInPricesDialog::refresh()
{
    if (isFilling_)
        return;
    const intake::PriceLayout layout = layoutChosen();
    model_->setPreview(intake::previewOf(sample_, layout));
    for (std::size_t i = 0; i < intake::priceColumnCount; ++i)
        table_->setColumnHidden(static_cast<int>(i), layout.headings.at(i).empty());
    fitColumns(table_);
    const intake::PricePreview& preview = model_->preview();
    const bool hasNeeded =
        !layout.heading(PriceColumn::Time).empty() && !layout.heading(PriceColumn::Close).empty();
    const std::size_t rows = preview.rows.size();
    Tone tone = Tone::Soft;
    if (sample_.empty()) {
        verdict_->setText(fault_.isEmpty() ? tr("Choose a folder or a file.") : fault_ + tr("."));
    } else if (!hasNeeded) {
        verdict_->setText((fault_.isEmpty() ? QString() : fault_ + tr(". ")) +
                          tr("Say at least where the day and the close stand."));
        tone = Tone::Caution;
    } else if (preview.unread > 0) {
        verdict_->setText(
            tr("Of the first %1 rows so many cannot be read and would be left out: %2.")
                .arg(rows)
                .arg(preview.unread));
        tone = Tone::Caution;
    } else {
        verdict_->setText(tr("The first %1 rows can all be read.").arg(rows));
    }
    setTone(verdict_, tone);
    takeIn_->setEnabled(hasNeeded && preview.unread < rows);
}

} // namespace sieve::app
