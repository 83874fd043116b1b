#include "app/wall/wall_pages.h"

#include "app/chart/chart_picture.h"
#include "app/chart/drawing_picture.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/drawings/stock.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <QPainter>
#include <QPdfWriter>
#include <QSaveFile>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr double pageWidth = 1000.0; // so wide as on a screen, whatever the page's resolution
constexpr double between = 10.0;

QString tr(const char* words)
{
    return QCoreApplication::translate("WallPages", words);
}

/// One chart under its symbol, close and change.
void paintChart(QPainter& painter, std::shared_ptr<const charts::Chart> chart,
                const std::vector<drawings::Drawing>& drawn, int sessions, const QRectF& area,
                const Palette& colours)
{
    painter.setFont(fontOf(Weight::SemiBold));
    const double line = QFontMetricsF(painter.font()).height() * 1.3;
    painter.setPen(colours.ink);
    const QRectF head(area.left(), area.top(), area.width(), line);
    const std::vector<double>& closes = chart->bars->close;
    if (closes.empty()) {
        painter.drawText(head, Qt::AlignLeft | Qt::AlignVCenter,
                         tr("%1: no prices by this day").arg(text(chart->symbol)));
        return;
    }
    const double before = closes.size() > 1 ? closes[closes.size() - 2] : missing;
    painter.drawText(head, Qt::AlignLeft | Qt::AlignVCenter,
                     QStringLiteral("%1   %2   %3")
                         .arg(text(chart->symbol), numberText(closes.back(), Unit::Money, 2),
                              signedText(closes.back() / before - 1.0, Unit::Percent, 1)));
    ChartPicture picture;
    charts::Viewport viewport(chart->size());
    viewport.showNewest(sessions / chart->places.sessionsEach());
    picture.setForm(chart->setUp.form);
    picture.setValueScale(chart->setUp.values);
    picture.setDetail(ChartPicture::Detail::Compact);
    picture.setFont(fontOf(Weight::Regular, 0.86));
    picture.setChart(std::move(chart));
    picture.layOut(area.adjusted(0.0, line, 0.0, 0.0), viewport);
    picture.paint(painter, colours);
    std::vector<QRectF> taken;
    for (const drawings::Drawing& drawing : drawn)
        if (!drawing.isHidden)
            DrawingPicture::of(drawing, picture, fontOf(Weight::Medium, 0.86))
                .paint(painter, colours, taken);
}

} // namespace

int writePages(const QString& file, const WallPages& pages, engine::Evaluator& evaluator,
               const language::Names& names, const Progress& progress)
{
    QSaveFile out(file);
    if (!out.open(QIODevice::WriteOnly))
        return 0;
    int written = 0;
    {
        QPdfWriter writer(&out);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageOrientation(QPageLayout::Landscape);
        writer.setTitle(pages.title);
        const Palette colours = paperPalette();
        QPainter painter(&writer);
        if (!painter.isActive())
            return 0;
        painter.scale(writer.width() / pageWidth, writer.width() / pageWidth);
        const double height = writer.height() * pageWidth / writer.width();
        const auto aPage = static_cast<std::size_t>(pages.side * pages.side);
        const std::size_t count = (pages.stocks.size() + aPage - 1) / aPage;
        for (std::size_t first = 0; first < pages.stocks.size(); first += aPage, ++written) {
            if (progress.stopRequested())
                throw Stopped{};
            progress.report(static_cast<double>(written) / static_cast<double>(count),
                            "Pages of charts");
            if (written > 0)
                writer.newPage();
            painter.setPen(colours.softInk);
            painter.setFont(fontOf(Weight::Regular));
            const double line = QFontMetricsF(painter.font()).height() * 1.6;
            const QRectF head(0.0, 0.0, pageWidth, line);
            painter.drawText(head, Qt::AlignLeft | Qt::AlignVCenter, pages.title);
            painter.drawText(
                head, Qt::AlignRight | Qt::AlignVCenter,
                tr("%1, page %2 of %3").arg(dayText(pages.day)).arg(written + 1).arg(count));
            const auto some = std::span(pages.stocks)
                                  .subspan(first, std::min(aPage, pages.stocks.size() - first));
            auto made = charts::makeCharts(evaluator, names, pages.setUp, some, pages.day, progress,
                                           pages.lists);
            const double wide = (pageWidth + between) / pages.side - between;
            const double high = (height - line + between) / pages.side - between;
            for (std::size_t i = 0; i < made.size(); ++i) {
                const auto column = static_cast<double>(i % static_cast<std::size_t>(pages.side));
                const auto row = static_cast<double>(i / static_cast<std::size_t>(pages.side));
                charts::markDays(made[i], some[i], pages.marked);
                paintChart(
                    painter, std::make_shared<const charts::Chart>(std::move(made[i])),
                    drawings::drawingsOn(*pages.drawings, evaluator.market(), some[i], pages.day),
                    pages.sessions,
                    QRectF(column * (wide + between), line + row * (high + between), wide, high),
                    colours);
            }
        }
        painter.end();
    }
    return out.commit() ? written : 0;
}

} // namespace sieve::app
