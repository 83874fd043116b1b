#include "app/market/line_chart.h"

#include "app/chart/time_plot.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/market/trend_strip.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

constexpr int shownBars = 375;
constexpr std::size_t countedSwings = 9;
constexpr std::size_t drawnDivergences = 12;

double factorOf(const conditions::Pane& pane)
{
    return pane.unit == Unit::Percent ? 100.0 : 1.0;
}

QString paneFigure(const conditions::Pane& pane, std::size_t bar)
{
    if (pane.error)
        return LineChart::tr("mistake: %1").arg(text(sentence(*pane.error)));
    return numberText(bar < pane.values.size() ? pane.values[bar] : missing, pane.unit,
                      pane.unit == Unit::Percent ? 0 : pane.decimals);
}

QColor paneColour(std::size_t pane)
{
    const Palette& colours = look();
    const QColor wheel[] = {colours.mark, colours.caution, colours.rise, colours.softInk};
    return wheel[pane % 4];
}

QCPRange extentOf(std::span<const double> low, std::span<const double> high, int first, int last)
{
    QCPRange range(missing, missing);
    for (auto bar = static_cast<std::size_t>(first);
         bar <= static_cast<std::size_t>(last) && bar < low.size(); ++bar) {
        if (isMissing(range.lower) || low[bar] < range.lower)
            range.lower = low[bar];
        if (isMissing(range.upper) || high[bar] > range.upper)
            range.upper = high[bar];
    }
    return range;
}

QVector<double> keysOf(std::size_t bars)
{
    QVector<double> keys(static_cast<qsizetype>(bars));
    for (qsizetype i = 0; i < keys.size(); ++i)
        keys[i] = static_cast<double>(i);
    return keys;
}

} // namespace

LineChart::LineChart(QWidget* parent)
    : QWidget(parent), plot_(new TimePlot), reading_(new QLabel), retracement_(new QLabel),
      retrace_(new QToolButton), lastSwing_(new QToolButton), levels_(plot_->addPane(0.5)),
      level_(new QCPGraph(levels_->axis(QCPAxis::atBottom), levels_->axis(QCPAxis::atRight))),
      candles_(new QCPFinancial(levels_->axis(QCPAxis::atBottom), levels_->axis(QCPAxis::atRight))),
      stripPane_(plot_->addPane(0.09)), strip_(new TrendStrip(stripPane_))
{
    setObjectName(QStringLiteral("sheet"));
    setAttribute(Qt::WA_StyledBackground);
    plot_->setAccessibleName(tr("Line and breadth"));
    remember(plot_, "market.chart_scale");
    reading_->setTextFormat(Qt::RichText);
    reading_->setContentsMargins(12, 2, 8, 2);
    reading_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    reading_->setMinimumHeight(fontMetrics().height() + 6);
    reading_->setAccessibleName(tr("Figures of the session under the pointer"));
    retracement_->setContentsMargins(12, 0, 8, 2);
    retracement_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    retracement_->setAccessibleName(tr("Retracement"));
    retracement_->hide();
    stripPane_->axis(QCPAxis::atRight)->setTickLabels(false);
    stripPane_->axis(QCPAxis::atRight)->setTicks(false);
    stripPane_->axis(QCPAxis::atRight)->grid()->setVisible(false);
    candles_->setChartStyle(QCPFinancial::csCandlestick);
    candles_->setTwoColored(true);
    candles_->setWidth(0.68);
    retrace_->setText(tr("Retrace"));
    retrace_->setCheckable(true);
    retrace_->setToolTip(tr("Lay a retracement between two turning points: click near each"));
    lastSwing_->setText(tr("Last swing"));
    lastSwing_->setToolTip(tr("Lay a retracement over the last completed swing"));
    auto* panes = new QToolButton;
    panes->setText(tr("Panes…"));
    panes->setToolTip(tr("Choose what is drawn under the line"));
    auto* tools = new QHBoxLayout;
    tools->setContentsMargins(6, 2, 6, 0);
    tools->setSpacing(2);
    tools->addWidget(panes);
    tools->addWidget(addOverlay(tr("Divergences"),
                                tr("Highs and lows that a pane does not confirm, joined on both"),
                                Overlay::Divergences));
    tools->addWidget(addOverlay(tr("Swings"),
                                tr("Turning points after which the line reversed by 5 %, the "
                                   "newest nine counted"),
                                Overlay::Swings));
    marksButton_ = addOverlay(tr("Gaps and days"), tr("Gaps, islands, inside and outside days"),
                              Overlay::BarMarks);
    tools->addWidget(marksButton_);
    tools->addWidget(retrace_);
    tools->addWidget(lastSwing_);
    tools->addStretch();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(1, 1, 1, 1);
    layout->setSpacing(0);
    layout->addLayout(tools);
    layout->addWidget(reading_);
    layout->addWidget(retracement_);
    layout->addWidget(plot_, 1);
    plot_->setExtent(levels_, [this](int first, int last) {
        return shown_->bars == 0
                   ? QCPRange(0.0, 1.0)
                   : extentOf(shown_->line.bars().low, shown_->line.bars().high, first, last);
    });
    plot_->setExtent(stripPane_, [](int, int) { return QCPRange(0.0, 1.0); });
    plot_->restyle = [this] { style(); };
    plot_->figuresOfBars = [this] {
        const market::BarsView& bars = shown_->line.bars();
        return !shown_->line.hasRange ? std::vector<TimePlot::Figures>()
                                      : std::vector<TimePlot::Figures>{{tr("Open"), bars.open},
                                                                       {tr("High"), bars.high},
                                                                       {tr("Low"), bars.low}};
    };
    connect(plot_, &TimePlot::pointed, this, &LineChart::read);
    connect(plot_, &TimePlot::clicked, this, &LineChart::click);
    connect(panes, &QToolButton::clicked, this, &LineChart::panesWanted);
    connect(lastSwing_, &QToolButton::clicked, this, &LineChart::proposeRetracement);
    connect(retrace_, &QToolButton::toggled, this, [this](bool isOn) {
        if (!isOn || retraced_.size() > 1)
            clearRetracement();
        showRetracement();
    });
    style();
}

