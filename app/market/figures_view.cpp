#include "app/market/figures_view.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/expression_edit.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"

#include <QHeaderView>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr int textRole = Qt::UserRole;
constexpr int placeRole = Qt::UserRole + 1;
constexpr std::size_t mostPanes = 5;

/// Where the figure stands between its least and its most, as a mark on a line.
class PlaceDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override
    {
        QStyledItemDelegate::paint(painter, option, index);
        const QVariant place = index.data(placeRole);
        if (!place.isValid())
            return;
        const QRectF area = QRectF(option.rect).adjusted(8, 0, -56, 0);
        const double y = area.center().y();
        painter->setPen(QPen(look().rule, 2.0));
        painter->drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
        const double x = area.left() + area.width() * place.toDouble();
        painter->fillRect(QRectF(x - 2.0, y - 6.0, 4.0, 12.0), look().mark);
    }
};

} // namespace

FiguresView::FiguresView(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), table_(new QTableWidget(0, ColumnCount)),
      own_(new ExpressionEdit)
{
    prepareTable(table_);
    table_->setItemDelegateForColumn(Place, new PlaceDelegate(table_));
    table_->setHorizontalHeaderLabels(
        {tr("Drawn under the line"), tr("Now"), tr("Day before"), tr("Among its ten years")});
    table_->horizontalHeaderItem(Title)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    for (int column = Now; column < ColumnCount; ++column)
        table_->horizontalHeaderItem(column)->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    table_->horizontalHeader()->setSectionResizeMode(Title, QHeaderView::Stretch);
    table_->horizontalHeader()->resizeSection(Now, 80);
    table_->horizontalHeader()->resizeSection(Before, 84);
    table_->horizontalHeader()->resizeSection(Place, 150);
    remember(table_->horizontalHeader(), "market.figures");
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setAccessibleName(tr("Breadth in figures"));
    own_->setPlaceholderText(tr("draw another figure: type it here, then Enter"));
    own_->setAccessibleName(tr("Another figure to draw"));
    own_->setProperty("quiet", false);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 4, 0, 0);
    layout->setSpacing(4);
    layout->addWidget(table_, 1);
    layout->addWidget(own_);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    connect(own_, &QLineEdit::returnPressed, this, &FiguresView::addOwn);
    connect(table_, &QTableWidget::itemChanged, this, [this](QTableWidgetItem* item) {
        if (!isFilling_ && item->column() == Title)
            setDrawn(utf8(item->data(textRole).toString()), item->checkState() == Qt::Checked);
    });
    connect(&desk_.work(), &Workbench::marketBookChanged, this, &FiguresView::ask);
}

void FiguresView::show(const conditions::Line& line, Day day)
{
    line_ = line;
    day_ = day;
    ask();
}

void FiguresView::ask()
{
    if (!line_.market)
        return;
    std::vector<std::string> texts = desk_.work().now().marketBook->panes;
    for (const language::Field& field : language::Vocabulary::builtIn().fields())
        if (field.family == "Breadth" && std::ranges::find(texts, field.name) == texts.end())
            texts.push_back(field.name);
    asker_.ask(
        [evaluator = desk_.market().evaluator(), names = desk_.work().nameBook(), line = line_,
         texts](const Progress& progress) {
            return conditions::readPanes(*evaluator, names->names(), line, texts, progress);
        },
        [this](const std::vector<conditions::Pane>& figures) {
            if (const auto bar = line_.barBy(day_))
                fill(figures, *bar);
        });
}

void FiguresView::fill(const std::vector<conditions::Pane>& figures, std::size_t bar)
{
    isFilling_ = true;
    const auto& drawn = desk_.work().now().marketBook->panes;
    table_->setRowCount(static_cast<int>(figures.size()));
    for (int row = 0; row < table_->rowCount(); ++row) {
        const conditions::Pane& figure = figures[static_cast<std::size_t>(row)];
        const auto value = [&](std::size_t back) {
            return bar >= back && bar - back < figure.values.size() ? figure.values[bar - back]
                                                                    : missing;
        };
        auto* title = new QTableWidgetItem(text(figure.title));
        title->setData(textRole, text(figure.text));
        title->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsUserCheckable);
        const bool isDrawn = std::ranges::find(drawn, figure.text) != drawn.end();
        title->setCheckState(isDrawn ? Qt::Checked : Qt::Unchecked);
        title->setToolTip(figure.error
                              ? text(sentence(*figure.error))
                              : text(figure.meaning.empty() ? figure.text : figure.meaning));
        table_->setItem(row, Title, title);
        for (int column = Now; column <= Before; ++column) {
            auto* cell = new QTableWidgetItem(
                numberText(value(column == Now ? 0 : 1), figure.unit, figure.decimals));
            cell->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            table_->setItem(row, column, cell);
        }
        const double place = conditions::placeInRange(figure.values, bar, conditions::tenYears);
        auto* cell = new QTableWidgetItem(numberText(place, Unit::Percent, 0));
        cell->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        cell->setToolTip(tr("Share of the sessions of ten years on which it stood lower"));
        if (!isMissing(place))
            cell->setData(placeRole, place);
        table_->setItem(row, Place, cell);
    }
    isFilling_ = false;
}

void FiguresView::setDrawn(const std::string& figure, bool isDrawn)
{
    desk_.work().edit(isDrawn ? tr("Draw %1").arg(text(figure))
                              : tr("No longer draw %1").arg(text(figure)),
                      [&](Work& work) {
                          auto& panes = work.marketBook.edit().panes;
                          std::erase(panes, figure);
                          if (isDrawn && panes.size() >= mostPanes)
                              panes.pop_back(); // the lowest makes room
                          if (isDrawn)
                              panes.push_back(figure);
                      });
}

void FiguresView::addOwn()
{
    const std::string figure = utf8(own_->text().trimmed());
    if (figure.empty())
        return;
    const auto names = desk_.work().nameBook();
    engine::Plan plan;
    const auto checked = check(figure, names->names(), plan);
    const bool isFigure = checked && checked->kind != Kind::Text;
    own_->setFault(isFigure ? std::nullopt
                   : checked
                       ? std::optional(LocatedError{{}, "a text cannot be drawn", "write a figure"})
                       : std::optional(checked.error()));
    if (!isFigure)
        return;
    own_->clear();
    setDrawn(figure, true);
}

} // namespace sieve::app
