#include "app/sift/results_view.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/parts/figure_table.h"
#include "app/parts/frozen_column.h"
#include "app/parts/number_text.h"
#include "app/parts/table_foot.h"
#include "app/parts/table_model.h"

#include <QApplication>
#include <QHeaderView>
#include <QMenu>
#include <QScrollBar>
#include <QTableView>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

using language::CellGraphic;

constexpr const char* widthKey = "column_width/"; ///< setting, followed by the column's text
constexpr std::size_t cellLineSessions = 60;
constexpr int linePixels = 62; ///< that a small line takes beside its figure

std::vector<std::string> columnTexts(const screens::ResultTable& table)
{
    std::vector<std::string> texts;
    for (const screens::TableColumn& column : table.columns)
        texts.push_back(column.text);
    return texts;
}

} // namespace

ResultsView::ResultsView(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), lines_(this), table_(new QTableView),
      model_(new TableModel(this)), linesLater_(new QTimer(this))
{
    table_->setModel(model_);
    table_->setAccessibleName(tr("Results"));
    prepareTable(table_);
    table_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    table_->setDragEnabled(true);
    table_->setDragDropMode(QAbstractItemView::DragOnly);
    setFocusProxy(table_);
    prepareHead();
    new FrozenColumn(table_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(table_, 1);
    layout->addWidget(new TableFoot(table_));
    linesLater_->setSingleShot(true);
    linesLater_->setInterval(60);
    connect(linesLater_, &QTimer::timeout, this, &ResultsView::askLines);
    connect(table_->verticalScrollBar(), &QScrollBar::valueChanged, linesLater_,
            qOverload<>(&QTimer::start));
    connect(table_->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& now) {
                if (now.isValid())
                    Q_EMIT chosen(model_->instrumentAt(now.row()));
            });
    connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this,
            &ResultsView::selectionSizeChanged);
    connect(table_, &QTableView::activated, this,
            [this](const QModelIndex& at) { Q_EMIT opened(model_->instrumentAt(at.row())); });
    connect(&lines_, &Asker::failed, &desk_, &Desk::noticed);
}

void ResultsView::prepareHead()
{
    QHeaderView* head = table_->horizontalHeader();
    head->setSectionsClickable(true);
    head->setSectionsMovable(true);
    head->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(head, &QHeaderView::sectionClicked, this, &ResultsView::sortBy);
    connect(head, &QHeaderView::sectionMoved, this,
            [this](int, int from, int to) { moved(from, to); });
    connect(head, &QHeaderView::sectionResized, this,
            [this](int column, int, int width) { resized(column, width); });
    connect(head, &QWidget::customContextMenuRequested, this, &ResultsView::showHeadMenu);
}

void ResultsView::show(const SiftedPtr& sifted)
{
    sifted_ = sifted;
    const QSignalBlocker quiet(table_->selectionModel());
    model_->setTable(sifted->table, sifted->market);
    std::vector<std::string> columns = columnTexts(model_->table());
    if (columns.empty()) // the head forgets its widths
        fitted_.clear();
    if (columns != fitted_ && model_->rowCount() > 0) {
        fit();
        fitted_ = std::move(columns);
    }
    linesLater_->start();
    Q_EMIT selectionSizeChanged();
}

void ResultsView::showChosen(std::optional<std::size_t> stock)
{
    if (!severalSelected().empty())
        return; // what the person selected stays
    const int row = stock ? model_->rowOf(*stock) : -1;
    const QSignalBlocker quiet(table_->selectionModel());
    if (row < 0)
        table_->clearSelection();
    else if (table_->currentIndex().row() != row) // else the cell in use stays the current one
        table_->setCurrentIndex(model_->index(row, 0));
    table_->viewport()->update();
}

void ResultsView::enter()
{
    table_->setFocus();
    if (table_->selectionModel()->hasSelection() || model_->rowCount() == 0)
        return;
    table_->setCurrentIndex(model_->index(0, 0));
    table_->selectRow(0); // it may have been the current one without being selected
}

std::vector<std::string> ResultsView::severalSelected() const
{
    std::vector<int> rows;
    for (const QModelIndex& index : table_->selectionModel()->selectedRows())
        rows.push_back(index.row());
    std::ranges::sort(rows);
    std::vector<std::string> symbols;
    if (rows.size() > 1)
        for (const int row : rows)
            symbols.push_back(sifted_->market->instrument(model_->instrumentAt(row)).symbol);
    return symbols;
}

void ResultsView::forgetOrder()
{
    sortKeys_.clear();
    table_->horizontalHeader()->setSortIndicatorShown(false);
}

