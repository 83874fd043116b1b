#include "app/chart/price_chart.h"

#include "app/chart/time_plot.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "core/base/missing.h"

#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

/// The least of `low` and the most of `high` over bars [first, last].
QCPRange extentOf(const std::vector<double>& low, const std::vector<double>& high, int first,
                  int last)
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

} // namespace

PriceChart::PriceChart(QWidget* parent)
    : QWidget(parent), plot_(new TimePlot), reading_(new QLabel),
      nothing_(new QLabel(tr("Choose a stock to see its chart"))), prices_(plot_->addPane(0.78)),
      volumes_(plot_->addPane(0.22, true)),
      candles_(new QCPFinancial(prices_->axis(QCPAxis::atBottom), prices_->axis(QCPAxis::atRight))),
      volumeBars_(new QCPBars(volumes_->axis(QCPAxis::atBottom), volumes_->axis(QCPAxis::atRight)))
{
    reading_->setTextFormat(Qt::RichText);
    reading_->setContentsMargins(8, 4, 8, 2);
    reading_->setMinimumHeight(2 * fontMetrics().height() + 12);
    reading_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    reading_->setAccessibleName(tr("Figures of the bar under the pointer"));
    plot_->setAccessibleName(tr("Price chart"));
    volumes_->axis(QCPAxis::atRight)->setTickLabels(false);
    candles_->setChartStyle(QCPFinancial::csCandlestick);
    candles_->setTwoColored(true);
    candles_->setWidth(0.68);
    volumeBars_->setWidth(0.68);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(reading_);
    layout->addWidget(plot_, 1);
    layout->addWidget(nothing_, 1);
    nothing_->setAlignment(Qt::AlignCenter);
    setTone(nothing_, Tone::Soft);
    plot_->hide();
    plot_->setExtent(prices_, [this](int first, int last) {
        return extentOf(data_->bars.low, data_->bars.high, first, last);
    });
    plot_->setExtent(volumes_, [this](int first, int last) {
        return extentOf(data_->bars.volume, data_->bars.volume, first, last);
    });
    plot_->restyle = [this] { style(); };
    plot_->figuresOfBars = [this] {
        const market::Bars& bars = data_->bars;
        return std::vector<TimePlot::Figures>{{tr("Open"), bars.open},
                                              {tr("High"), bars.high},
                                              {tr("Low"), bars.low},
                                              {tr("Close"), bars.close},
                                              {tr("Volume"), bars.volume}};
    };
    connect(plot_, &TimePlot::pointed, this, &PriceChart::read);
    style();
}

QColor PriceChart::lineColour(std::size_t line) const
{
    const Palette& colours = look();
    const QColor wheel[] = {colours.mark, colours.caution, colours.softInk, colours.fall};
    return wheel[line % 4];
}

void PriceChart::style()
{
    const Palette& colours = look();
    candles_->setPenPositive(QPen(colours.rise, 1.0));
    candles_->setBrushPositive(colours.sheet);
    candles_->setPenNegative(QPen(colours.fall, 1.0));
    candles_->setBrushNegative(colours.fall);
    volumeBars_->setPen(Qt::NoPen);
    volumeBars_->setBrush(colours.wash(colours.softInk, 0.45));
    for (std::size_t i = 0; i < lines_.size(); ++i)
        lines_[i]->setPen(QPen(lineColour(i), 1.3));
    QPalette ground = reading_->palette();
    ground.setColor(QPalette::Window, colours.wash(colours.mark, isMarked_ ? 0.2 : 0.0));
    reading_->setPalette(ground);
    reading_->setAutoFillBackground(isMarked_);
    read(-1);
}

void PriceChart::setData(std::shared_ptr<const PriceChartData> shown)
{
    data_ = std::move(shown);
    const market::Bars& bars = data_->bars;
    nothing_->setText(data_->title.isEmpty()
                          ? tr("Choose a stock to see its chart")
                          : tr("%1 has no prices by this day").arg(data_->title));
    nothing_->setVisible(bars.size() == 0);
    plot_->setVisible(bars.size() > 0);
    QVector<QCPFinancialData> candles;
    QVector<double> keys;
    for (std::size_t bar = 0; bar < bars.size(); ++bar) {
        const auto key = static_cast<double>(bar);
        keys.append(key);
        candles.append({key, bars.open[bar], bars.high[bar], bars.low[bar], bars.close[bar]});
    }
    candles_->data()->set(candles, true);
    volumeBars_->setData(keys, QVector<double>(bars.volume.begin(), bars.volume.end()), true);
    for (QCPGraph* line : lines_)
        plot_->removePlottable(line);
    lines_.clear();
    for (const PriceChartData::Line& line : data_->lines) {
        auto* graph =
            new QCPGraph(prices_->axis(QCPAxis::atBottom), prices_->axis(QCPAxis::atRight));
        graph->setName(line.title);
        graph->setData(keys, QVector<double>(line.values.begin(), line.values.end()), true);
        lines_.push_back(graph);
    }
    style();
    plot_->setDays(bars.days, shownBars_);
}

void PriceChart::setShownBars(int bars)
{
    shownBars_ = bars;
}

void PriceChart::setCompact(bool isCompact)
{
    isCompact_ = isCompact;
    reading_->setContentsMargins(6, 2, 6, 1);
    reading_->setMinimumHeight((isCompact ? 1 : 2) * fontMetrics().height() + 6);
    read(-1);
}

void PriceChart::setMarked(bool isMarked)
{
    isMarked_ = isMarked;
    style();
}

QString PriceChart::reading() const
{
    return reading_->text();
}

void PriceChart::read(int bar)
{
    const market::Bars& bars = data_->bars;
    if (bars.size() == 0)
        return reading_->clear();
    const std::size_t at =
        bar < 0 ? bars.size() - 1 : std::min(static_cast<std::size_t>(bar), bars.size() - 1);
    const Palette& colours = look();
    const double change = at == 0 ? missing : bars.close[at] / bars.close[at - 1] - 1.0;
    const QString gap = QStringLiteral("&nbsp;&nbsp; ");
    QStringList parts;
    if (isCompact_) {
        parts << QStringLiteral("<span style='font-weight:600'>%1</span>")
                     .arg(data_->title.toHtmlEscaped())
              << numberText(bars.close[at], Unit::Money, 2)
              << coloured(signedText(change, Unit::Percent, 1),
                          change < 0.0 ? colours.fall : colours.rise);
        if (bar >= 0)
            parts << shortDayText(bars.days[at]);
        return reading_->setText(parts.join(gap));
    }
    parts << QStringLiteral("<span style='font-weight:600'>%1</span>")
                 .arg(data_->title.toHtmlEscaped())
          << dayText(bars.days[at]) << tr("open %1").arg(numberText(bars.open[at], Unit::Money, 2))
          << tr("high %1").arg(numberText(bars.high[at], Unit::Money, 2))
          << tr("low %1").arg(numberText(bars.low[at], Unit::Money, 2))
          << tr("close %1").arg(numberText(bars.close[at], Unit::Money, 2))
          << coloured(signedText(change, Unit::Percent, 1),
                      change < 0.0 ? colours.fall : colours.rise);
    QStringList lines{tr("volume %1").arg(numberText(bars.volume[at], Unit::Shares, 0))};
    for (std::size_t i = 0; i < data_->lines.size(); ++i)
        lines << coloured(data_->lines[i].title + QLatin1Char(' ') +
                              numberText(data_->lines[i].values[at], Unit::Money, 2),
                          lineColour(i));
    reading_->setText(parts.join(gap) + QStringLiteral("<br>") + lines.join(gap));
}

} // namespace sieve::app
