#include "app/market/line_chart.h"

#include "app/chart/chart_view.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr int shownBars = 375;

} // namespace

LineChart::LineChart(QWidget* parent)
    : QWidget(parent), view_(new ChartView), reading_(new QLabel), retracement_(new QLabel),
      retrace_(new QToolButton), lastSwing_(new QToolButton)
{
    setObjectName(QStringLiteral("sheet"));
    setAttribute(Qt::WA_StyledBackground);
    view_->setAccessibleName(tr("Line and breadth"));
    view_->setShownBars(shownBars);
    view_->keepContent();
    remember(view_, "market.chart_scale");
    reading_->setTextFormat(Qt::RichText);
    reading_->setContentsMargins(12, 2, 8, 2);
    reading_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    reading_->setMinimumHeight(fontMetrics().height() + 6);
    reading_->setAccessibleName(tr("Figures of the session under the pointer"));
    retracement_->setContentsMargins(12, 0, 8, 2);
    retracement_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    retracement_->setAccessibleName(tr("Retracement"));
    retracement_->hide();
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
                                "market.overlay2", &charts::LineParts::hasDivergences));
    tools->addWidget(addOverlay(tr("Swings"),
                                tr("Turning points after which the line reversed by 5 %, the "
                                   "newest nine counted"),
                                "market.overlay0", &charts::LineParts::hasSwings));
    marksButton_ = addOverlay(tr("Gaps and days"), tr("Gaps, islands, inside and outside days"),
                              "market.overlay1", &charts::LineParts::hasBarMarks);
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
    layout->addWidget(view_, 1);
    connect(view_, &ChartView::pointed, this, &LineChart::read);
    connect(view_, &ChartView::clicked, this, [this](int bar, int pane, double value) {
        if (pane == 0)
            click(bar, value);
    });
    connect(view_, &ChartView::setUpChanged, this, [this](bool needsFigures) {
        if (needsFigures)
            draw();
    });
    connect(panes, &QToolButton::clicked, this, &LineChart::panesWanted);
    connect(lastSwing_, &QToolButton::clicked, this, &LineChart::proposeRetracement);
    connect(retrace_, &QToolButton::toggled, this, [this](bool isOn) {
        if (!isOn || retraced_.size() > 1)
            clearRetracement();
        showRetracement();
    });
}

QToolButton* LineChart::addOverlay(const QString& name, const QString& tip, const char* key,
                                   bool charts::LineParts::*part)
{
    auto* button = new QToolButton;
    button->setText(name);
    button->setToolTip(tip);
    button->setCheckable(true);
    button->setChecked(parts_.*part);
    remember(button, key);
    connect(button, &QToolButton::toggled, this, [this, part](bool isOn) {
        parts_.*part = isOn;
        draw();
    });
    return button;
}

void LineChart::changeEvent(QEvent* event)
{
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange)
        read(-1);
}

void LineChart::show(std::shared_ptr<const LineShown> shown)
{
    if (shown_->line.title != shown->line.title)
        retraced_.clear();
    shown_ = std::move(shown);
    drafts_ = {};
    marksButton_->setEnabled(shown_->line.hasRange);
    marksButton_->setToolTip(shown_->line.hasRange
                                 ? tr("Gaps, islands, inside and outside days")
                                 : tr("A composite has closes only, so it has no gaps, inside or "
                                      "outside days; an index has"));
    draw();
    showRetracement();
}

void LineChart::setDraft(std::size_t horizon, std::shared_ptr<const conditions::TrendReading> draft)
{
    drafts_ = {};
    drafts_.at(horizon) = std::move(draft);
    draw();
}

/// Gives the view its chart as it is to be now.
void LineChart::draw()
{
    if (!shown_->line.market)
        return;
    charts::LineParts parts = parts_;
    for (std::size_t i = 0; i < drafts_.size(); ++i)
        parts.drafts[i] = drafts_[i] ? &drafts_[i]->history : nullptr;
    if (retraced_.size() == 2)
        parts.retraced = retraced_;
    charts::SetUp looks = view_->setUp();
    looks.name = shown_->line.title;
    auto chart = std::make_shared<const charts::Chart>(charts::chartOfLine(*shown_, looks, parts));
    if (looks.panes.size() != chart->panes.size()) { // else their heights are the person's
        looks.panes.clear();
        for (const charts::Pane& pane : chart->panes)
            looks.panes.push_back({pane.height, pane.beginsAtZero, {}});
    }
    view_->setSetUp(std::move(looks));
    view_->setChart(std::move(chart));
    read(-1);
}

void LineChart::read(int bar)
{
    const market::Bars& bars = *view_->chart().bars;
    if (bars.size() == 0)
        return reading_->setText(shown_->line.market ? tr("no data by this day") : QString());
    const std::size_t at =
        bar < 0 ? bars.size() - 1 : std::min(static_cast<std::size_t>(bar), bars.size() - 1);
    QStringList parts;
    parts << QStringLiteral("<span style='font-weight:600'>%1</span>")
                 .arg(text(shown_->line.title).toHtmlEscaped())
          << shortDayText(bars.days[at]) << numberText(bars.close[at], Unit::Plain, 1);
    if (at > 0) {
        const double change = bars.close[at] / bars.close[at - 1] - 1.0;
        parts << coloured(signedText(change, Unit::Percent, 2),
                          change < 0.0 ? look().fall : look().rise);
    }
    for (const charts::Mark& mark : view_->chart().marks)
        if (mark.bar == at)
            parts << text(mark.text).toHtmlEscaped();
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
    // The last day of the bar; of a week it may be ahead of what is known.
    const std::size_t count = shown_->bars;
    const auto at =
        std::min(static_cast<std::size_t>(std::max(view_->chart().places.onDays(bar + 0.49), 0.0)),
                 count - 1);
    const market::BarsView& bars = shown_->line.bars();
    const patterns::PricePoint point =
        patterns::pointNear(shown_->swings, bars.high.first(count), bars.low.first(count),
                            bars.close.first(count), at, value > bars.close[at]);
    if (!retraced_.empty() && retraced_[0].bar == point.bar)
        return;
    retraced_.push_back(point);
    draw();
    showRetracement();
}

void LineChart::proposeRetracement()
{
    const auto& swings = shown_->swings;
    retraced_.clear();
    if (swings.size() >= 2)
        for (std::size_t i = swings.size() - 2; i < swings.size(); ++i)
            retraced_.push_back({swings[i].bar, swings[i].price});
    draw();
    showRetracement();
    if (swings.size() < 2) {
        retracement_->setText(tr("The line has not yet made a swing of 5 %."));
        retracement_->show();
    }
}

void LineChart::clearRetracement()
{
    retraced_.clear();
    draw();
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
    const charts::BarPlaces& places = view_->chart().places;
    if (places.empty())
        return;
    const auto place = [&](std::size_t day, double sessions) {
        return places.onScale(static_cast<double>(day) + sessions);
    };
    constexpr double around = 40.0;
    view_->showBars(place(divergence.found.first, -around),
                    place(divergence.found.knownOn, around));
}

} // namespace sieve::app