QToolButton* LineChart::addOverlay(const QString& name, const QString& tip, Overlay overlay)
{
    auto* button = new QToolButton;
    button->setText(name);
    button->setToolTip(tip);
    button->setCheckable(true);
    button->setChecked(isOn(overlay));
    remember(button, ("market.overlay" + std::to_string(static_cast<int>(overlay))).c_str());
    connect(button, &QToolButton::toggled, this, [this, overlay](bool isOn) {
        overlays_[static_cast<std::size_t>(overlay)] = isOn;
        drawOver();
    });
    return button;
}

void LineChart::style()
{
    const Palette& colours = look();
    level_->setPen(QPen(colours.ink, 1.5));
    candles_->setPenPositive(QPen(colours.rise, 1.0));
    candles_->setBrushPositive(colours.sheet);
    candles_->setPenNegative(QPen(colours.fall, 1.0));
    candles_->setBrushNegative(colours.fall);
    for (std::size_t pane = 0; pane < panes_.size(); ++pane) {
        panes_[pane].graph->setPen(QPen(paneColour(pane), 1.3));
        panes_[pane]
            .rect->axis(QCPAxis::atRight)
            ->grid()
            ->setZeroLinePen(QPen(colours.softInk, 1.0));
    }
    stripPane_->axis(QCPAxis::atRight)->grid()->setVisible(false);
    drawOver();
    read(-1);
}

