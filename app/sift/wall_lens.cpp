#include "app/sift/wall_lens.h"

#include "app/chart/chart_view.h"
#include "app/chart/drawing_pen.h"
#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/remembered.h"
#include "core/drawings/stock.h"

#include <QComboBox>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QToolButton>
#include <algorithm>
#include <utility>

namespace sieve::app {

WallLens::WallLens(Desk& desk)
    : Lens(desk), asker_(this), count_(new QComboBox), span_(new QComboBox), summary_(new QLabel),
      back_(new QToolButton), on_(new QToolButton), grid_(new QGridLayout)
{
    count_->setAccessibleName(tr("Charts a page"));
    for (const int side : {2, 3, 4, 5})
        count_->addItem(tr("%1 charts").arg(side * side), side);
    span_->setAccessibleName(tr("Span of the charts"));
    for (const auto& [title, sessions] :
         {std::pair(tr("three months"), 63), std::pair(tr("half a year"), 126),
          std::pair(tr("a year"), 252), std::pair(tr("two years"), 504)})
        span_->addItem(title, sessions);
    span_->setCurrentIndex(1);
    remember(count_, "sift.wall.count");
    remember(span_, "sift.wall.span");
    setTone(summary_, Tone::Soft);
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
    head->addStretch(1);
    head->addWidget(summary_);
    head->addWidget(back_);
    head->addWidget(on_);
    grid_->setSpacing(6);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addLayout(head);
    layout->addLayout(grid_, 1);
    setFocusPolicy(Qt::StrongFocus);
    connect(count_, &QComboBox::currentIndexChanged, this, &WallLens::fill);
    connect(span_, &QComboBox::currentIndexChanged, this, &WallLens::fill);
    connect(back_, &QToolButton::clicked, this, [this] { turn(-1); });
    connect(on_, &QToolButton::clicked, this, [this] { turn(1); });
    connect(&desk_.focus(), &Focus::selectionChanged, this, &WallLens::markChosen);
    connect(&desk_.work(), &Workbench::drawingsChanged, this, &WallLens::showDrawings);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
}

std::size_t WallLens::aPage() const
{
    const auto side = count_->currentData().toULongLong();
    return static_cast<std::size_t>(side * side);
}

void WallLens::show(const SiftedPtr& sifted)
{
    const bool isOther = !sifted_ || sifted_->run.matches != sifted->run.matches;
    sifted_ = sifted;
    if (isOther)
        first_ = 0;
    fill();
}

void WallLens::turn(int pages)
{
    const std::size_t page = aPage();
    if (pages < 0)
        first_ -= std::min(first_, page);
    else if (sifted_ && first_ + page < sifted_->run.matches.size())
        first_ += page;
    fill();
}

void WallLens::fill()
{
    if (!sifted_)
        return;
    const std::vector<std::size_t>& matches = sifted_->run.matches;
    const std::size_t end = std::min(matches.size(), first_ + aPage());
    const std::vector<std::size_t> stocks(matches.begin() + static_cast<std::ptrdiff_t>(first_),
                                          matches.begin() + static_cast<std::ptrdiff_t>(end));
    summary_->setText(matches.empty()
                          ? tr("Nothing passes")
                          : tr("%1 to %2 of %3").arg(first_ + 1).arg(end).arg(matches.size()));
    back_->setEnabled(first_ > 0);
    on_->setEnabled(end < matches.size());
    shown_ = stocks;
    asker_.ask(
        [evaluator = sifted_->evaluator, book = desk_.work().nameBook(), stocks,
         lists = desk_.work().now().lists, day = sifted_->run.day,
         setUp = setUp_](const Progress& progress) {
            std::vector<ChartPtr> charts;
            for (const std::size_t stock : stocks)
                charts.push_back(std::make_shared<const charts::Chart>(charts::makeChart(
                    *evaluator, book->names(), setUp, stock, day, progress, lists)));
            return charts;
        },
        [this](std::vector<ChartPtr> charts) { place(std::move(charts)); });
}

void WallLens::place(std::vector<ChartPtr> charts)
{
    const int side = count_->currentData().toInt();
    while (charts_.size() < charts.size()) {
        auto* chart = new PriceChart(this);
        chart->setObjectName(QStringLiteral("sheet"));
        chart->setCompact(true);
        chart->view().installEventFilter(this);
        connect(&chart->view(), &ChartView::failed, &desk_, &Desk::noticed);
        connect(&chart->view(), &ChartView::setUpChanged, this, [this, chart](bool needsFigures) {
            setUp_ = chart->view().setUp(); // all of the wall, so that they compare
            for (PriceChart* each : charts_)
                each->view().setSetUp(setUp_);
            if (needsFigures)
                fill();
        });
        chart->view().setSetUp(setUp_);
        connect(&chart->view(), &ChartView::pointed, this,
                [this, chart](int bar) { pointOthers(*chart, bar); });
        charts_.push_back(chart);
    }
    for (std::size_t i = 0; i < charts_.size(); ++i) {
        grid_->removeWidget(charts_[i]);
        charts_[i]->setVisible(i < charts.size());
        if (i >= charts.size())
            continue;
        grid_->addWidget(charts_[i], static_cast<int>(i) / side, static_cast<int>(i) % side);
        charts_[i]->setShownBars(span_->currentData().toInt());
        charts_[i]->setChart(charts[i]);
    }
    for (int line = 0; line < 5; ++line) { // few charts are as large as many
        grid_->setRowStretch(line, line < side ? 1 : 0);
        grid_->setColumnStretch(line, line < side ? 1 : 0);
    }
    showDrawings();
    markChosen();
}

/// What is drawn on each stock in Weigh and Lists, to be seen.
void WallLens::showDrawings()
{
    if (!sifted_)
        return;
    for (std::size_t i = 0; i < std::min(shown_.size(), charts_.size()); ++i)
        charts_[i]->view().pen().setDrawings(drawings::drawingsOn(*desk_.work().now().drawings,
                                                                  sifted_->evaluator->market(),
                                                                  shown_[i], sifted_->run.day));
}

/// The bar that one chart is pointed at is read on all, by its day.
void WallLens::pointOthers(PriceChart& pointed, int bar)
{
    if (std::exchange(isPointing_, true))
        return; // one of the others tells
    std::optional<Day> day;
    if (bar >= 0)
        day = pointed.view().chart().bars->days[static_cast<std::size_t>(bar)];
    for (PriceChart* chart : charts_)
        if (chart != &pointed && chart->isVisible())
            chart->view().pointAt(day);
    isPointing_ = false;
}

void WallLens::markChosen()
{
    for (std::size_t i = 0; i < charts_.size() && i < shown_.size(); ++i)
        charts_[i]->setMarked(desk_.focus().selected() && *desk_.focus().selected() == shown_[i]);
}

void WallLens::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_PageDown)
        turn(1);
    else if (event->key() == Qt::Key_PageUp)
        turn(-1);
    else
        Lens::keyPressEvent(event);
}

bool WallLens::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::MouseButtonPress)
        for (std::size_t i = 0; i < charts_.size() && i < shown_.size(); ++i)
            if (&charts_[i]->view() == watched)
                desk_.focus().select(shown_[i]);
    return Lens::eventFilter(watched, event);
}

} // namespace sieve::app
