#include "app/market/composite_chart.h"

#include "app/chart/time_plot.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/base/missing.h"

#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

QCPGraph* addGraph(QCPAxisRect* pane)
{
    return new QCPGraph(pane->axis(QCPAxis::atBottom), pane->axis(QCPAxis::atRight));
}

QString coloured(const QString& text, const QColor& colour)
{
    return QStringLiteral("<span style='color:%1'>%2</span>")
        .arg(colour.name(), text.toHtmlEscaped());
}

} // namespace

CompositeChart::CompositeChart(QWidget* parent)
    : QWidget(parent), plot_(new TimePlot), reading_(new QLabel), levels_(plot_->addPane(0.64)),
      shares_(plot_->addPane(0.36)), equal_(addGraph(levels_)), capitalization_(addGraph(levels_)),
      above200_(addGraph(shares_)), above50_(addGraph(shares_)), half_(addGraph(shares_))
{
    setObjectName(QStringLiteral("sheet"));
    setAttribute(Qt::WA_StyledBackground);
    plot_->setAccessibleName(tr("Composites and breadth"));
    reading_->setTextFormat(Qt::RichText);
    reading_->setContentsMargins(12, 6, 8, 2);
    reading_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    reading_->setMinimumHeight(fontMetrics().height() + 10);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(1, 1, 1, 1);
    layout->setSpacing(0);
    layout->addWidget(reading_);
    layout->addWidget(plot_, 1);
    plot_->setExtent(levels_, [this](int first, int last) {
        QCPRange range(missing, missing);
        for (const conditions::Line& line : data_->lines)
            for (int at = first; at <= last; ++at) {
                const double level = line.composite.levels[static_cast<std::size_t>(at)];
                range.lower = isMissing(range.lower) ? level : std::min(range.lower, level);
                range.upper = isMissing(range.upper) ? level : std::max(range.upper, level);
            }
        return range;
    });
    plot_->setExtent(shares_, [](int, int) { return QCPRange(0.0, 100.0); });
    plot_->restyle = [this] { style(); };
    connect(plot_, &TimePlot::pointed, this, &CompositeChart::read);
    style();
}

void CompositeChart::style()
{
    const Palette& colours = look();
    equal_->setPen(QPen(colours.mark, 1.6));
    capitalization_->setPen(QPen(colours.softInk, 1.2));
    above200_->setPen(QPen(colours.mark, 1.4));
    QColor wash = colours.mark;
    wash.setAlphaF(0.12F);
    above200_->setBrush(wash);
    above50_->setPen(QPen(colours.caution, 1.0));
    half_->setPen(QPen(colours.rule, 1.0, Qt::DashLine));
    read(-1);
}

void CompositeChart::setReading(std::shared_ptr<const conditions::Reading> reading)
{
    data_ = std::move(reading);
}

void CompositeChart::setSession(std::size_t session)
{
    if (!data_)
        return;
    session_ = session;
    const auto count = static_cast<qsizetype>(session + 1);
    QVector<double> keys(count);
    for (qsizetype i = 0; i < count; ++i)
        keys[i] = static_cast<double>(i);
    const auto show = [&](QCPGraph* graph, const std::vector<double>& values, double factor) {
        QVector<double> shown(values.begin(), values.begin() + count);
        for (double& value : shown)
            value *= factor;
        graph->setData(keys, shown, true);
    };
    show(equal_, data_->lines.at(0).composite.levels, 1.0);
    show(capitalization_, data_->lines.at(1).composite.levels, 1.0);
    show(above200_, data_->breadth.at(0).shares, 100.0);
    show(above50_, data_->breadth.at(1).shares, 100.0);
    half_->setData({0.0, static_cast<double>(session)}, {50.0, 50.0});
    plot_->setDays({data_->sessions.begin(), data_->sessions.begin() + count}, 500);
    read(-1);
}

void CompositeChart::read(int session)
{
    if (!data_)
        return;
    const std::size_t at =
        session < 0 ? session_ : std::min(static_cast<std::size_t>(session), session_);
    const Palette& colours = look();
    QStringList parts{shortDayText(data_->sessions[at])};
    parts << coloured(tr("equal %1")
                          .arg(numberText(data_->lines[0].composite.levels[at], Unit::Plain, 1)),
                      colours.mark)
          << coloured(tr("by size %1")
                          .arg(numberText(data_->lines[1].composite.levels[at], Unit::Plain, 1)),
                      colours.softInk)
          << coloured(tr("above 200-day %1")
                          .arg(numberText(data_->breadth[0].shares[at], Unit::Percent, 0)),
                      colours.mark)
          << coloured(tr("above 50-day %1")
                          .arg(numberText(data_->breadth[1].shares[at], Unit::Percent, 0)),
                      colours.caution);
    reading_->setText(parts.join(QStringLiteral("&nbsp;&nbsp; ")));
}

} // namespace sieve::app