void LineChart::show(std::shared_ptr<const LineShown> shown)
{
    const bool isOtherLine = shown_->line.title != shown->line.title;
    const bool hasOtherDays = isOtherLine || shown_->bars != shown->bars;
    shown_ = std::move(shown);
    if (isOtherLine)
        retraced_.clear();
    const market::BarsView& bars = shown_->line.bars();
    const QVector<double> keys = keysOf(shown_->bars);
    QVector<double> closes(keys.size());
    QVector<QCPFinancialData> candles;
    for (qsizetype bar = 0; bar < keys.size(); ++bar) {
        const auto at = static_cast<std::size_t>(bar);
        closes[bar] = bars.close[at];
        if (shown_->line.hasRange)
            candles.append({keys[bar], bars.open[at], bars.high[at], bars.low[at], bars.close[at]});
    }
    level_->setName(text(shown_->line.title));
    level_->setData(keys, closes, true);
    level_->setVisible(!shown_->line.hasRange);
    candles_->data()->set(candles, true);
    marksButton_->setEnabled(shown_->line.hasRange);
    marksButton_->setToolTip(shown_->line.hasRange
                                 ? tr("Gaps, islands, inside and outside days")
                                 : tr("A composite has closes only, so it has no gaps, inside or "
                                      "outside days; an index has"));
    draft_.reset();
    showHistories();
    strip_->bars = shown_->bars;
    arrangePanes();
    for (std::size_t pane = 0; pane < panes_.size(); ++pane) {
        const conditions::Pane& figures = shown_->panes[pane];
        QVector<double> values(keys.size(), missing);
        for (qsizetype bar = 0; bar < values.size(); ++bar)
            if (static_cast<std::size_t>(bar) < figures.values.size())
                values[bar] = figures.values[static_cast<std::size_t>(bar)] * factorOf(figures);
        panes_[pane].graph->setName(text(figures.title));
        panes_[pane].graph->setData(keys, values, true);
    }
    const QCPRange before = plot_->shownBars();
    const bool keepsView = !hasOtherDays;
    plot_->setDays(
        {bars.days.begin(), bars.days.begin() + static_cast<std::ptrdiff_t>(shown_->bars)},
        shownBars);
    if (keepsView && before.size() > 0.0)
        plot_->showBars(before.lower + 0.8, before.upper - 0.8);
    style();
    showRetracement();
}

/// As many panes as there are figures, and room for the line.
void LineChart::arrangePanes()
{
    clearOver();
    while (panes_.size() > shown_->panes.size()) {
        plot_->removePane(panes_.back().rect);
        panes_.pop_back();
    }
    while (panes_.size() < shown_->panes.size()) {
        PaneDrawn pane;
        pane.rect = plot_->addPane(0.12);
        pane.rect->axis(QCPAxis::atRight)->ticker()->setTickCount(2);
        pane.graph =
            new QCPGraph(pane.rect->axis(QCPAxis::atBottom), pane.rect->axis(QCPAxis::atRight));
        const std::size_t place = panes_.size();
        plot_->setExtent(pane.rect, [this, place](int first, int last) {
            const conditions::Pane& figures = shown_->panes[place];
            const QCPRange range = extentOf(figures.values, figures.values, first, last);
            if (isMissing(range.lower))
                return QCPRange(0.0, 1.0);
            return QCPRange(range.lower * factorOf(figures), range.upper * factorOf(figures));
        });
        panes_.push_back(pane);
    }
    std::vector<double> shares{panes_.empty() ? 0.85 : 0.44, 0.10};
    for (std::size_t i = 0; i < panes_.size(); ++i)
        shares.push_back(0.46 / static_cast<double>(panes_.size()));
    shares.back() += 0.07; // the lowest names the sessions too
    plot_->setShares(shares);
}

