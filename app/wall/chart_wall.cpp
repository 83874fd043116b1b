#include "app/wall/chart_wall.h"

#include "app/chart/chart_view.h"
#include "app/chart/drawing_pen.h"
#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/set_up_shelf.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/actions.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/wall/wall_pages.h"
#include "core/base/missing.h"
#include "core/drawings/stock.h"
#include "core/language/checker.h"
#include "core/watchlists/stocks.h"

#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QToolButton>
#include <algorithm>
#include <utility>

namespace sieve::app {

using watchlists::Mark;

namespace {

constexpr int mostSides = 5;

QString markWord(Mark mark)
{
    switch (mark) {
    case Mark::Kept:
        return ChartWall::tr("kept");
    case Mark::Dropped:
        return ChartWall::tr("dropped");
    case Mark::Later:
        return ChartWall::tr("later");
    case Mark::Open:
        break;
    }
    return {};
}

/// The stocks by a figure, those without one last, else as they were.
std::vector<std::size_t> ordered(std::vector<std::size_t> stocks, const engine::Column& figures,
                                 bool isFalling)
{
    std::ranges::stable_sort(stocks, [&](std::size_t a, std::size_t b) {
        const double own = figures[a];
        const double other = figures[b];
        if (isMissing(own) || isMissing(other))
            return !isMissing(own) && isMissing(other);
        return isFalling ? own > other : own < other;
    });
    return stocks;
}

} // namespace

ChartWall::ChartWall(Desk& desk, const QString& key)
    : desk_(desk), asker_(this), pagesAsker_(this), count_(new QComboBox), span_(new QComboBox),
      by_(new ExpressionEdit), lowestFirst_(new QToolButton), openOnly_(new QToolButton),
      summary_(new QLabel), back_(new QToolButton), on_(new QToolButton), grid_(new QGridLayout)
{
    makeHead(key);
    grid_->setSpacing(6);
    static_cast<QVBoxLayout*>(layout())->addLayout(grid_, 1);
    remember(&addChart()->view(), utf8(key + QStringLiteral(".set_up")).c_str());
    charts_.front()->hide();
    setFocusPolicy(Qt::StrongFocus);
    connect(&desk_.focus(), &Focus::selectionChanged, this, &ChartWall::markChosen);
    connect(&desk_.work(), &Workbench::drawingsChanged, this, [this] {
        showDrawings();
        if (charts::asksForDrawings(setUp_))
            ask(false);
    });
    connect(&desk_.work(), &Workbench::trayChanged, this, &ChartWall::showMarks);
    for (Asker* asker : {&asker_, &pagesAsker_})
        connect(asker, &Asker::failed, &desk_, &Desk::noticed);
    connect(&pagesAsker_, &Asker::progressed, this, [this](double fraction) {
        summary_->setText(tr("PDF %1; Esc stops").arg(numberText(fraction, Unit::Percent, 0)));
    });
    makeAction(this, ActionId::SaveWallPage, [this] { askForFile(false); });
    makeAction(this, ActionId::SaveWallBooklet, [this] { askForFile(true); });
}

void ChartWall::makeHead(const QString& key)
{
    count_->setAccessibleName(tr("Charts a page"));
    for (int side = 2; side <= mostSides; ++side)
        count_->addItem(tr("%1 charts").arg(side * side), side);
    span_->setAccessibleName(tr("Span of the charts"));
    for (const auto& [title, sessions] :
         {std::pair(tr("three months"), 63), std::pair(tr("half a year"), 126),
          std::pair(tr("a year"), 252), std::pair(tr("two years"), 504)})
        span_->addItem(title, sessions);
    span_->setCurrentIndex(1);
    remember(count_, utf8(key + QStringLiteral(".count")).c_str());
    remember(span_, utf8(key + QStringLiteral(".span")).c_str());
    by_->setAccessibleName(tr("Figure that the charts are ordered by"));
    by_->setPlaceholderText(tr("order by"));
    by_->setToolTip(tr("Order the charts by any figure of the language, such as "
                       "change(close, 63)"));
    by_->setMinimumWidth(60);
    by_->setMaximumWidth(190);
    lowestFirst_->setCheckable(true);
    lowestFirst_->setText(QStringLiteral("↓"));
    lowestFirst_->setAccessibleName(tr("Lowest first"));
    lowestFirst_->setToolTip(tr("Highest first; pressed: lowest first"));
    connect(lowestFirst_, &QToolButton::toggled, this, [this](bool isOn) {
        lowestFirst_->setText(isOn ? QStringLiteral("↑") : QStringLiteral("↓"));
    });
    openOnly_->setCheckable(true);
    openOnly_->setText(tr("Undecided"));
    openOnly_->setAccessibleName(tr("Undecided only"));
    openOnly_->setToolTip(tr("Leave out what was kept, dropped or set aside"));
    setTone(summary_, Tone::Soft);
    summary_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    summary_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    for (const auto& [button, icon, name] :
         {std::tuple(back_, "earlier", tr("Page back (Page Up)")),
          std::tuple(on_, "later", tr("Next page (Page Down)"))}) {
        button->setIcon(iconOf(QLatin1String(icon), look().ink));
        button->setToolTip(name);
        button->setAccessibleName(name);
    }
    auto* head = new QHBoxLayout;
    head->addWidget(count_);
    head->addWidget(span_);
    head->addWidget(by_, 1);
    head->addWidget(lowestFirst_);
    head->addWidget(openOnly_);
    head->addWidget(summary_, 1);
    head->addWidget(back_);
    head->addWidget(on_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addLayout(head);
    connect(count_, &QComboBox::currentIndexChanged, this, [this] { ask(false); });
    connect(span_, &QComboBox::currentIndexChanged, this, [this] { ask(false); });
    connect(by_, &QLineEdit::editingFinished, this, &ChartWall::order);
    for (QToolButton* button : {lowestFirst_, openOnly_})
        connect(button, &QToolButton::toggled, this, &ChartWall::order);
    connect(back_, &QToolButton::clicked, this, [this] { turn(-1); });
    connect(on_, &QToolButton::clicked, this, [this] { turn(1); });
}

PriceChart* ChartWall::addChart()
{
    auto* chart = new PriceChart(this);
    chart->setObjectName(QStringLiteral("sheet"));
    chart->setCompact(true);
    ChartView& view = chart->view();
    view.setSetUp(setUp_);
    view.installEventFilter(this);
    new SetUpShelf(desk_, view);
    connect(&view, &ChartView::failed, &desk_, &Desk::noticed);
    connect(&view, &ChartView::setUpChanged, this, [this, chart](bool needsFigures) {
        setUp_ = chart->view().setUp(); // all of the wall, so that they compare
        for (PriceChart* each : charts_)
            if (each != chart)
                each->view().setSetUp(setUp_);
        if (needsFigures)
            ask(false);
    });
    connect(&view, &ChartView::pointed, this, [this, chart](int bar) { pointOthers(*chart, bar); });
    charts_.push_back(chart);
    return chart;
}

std::size_t ChartWall::aPage() const
{
    const auto side = count_->currentData().toULongLong();
    return static_cast<std::size_t>(side * side);
}

void ChartWall::show(Stocks stocks)
{
    const bool isOther = stocks.stocks != stocks_.stocks || stocks.evaluator != stocks_.evaluator;
    if (isOther) {
        first_ = 0;
        large_.reset();
    }
    const bool isOrderedAnew = isOther || stocks.day != stocks_.day;
    stocks_ = std::move(stocks);
    ask(isOrderedAnew);
}

void ChartWall::turn(int pages)
{
    const std::size_t page = large_ ? 1 : aPage();
    if (large_) { // the next one, which may lie on another page
        const std::size_t at = first_ + *large_;
        const std::size_t to = pages < 0 ? at - std::min<std::size_t>(at, 1) : at + page;
        if (to >= order_.size() || to == at)
            return;
        first_ = to / aPage() * aPage();
        large_ = to - first_;
    } else if (pages < 0) {
        first_ -= std::min(first_, page);
    } else if (first_ + page < order_.size()) {
        first_ += page;
    } else {
        return;
    }
    ask(false);
}

/// By the figure that is typed now, from the first page on.
void ChartWall::order()
{
    first_ = 0;
    large_.reset();
    ask(true);
}

void ChartWall::ask(bool isOrderedAnew)
{
    if (!stocks_.evaluator)
        return;
    std::vector<std::size_t> all = order_;
    isOrderAsked_ = isOrderAsked_ || isOrderedAnew; // also where its answer was not waited for
    if (isOrderAsked_) {
        all = stocks_.stocks;
        const watchlists::Tray& tray = *desk_.work().now().tray;
        if (openOnly_->isChecked())
            std::erase_if(all, [&](std::size_t stock) {
                const auto at = placeIn(tray, stocks_.evaluator->market(), stock);
                return at && tray.cards()[*at].mark != Mark::Open;
            });
    }
    asker_.ask(
        [evaluator = stocks_.evaluator, book = desk_.work().nameBook(), day = stocks_.day,
         lists = desk_.work().now().lists, setUp = setUp_, all = std::move(all), first = first_,
         most = aPage(), by = isOrderAsked_ ? utf8(by_->text().trimmed()) : std::string(),
         isFalling = !lowestFirst_->isChecked(),
         marked = stocks_.marked](const Progress& progress) {
            Page page{all, first, {}, {}};
            engine::Plan plan;
            const auto figure = by.empty() ? Result<language::Checked>(language::Checked{})
                                           : check(by, book->names(), plan);
            if (!figure)
                page.error = figure.error();
            else if (figure->kind == Kind::Text)
                page.error = LocatedError{{}, "a text is no figure", "write a figure"};
            else if (!by.empty())
                page.order = ordered(std::move(page.order),
                                     *evaluator->column(plan, figure->node, day), isFalling);
            const auto begin = std::min(page.first, page.order.size());
            const auto end = std::min(begin + most, page.order.size());
            for (charts::Chart& chart : charts::makeCharts(
                     *evaluator, book->names(), setUp,
                     std::span(page.order).subspan(begin, end - begin), day, progress, lists)) {
                charts::markDays(chart, page.order[begin + page.charts.size()], marked);
                page.charts.push_back(std::make_shared<const charts::Chart>(std::move(chart)));
            }
            return page;
        },
        [this](Page page) { place(std::move(page)); });
}

void ChartWall::place(Page page)
{
    if (std::exchange(isOrderAsked_, false))
        by_->setFault(page.error);
    order_ = std::move(page.order);
    first_ = page.first;
    const auto begin = order_.begin() + static_cast<std::ptrdiff_t>(first_);
    shown_.assign(begin, begin + std::ssize(page.charts));
    while (charts_.size() < page.charts.size())
        addChart();
    for (std::size_t i = 0; i < page.charts.size(); ++i) {
        charts_[i]->setShownBars(span_->currentData().toInt());
        charts_[i]->setChart(std::move(page.charts[i]));
    }
    if (large_ && *large_ >= shown_.size())
        large_.reset();
    arrange();
    showDrawings();
    showMarks();
    markChosen();
}

/// Puts the charts of the page side by side, or the large one alone.
void ChartWall::arrange()
{
    const int side = large_ ? 1 : count_->currentData().toInt();
    for (std::size_t i = 0; i < charts_.size(); ++i) {
        grid_->removeWidget(charts_[i]);
        const bool isShown = i < shown_.size() && (!large_ || *large_ == i);
        charts_[i]->setCompact(!large_);
        charts_[i]->setVisible(isShown);
        const int place = large_ ? 0 : static_cast<int>(i);
        if (isShown)
            grid_->addWidget(charts_[i], place / side, place % side);
    }
    for (int line = 0; line < mostSides; ++line) { // few charts are as large as many
        grid_->setRowStretch(line, line < side ? 1 : 0);
        grid_->setColumnStretch(line, line < side ? 1 : 0);
    }
    tellPage();
}

void ChartWall::tellPage()
{
    const std::size_t end = first_ + shown_.size();
    if (order_.empty())
        summary_->setText(stocks_.stocks.empty() ? tr("Nothing to show") : tr("All are decided"));
    else if (large_)
        summary_->setText(
            tr("%1 of %2; Esc shows all").arg(first_ + *large_ + 1).arg(order_.size()));
    else
        summary_->setText(tr("%1 to %2 of %3").arg(first_ + 1).arg(end).arg(order_.size()));
    back_->setEnabled(first_ > 0 || (large_ && *large_ > 0));
    on_->setEnabled(large_ ? first_ + *large_ + 1 < order_.size() : end < order_.size());
}

void ChartWall::openLarge(std::optional<std::size_t> place)
{
    if (place && *place >= shown_.size())
        return;
    large_ = place;
    arrange();
    if (large_)
        charts_[*large_]->view().setFocus();
}

/// What is drawn on each stock in Weigh and Lists, to be seen.
void ChartWall::showDrawings()
{
    for (std::size_t i = 0; i < std::min(shown_.size(), charts_.size()); ++i)
        charts_[i]->view().pen().setDrawings(drawings::drawingsOn(
            *desk_.work().now().drawings, stocks_.evaluator->market(), shown_[i], stocks_.day));
}

/// What was decided about each, beside its figures.
void ChartWall::showMarks()
{
    const watchlists::Tray& tray = *desk_.work().now().tray;
    for (std::size_t i = 0; i < std::min(shown_.size(), charts_.size()); ++i) {
        const auto at = placeIn(tray, stocks_.evaluator->market(), shown_[i]);
        charts_[i]->setNote(at ? markWord(tray.cards()[*at].mark) : QString());
    }
}

/// The bar that one chart is pointed at is read on all, by its moment.
void ChartWall::pointOthers(PriceChart& pointed, int bar)
{
    if (std::exchange(isPointing_, true))
        return; // one of the others tells
    std::optional<Day> day;
    int minute = 0;
    if (bar >= 0) {
        const charts::Chart& chart = pointed.view().chart();
        const auto at = static_cast<std::size_t>(bar);
        day = chart.bars->days[at];
        minute = chart.isOfMinutes() ? chart.clock[at] : 0;
    }
    for (PriceChart* chart : charts_)
        if (chart != &pointed && chart->isVisible())
            chart->view().pointAt(day, minute);
    isPointing_ = false;
}

void ChartWall::markChosen()
{
    for (std::size_t i = 0; i < charts_.size() && i < shown_.size(); ++i)
        charts_[i]->setMarked(desk_.focus().selected() == shown_[i]);
}

std::optional<std::size_t> ChartWall::stockMeant() const
{
    if (large_)
        return shown_[*large_];
    for (std::size_t i = 0; i < charts_.size() && i < shown_.size(); ++i)
        if (charts_[i] == under_)
            return shown_[i];
    const auto chosen = desk_.focus().selected();
    const bool isHere = chosen && std::ranges::find(shown_, *chosen) != shown_.end();
    return isHere ? chosen : std::nullopt;
}

bool ChartWall::isOfOpenMarket() const
{
    return stocks_.evaluator && stocks_.evaluator == desk_.market().evaluator();
}

/// Once decided, the next one is chosen, or comes up where one is large.
void ChartWall::decide(Mark mark)
{
    const auto stock = stockMeant();
    if (!stock || !isOfOpenMarket())
        return;
    Q_EMIT decided(*stock, mark);
    if (large_)
        return turn(1);
    const auto at = std::ranges::find(shown_, *stock);
    if (!under_ && at != shown_.end() && std::next(at) != shown_.end())
        desk_.focus().select(*std::next(at));
}

void ChartWall::keyPressEvent(QKeyEvent* event)
{
    const bool isPlain = !(event->modifiers() & ~Qt::KeypadModifier);
    const auto place = [this]() -> std::optional<std::size_t> {
        const auto stock = stockMeant();
        const auto at = stock ? std::ranges::find(shown_, *stock) : shown_.end();
        return at == shown_.end() ? std::nullopt
                                  : std::optional(static_cast<std::size_t>(at - shown_.begin()));
    };
    switch (isPlain ? event->key() : 0) {
    case Qt::Key_PageDown:
        return turn(1);
    case Qt::Key_PageUp:
        return turn(-1);
    case Qt::Key_K:
        return decide(Mark::Kept);
    case Qt::Key_X:
        return decide(Mark::Dropped);
    case Qt::Key_L:
        return decide(Mark::Later);
    case Qt::Key_Return:
    case Qt::Key_Enter:
        return openLarge(large_ ? std::nullopt : place());
    case Qt::Key_Escape:
        if (pagesAsker_.isBusy()) {
            pagesAsker_.stop();
            return tellPage();
        }
        if (large_)
            return openLarge(std::nullopt);
        break;
    default:
        break;
    }
    QWidget::keyPressEvent(event);
}

bool ChartWall::eventFilter(QObject* watched, QEvent* event)
{
    const auto found =
        std::ranges::find_if(charts_, [&](PriceChart* chart) { return &chart->view() == watched; });
    const auto place = static_cast<std::size_t>(found - charts_.begin());
    if (place >= std::min(charts_.size(), shown_.size()))
        return QWidget::eventFilter(watched, event);
    switch (event->type()) {
    case QEvent::Enter:
        under_ = *found;
        break;
    case QEvent::Leave:
        if (under_ == *found)
            under_ = nullptr;
        break;
    case QEvent::MouseButtonPress:
        if (isOfOpenMarket())
            desk_.focus().select(shown_[place]);
        break;
    case QEvent::MouseButtonDblClick:
        openLarge(large_ ? std::nullopt : std::optional(place));
        return true;
    default:
        break;
    }
    return QWidget::eventFilter(watched, event);
}

void ChartWall::askForFile(bool areAll)
{
    const QString file = QFileDialog::getSaveFileName(
        this, areAll ? tr("Save all charts as PDF") : tr("Save this page as PDF"),
        QDir::home().filePath(QStringLiteral("charts.pdf")), tr("Pages (*.pdf)"));
    if (!file.isEmpty())
        savePages(file, areAll);
}

void ChartWall::savePages(const QString& file, bool areAll)
{
    if (order_.empty() || pagesAsker_.isBusy())
        return;
    WallPages pages;
    pages.stocks = areAll ? order_ : shown_;
    pages.day = stocks_.day;
    pages.title = stocks_.title;
    pages.marked = stocks_.marked;
    pages.side = count_->currentData().toInt();
    pages.sessions = span_->currentData().toInt();
    pages.setUp = setUp_;
    pages.drawings = desk_.work().now().drawings;
    pages.lists = desk_.work().now().lists;
    pagesAsker_.ask(
        [evaluator = stocks_.evaluator, book = desk_.work().nameBook(), pages = std::move(pages),
         file](const Progress& progress) {
            return writePages(file, pages, *evaluator, book->names(), progress);
        },
        [this, file](int written) {
            tellPage();
            Q_EMIT desk_.noticed(
                written > 0
                    ? tr("%1 pages of charts are in %2.").arg(written).arg(file)
                    : tr("The charts could not be written to %1. Choose a folder that may be "
                         "written to and has room.")
                          .arg(file));
        });
}

} // namespace sieve::app
