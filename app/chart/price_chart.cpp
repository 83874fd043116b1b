#include "app/chart/price_chart.h"

#include "app/chart/chart_view.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "core/base/missing.h"

#include <QEvent>
#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

PriceChart::PriceChart(QWidget* parent)
    : QWidget(parent), view_(new ChartView), reading_(new QLabel),
      nothing_(new QLabel(tr("Choose a stock to see its chart")))
{
    reading_->setTextFormat(Qt::RichText);
    reading_->setContentsMargins(8, 4, 8, 2);
    reading_->setMinimumHeight(fontMetrics().height() + 8);
    reading_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    reading_->setAccessibleName(tr("Figures of the bar under the pointer"));
    view_->setAccessibleName(tr("Price chart"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(reading_);
    layout->addWidget(view_, 1);
    layout->addWidget(nothing_, 1);
    nothing_->setAlignment(Qt::AlignCenter);
    setTone(nothing_, Tone::Soft);
    view_->hide();
    connect(view_, &ChartView::pointed, this, &PriceChart::read);
    style();
}

void PriceChart::style()
{
    const Palette& colours = look();
    QPalette ground = reading_->palette();
    ground.setColor(QPalette::Window, colours.wash(colours.mark, isMarked_ ? 0.2 : 0.0));
    reading_->setPalette(ground);
    reading_->setAutoFillBackground(isMarked_);
    read(-1);
}

void PriceChart::changeEvent(QEvent* event)
{
    QWidget::changeEvent(event);
    if (event->type() == QEvent::PaletteChange)
        style();
}

void PriceChart::setChart(std::shared_ptr<const charts::Chart> chart)
{
    nothing_->setText(
        chart->symbol.empty() ? tr("Choose a stock to see its chart")
        : chart->isOfMinutes()
            ? tr("The market has no minutes of %1 by this day. Shift+D shows its days.")
                  .arg(text(chart->symbol))
            : tr("%1 has no prices by this day").arg(text(chart->symbol)));
    nothing_->setVisible(chart->size() == 0);
    view_->setVisible(chart->size() > 0);
    view_->setChart(std::move(chart));
    read(-1);
}

void PriceChart::setShownBars(int bars)
{
    view_->setShownBars(bars);
}

void PriceChart::setCompact(bool isCompact)
{
    isCompact_ = isCompact;
    reading_->setContentsMargins(6, 2, 6, 1);
    reading_->setMinimumHeight(fontMetrics().height() + 6);
    view_->setCompact(isCompact);
    read(-1);
}

void PriceChart::setMarked(bool isMarked)
{
    isMarked_ = isMarked;
    style();
}

void PriceChart::setNote(const QString& note)
{
    note_ = note;
    read(-1);
}

QString PriceChart::reading() const
{
    return reading_->text();
}

void PriceChart::read(int bar)
{
    const charts::Chart& chart = view_->chart();
    const market::Bars& bars = *chart.bars;
    if (bars.size() == 0)
        return reading_->clear();
    const std::size_t at =
        bar < 0 ? bars.size() - 1 : std::min(static_cast<std::size_t>(bar), bars.size() - 1);
    const Palette& colours = look();
    const double before = at == 0 ? missing : bars.close[at - 1];
    const double change = bars.close[at] / before - 1.0;
    const QString move =
        coloured(signedText(change, Unit::Percent, 1), change < 0.0 ? colours.fall : colours.rise);
    const auto price = [](double figure) { return numberText(figure, Unit::Money, 2); };
    const QString moment =
        chart.isOfMinutes() ? view_->drawnPicture().momentText(at) : dayText(bars.days[at]);
    QStringList parts{QStringLiteral("<span style='font-weight:600'>%1</span>")
                          .arg(text(chart.symbol).toHtmlEscaped())};
    if (isCompact_) {
        parts << price(bars.close[at]) << move;
        if (!note_.isEmpty())
            parts << coloured(note_, colours.mark);
        if (bar >= 0)
            parts << view_->drawnPicture().momentText(at);
    } else {
        parts << moment << tr("open %1").arg(price(bars.open[at]))
              << tr("high %1").arg(price(bars.high[at])) << tr("low %1").arg(price(bars.low[at]))
              << tr("close %1").arg(price(bars.close[at])) << move;
        if (!chart.otherCurrency.empty())
            parts << tr("in %1").arg(text(chart.otherCurrency).toHtmlEscaped());
    }
    reading_->setText(parts.join(QStringLiteral("&nbsp;&nbsp; ")));
}

} // namespace sieve::app