void LineChart::setDraft(std::size_t horizon, std::shared_ptr<const conditions::TrendReading> draft)
{
    draft_ = std::move(draft);
    showHistories();
    if (draft_)
        strip_->histories[horizon] = &draft_->history;
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

/// As they were read: none of a draft that is gone.
void LineChart::showHistories()
{
    for (std::size_t i = 0; i < strip_->histories.size(); ++i)
        strip_->histories[i] = &shown_->trends[i];
}

void LineChart::clearOver()
{
    for (QCPAbstractItem* item : items_)
        plot_->removeItem(item);
    items_.clear();
    paneTitles_.clear();
    for (QCPGraph* graph : overlayGraphs_)
        plot_->removeGraph(graph);
    overlayGraphs_.clear();
}

void LineChart::drawOver()
{
    clearOver();
    if (shown_->bars > 0) {
        if (isOn(Overlay::Swings))
            drawSwings();
        if (isOn(Overlay::BarMarks))
            drawMarks();
        if (isOn(Overlay::Divergences))
            drawDivergences();
        drawRetracement();
    }
    // Last, so that no line strikes a title through.
    for (std::size_t pane = 0; pane < panes_.size() && pane < shown_->panes.size(); ++pane) {
        auto* title = new QCPItemText(plot_);
        title->setClipAxisRect(panes_[pane].rect);
        title->position->setType(QCPItemPosition::ptAxisRectRatio);
        title->position->setAxisRect(panes_[pane].rect);
        title->position->setCoords(0.008, 0.02);
        title->setPositionAlignment(Qt::AlignLeft | Qt::AlignTop);
        title->setFont(fontOf(Weight::Medium, 0.86));
        title->setColor(paneColour(pane));
        QColor paper = look().sheet;
        paper.setAlphaF(0.8F); // the line behind it stays to be seen
        title->setBrush(paper);
        title->setPadding(QMargins(2, 0, 2, 0));
        items_.push_back(title);
        paneTitles_.push_back(title);
    }
    titlePanes(shown_->bars > 0 ? shown_->bars - 1 : 0);
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

/// Each pane's title tells its figure on a bar.
void LineChart::titlePanes(std::size_t bar)
{
    for (std::size_t pane = 0; pane < paneTitles_.size(); ++pane)
        paneTitles_[pane]->setText(text(shown_->panes[pane].title) + QStringLiteral("  ") +
                                   paneFigure(shown_->panes[pane], bar));
}

void LineChart::addText(QCPAxisRect* pane, double bar, double value, const QString& text,
                        const QColor& colour, Qt::Alignment where)
{
    auto* item = new QCPItemText(plot_);
    item->setClipAxisRect(pane);
    item->position->setAxisRect(pane);
    item->position->setAxes(pane->axis(QCPAxis::atBottom), pane->axis(QCPAxis::atRight));
    item->position->setCoords(bar, value);
    item->setPositionAlignment(where);
    item->setFont(fontOf(Weight::Medium, 0.86));
    item->setColor(colour);
    item->setText(text);
    items_.push_back(item);
}

void LineChart::addLine(QCPAxisRect* pane, double fromBar, double from, double toBar, double to,
                        const QColor& colour, Qt::PenStyle pen)
{
    auto* item = new QCPItemLine(plot_);
    item->setClipAxisRect(pane);
    for (QCPItemPosition* end : {item->start, item->end}) {
        end->setAxisRect(pane);
        end->setAxes(pane->axis(QCPAxis::atBottom), pane->axis(QCPAxis::atRight));
        end->setType(QCPItemPosition::ptPlotCoords);
    }
    item->start->setCoords(fromBar, from);
    item->end->setCoords(toBar, to);
    item->setPen(QPen(colour, 1.4, pen));
    items_.push_back(item);
}

void LineChart::drawSwings()
{
    auto* graph = new QCPGraph(levels_->axis(QCPAxis::atBottom), levels_->axis(QCPAxis::atRight));
    overlayGraphs_.push_back(graph);
    graph->setPen(QPen(look().caution, 1.0, Qt::DashLine));
    QVector<double> keys;
    QVector<double> values;
    for (const patterns::Swing& swing : shown_->swings) {
        keys.append(static_cast<double>(swing.bar));
        values.append(swing.price);
    }
    graph->setData(keys, values, true);
    const std::size_t count = shown_->swings.size();
    const std::size_t first = count - std::min(count, countedSwings);
    for (std::size_t i = first; i < count; ++i) {
        const patterns::Swing& swing = shown_->swings[i];
        const bool isHigh = swing.turn == patterns::Turn::High;
        addText(levels_, static_cast<double>(swing.bar), swing.price,
                QString::number(i - first + 1), look().caution,
                Qt::AlignHCenter | (isHigh ? Qt::AlignBottom : Qt::AlignTop));
    }
}

void LineChart::drawMarks()
{
    const market::BarsView& bars = shown_->line.bars();
    const auto draw = [&](std::initializer_list<patterns::Mark> marks, QCPScatterStyle shape,
                          bool isAbove) {
        auto* graph =
            new QCPGraph(levels_->axis(QCPAxis::atBottom), levels_->axis(QCPAxis::atRight));
        overlayGraphs_.push_back(graph);
        graph->setLineStyle(QCPGraph::lsNone);
        graph->setScatterStyle(shape);
        QVector<double> keys;
        QVector<double> values;
        for (const patterns::MarkedBar& mark : shown_->marks)
            if (std::ranges::find(marks, mark.mark) != marks.end()) {
                keys.append(static_cast<double>(mark.bar));
                values.append(isAbove ? bars.high[mark.bar] * 1.008 : bars.low[mark.bar] * 0.992);
            }
        graph->setData(keys, values, true);
    };
    using Shape = QCPScatterStyle;
    const Palette& colours = look();
    draw({patterns::Mark::GapUp}, Shape(Shape::ssTriangle, colours.rise, 6), false);
    draw({patterns::Mark::GapDown}, Shape(Shape::ssTriangleInverted, colours.fall, 6), true);
    draw({patterns::Mark::IslandTop, patterns::Mark::IslandBottom},
         Shape(Shape::ssStar, colours.caution, 8), true);
    draw({patterns::Mark::InsideDay}, Shape(Shape::ssSquare, colours.softInk, 4), true);
    draw({patterns::Mark::OutsideDay}, Shape(Shape::ssDiamond, colours.mark, 6), true);
}

void LineChart::drawDivergences()
{
    const std::size_t count = std::min(shown_->divergences.size(), drawnDivergences);
    for (std::size_t i = 0; i < count; ++i) {
        const auto& [pane, found] = shown_->divergences[i];
        const bool isWeak = found.kind == conditions::Divergence::Weakening;
        const QColor colour = isWeak ? look().fall : look().rise;
        const auto first = static_cast<double>(found.first);
        const auto second = static_cast<double>(found.second);
        addLine(levels_, first, shown_->close(found.first), second, shown_->close(found.second),
                colour, Qt::SolidLine);
        const double factor = factorOf(shown_->panes[pane]);
        addLine(panes_[pane].rect, first, found.firstValue * factor, second,
                found.secondValue * factor, colour, Qt::SolidLine);
        addText(levels_, second, shown_->close(found.second),
                isWeak ? QStringLiteral("▼") : QStringLiteral("▲"), colour,
                Qt::AlignHCenter | (isWeak ? Qt::AlignBottom : Qt::AlignTop));
    }
}

void LineChart::drawRetracement()
{
    if (retraced_.size() < 2)
        return;
    const auto [fromBar, from] = retraced_[0];
    const auto [toBar, to] = retraced_[1];
    addLine(levels_, static_cast<double>(fromBar), from, static_cast<double>(toBar), to,
            look().mark, Qt::DashLine);
    const auto last = static_cast<double>(shown_->bars - 1);
    for (const double share : patterns::retracementShares) {
        const double price = patterns::retracementPrice(from, to, share);
        addLine(levels_, static_cast<double>(std::min(fromBar, toBar)), price, last, price,
                look().mark, Qt::DotLine);
        addText(levels_, static_cast<double>(std::min(fromBar, toBar)), price,
                tr("%1  %2 ").arg(numberText(share, Unit::Percent, 1),
                                  numberText(price, Unit::Plain, 1)),
                look().mark, Qt::AlignRight | Qt::AlignVCenter);
    }
}

void LineChart::read(int session)
{
    if (shown_->bars == 0)
        return reading_->setText(shown_->line.market ? tr("no data by this day") : QString());
    const std::size_t at = session < 0
                               ? shown_->bars - 1
                               : std::min(static_cast<std::size_t>(session), shown_->bars - 1);
    titlePanes(at);
    const market::BarsView& bars = shown_->line.bars();
    QStringList parts;
    parts << QStringLiteral("<span style='font-weight:600'>%1</span>")
                 .arg(text(shown_->line.title).toHtmlEscaped())
          << shortDayText(bars.days[at]) << numberText(bars.close[at], Unit::Plain, 1);
    if (at > 0) {
        const double change = bars.close[at] / bars.close[at - 1] - 1.0;
        parts << coloured(signedText(change, Unit::Percent, 2),
                          change < 0.0 ? look().fall : look().rise);
    }
    for (const patterns::MarkedBar& mark : shown_->marks)
        if (mark.bar == at)
            parts << text(patterns::markName(mark.mark));
    reading_->setText(parts.join(QStringLiteral("&nbsp;&nbsp; ")));
    reading_->setToolTip(reading_->text());
}

QString LineChart::reading() const
{
    return reading_->text();
}

QString LineChart::retracementText() const
{
    return retracement_->isHidden() ? QString() : retracement_->text();
}

void LineChart::click(int bar, double value)
{
    if (!retrace_->isChecked() || shown_->bars == 0)
        return;
    if (retraced_.size() > 1)
        retraced_.clear();
    const auto at = static_cast<std::size_t>(bar);
    const market::BarsView& bars = shown_->line.bars();
    const std::size_t count = shown_->bars;
    const patterns::PricePoint point =
        patterns::pointNear(shown_->swings, bars.high.first(count), bars.low.first(count),
                            bars.close.first(count), at, value > bars.close[at]);
    if (!retraced_.empty() && retraced_[0].bar == point.bar)
        return;
    retraced_.push_back(point);
    drawOver();
    showRetracement();
}

void LineChart::proposeRetracement()
{
    const auto& swings = shown_->swings;
    retraced_.clear();
    if (swings.size() >= 2)
        for (std::size_t i = swings.size() - 2; i < swings.size(); ++i)
            retraced_.push_back({swings[i].bar, swings[i].price});
    drawOver();
    showRetracement();
    if (swings.size() < 2) {
        retracement_->setText(tr("The line has not yet made a swing of 5 %."));
        retracement_->show();
    }
}

void LineChart::clearRetracement()
{
    retraced_.clear();
    drawOver();
    showRetracement();
}

void LineChart::showRetracement()
{
    retracement_->setVisible(retrace_->isChecked() || !retraced_.empty());
    if (retraced_.size() < 2)
        return retracement_->setText(retraced_.empty() ? tr("Click near where the move began.")
                                                       : tr("Now click near where it ended."));
    const auto [fromBar, from] = retraced_[0];
    const auto [toBar, to] = retraced_[1];
    const market::BarsView& bars = shown_->line.bars();
    const std::size_t since = shown_->bars - std::min(toBar, shown_->bars);
    const double most = patterns::mostRetraced(from, to, bars.high.first(shown_->bars).last(since),
                                               bars.low.first(shown_->bars).last(since));
    retracement_->setText(
        tr("%1 from %2 to %3: %4 taken back now, %5 at most")
            .arg(from < to ? tr("Rise") : tr("Fall"), numberText(from, Unit::Plain, 1),
                 numberText(to, Unit::Plain, 1),
                 numberText(patterns::retraced(from, to, shown_->close(shown_->bars - 1)),
                            Unit::Percent, 0),
                 numberText(most, Unit::Percent, 0)));
}

void LineChart::goTo(const LineShown::Diverging& divergence)
{
    const auto first = static_cast<double>(divergence.found.first);
    const auto last = static_cast<double>(divergence.found.knownOn);
    plot_->showBars(std::max(0.0, first - 40.0),
                    std::min(static_cast<double>(shown_->bars) - 1.0, last + 40.0));
}

} // namespace sieve::app