/// A click sorts by a column, or turns its order round; with Shift it decides among those that are
/// equal in the columns before.
void ResultsView::sortBy(int column)
{
    using screens::Order;
    const auto place = static_cast<std::size_t>(column);
    const auto was = std::ranges::find(sortKeys_, place, &screens::SortKey::column);
    const Order order = was != sortKeys_.end() && was->order == Order::Descending
                            ? Order::Ascending
                            : Order::Descending;
    const bool isAdded = QApplication::keyboardModifiers() & Qt::ShiftModifier;
    if (isAdded && was != sortKeys_.end())
        was->order = order;
    else if (isAdded)
        sortKeys_.push_back({place, order});
    else
        sortKeys_ = {{place, order}};
    const screens::SortKey& first = sortKeys_.front();
    table_->horizontalHeader()->setSortIndicatorShown(true);
    table_->horizontalHeader()->setSortIndicator(
        static_cast<int>(first.column),
        first.order == Order::Ascending ? Qt::AscendingOrder : Qt::DescendingOrder);
    Q_EMIT sortWanted();
}

/// The head goes back to its place, and the screen's columns take the order: so that the table and
/// the screen are never in two orders.
void ResultsView::moved(int from, int to)
{
    {
        const QSignalBlocker quiet(table_->horizontalHeader());
        table_->horizontalHeader()->moveSection(to, from);
    }
    std::vector<std::string> columns = columnTexts(model_->table());
    const std::string column = columns.at(static_cast<std::size_t>(from));
    columns.erase(columns.begin() + from);
    columns.insert(columns.begin() + to, column);
    Q_EMIT columnsWanted(columns);
}

/// A width is the column's, under whatever screen it stands.
void ResultsView::resized(int column, int width)
{
    if (isFitting_ || column >= model_->columnCount() || width <= 0)
        return;
    const std::string& text = model_->table().columns[static_cast<std::size_t>(column)].text;
    desk_.settings().set(widthKey + text, std::to_string(width));
}

void ResultsView::fit()
{
    isFitting_ = true;
    fitColumns(table_);
    for (int column = 0; column < model_->columnCount(); ++column) {
        const auto& shown = model_->table().columns[static_cast<std::size_t>(column)];
        if (shown.graphic == CellGraphic::Line)
            table_->setColumnWidth(column, table_->columnWidth(column) + linePixels);
        if (shown.graphic == CellGraphic::Sign)
            table_->setColumnWidth(column, table_->columnWidth(column) + 12);
        if (const int width = app::text(desk_.settings().value(widthKey + shown.text)).toInt();
            width > 0)
            table_->setColumnWidth(column, width);
    }
    isFitting_ = false;
}

void ResultsView::showHeadMenu(const QPoint& at)
{
    const int column = table_->horizontalHeader()->logicalIndexAt(at);
    if (column < 0)
        return;
    const screens::TableColumn& shown = model_->table().columns[static_cast<std::size_t>(column)];
    QMenu menu(this);
    menu.addSection(text(shown.title));
    const std::pair<CellGraphic, QString> graphics[] = {
        {CellGraphic::None, tr("The figure alone")},
        {CellGraphic::Bar, tr("With a bar among all stocks")},
        {CellGraphic::Range, tr("With a mark in the year's range")},
        {CellGraphic::Line, tr("With a line of the last months")},
        {CellGraphic::Sign, tr("With a sign of rise or fall")}};
    for (const auto& [graphic, title] : graphics) {
        if (shown.kind != Kind::Number)
            break;
        QAction* action = menu.addAction(title);
        action->setCheckable(true);
        action->setChecked(shown.graphic == graphic);
        connect(action, &QAction::triggered, this,
                [this, name = shown.text, kind = graphic] { Q_EMIT graphicWanted(name, kind); });
    }
    menu.addSeparator();
    connect(menu.addAction(tr("Take the column away")), &QAction::triggered, this, [this, column] {
        std::vector<std::string> columns = columnTexts(model_->table());
        columns.erase(columns.begin() + column);
        Q_EMIT columnsWanted(columns);
    });
    connect(menu.addAction(tr("Columns…")), &QAction::triggered, this,
            &ResultsView::columnsEditWanted);
    menu.exec(table_->horizontalHeader()->mapToGlobal(at));
}

/// Lines are read for the rows in sight only.
void ResultsView::askLines()
{
    const int first = table_->rowAt(0);
    const int end = table_->rowAt(table_->viewport()->height() - 1);
    const int last = end < 0 ? model_->rowCount() - 1 : end;
    if (first < 0)
        return;
    for (const screens::TableColumn& column : model_->table().columns) {
        if (column.graphic != CellGraphic::Line)
            continue;
        const auto absent = model_->withoutLine(column.text, first, last);
        if (absent.empty())
            continue;
        lines_.ask(
            [evaluator = sifted_->evaluator, book = desk_.work().nameBook(), name = column.text,
             absent, day = sifted_->run.day](const Progress& progress) {
                return screens::linesOf(name, absent, book->names(), *evaluator, day,
                                        cellLineSessions, progress);
            },
            [this, name = column.text, absent,
             of = sifted_](const std::vector<std::vector<double>>& lines) {
                if (of != sifted_)
                    return;
                model_->addLines(name, absent, lines);
                askLines(); // the next column's
            });
        return;
    }
}

} // namespace sieve::app
