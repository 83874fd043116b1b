#include "app/weigh/stock_pages.h"

#include "app/chart/chart_picture.h"
#include "app/chart/drawing_picture.h"
#include "app/chart/plan_gauge.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "app/weigh/choices.h"
#include "app/weigh/dossier_picture.h"
#include "core/dossier/printed.h"
#include "core/drawings/stock.h"
#include "core/market/as_of.h"
#include "core/watchlists/stocks.h"

#include <QCoreApplication>
#include <QFontMetricsF>
#include <QPainter>
#include <QPdfWriter>
#include <QSaveFile>
#include <QStringList>
#include <algorithm>
#include <numeric>

namespace sieve::app {

namespace {

constexpr double sheetWidth = 920.0; // so wide as on a screen, whatever the page's resolution
constexpr double gutter = 12.0;
constexpr double leastScale = 0.55; ///< of the columns: below it nobody reads
constexpr double mostScale = 0.84;  ///< above it names do not find room

/// What the page of one stock is made of.
struct StockPage {
    std::size_t stock = 0;
    dossier::Choices choices;
    QStringList words; ///< the person's own: reasons, with where they were given
};

StockPage pageOf(std::size_t stock, const StockPages& pages, const market::Market& market);

/// What stands over the page of one stock, and in the contents.
struct Heading {
    QString symbol;
    QString name;
    double close = missing;
    double change = missing; ///< from the bar before
};

/// What the page of one stock shows.
struct Shown {
    std::shared_ptr<const charts::Chart> chart;
    dossier::Dossier dossier;
};

/// Paints page after page of one booklet.
class PagePainter {
    Q_DECLARE_TR_FUNCTIONS(StockPages)
public:
    PagePainter(QPdfWriter& writer, const StockPages& pages)
        : writer_(writer), pages_(pages), market_(pages.evaluator->marketPtr()),
          colours_(paperPalette()), painter_(&writer)
    {
        if (!painter_.isActive())
            return;
        const double scale = writer.width() / sheetWidth;
        painter_.scale(scale, scale);
        height_ = writer.height() / scale;
    }

    bool isReady() const { return painter_.isActive(); }
    void end() { painter_.end(); }
    int written() const { return written_; }

    void contents(const std::vector<Heading>& all, const std::vector<StockPage>& pages);
    void page(const Heading& heading, const Shown& shown, const StockPage& of);

private:
    void begin();
    void text(const QRectF& place, Qt::Alignment alignment, const QFont& font, const QColor& colour,
              const QString& words);
    double head(const Heading& heading, const Shown& shown);
    void chart(const Shown& shown, const StockPage& of, const QRectF& area);
    void columns(const Shown& shown, const QRectF& area);
    void foot();

    QPdfWriter& writer_;
    const StockPages& pages_;
    market::MarketPtr market_;
    Palette colours_;
    QPainter painter_;
    double height_ = 0.0;
    int written_ = 0;
};

void PagePainter::begin()
{
    if (written_++ > 0)
        writer_.newPage();
}

void PagePainter::text(const QRectF& place, Qt::Alignment alignment, const QFont& font,
                       const QColor& colour, const QString& words)
{
    painter_.setFont(font);
    painter_.setPen(colour);
    painter_.drawText(place, static_cast<int>(alignment | Qt::AlignVCenter),
                      QFontMetricsF(font).elidedText(words, Qt::ElideRight, place.width()));
}

void PagePainter::foot()
{
    const QRectF place(0.0, height_ - 18.0, sheetWidth, 18.0);
    painter_.fillRect(QRectF(0.0, place.top() - 4.0, sheetWidth, 0.8), colours_.rule);
    const QFont font = fontOf(Weight::Regular, 0.8);
    const QString about = pages_.title.isEmpty() ? tr("Wise Sieve") : pages_.title;
    text(place, Qt::AlignLeft, font, colours_.softInk,
         tr("%1 · as known on %2").arg(about, dayText(pages_.day)));
    if (!pages_.title.isEmpty())
        text(place, Qt::AlignRight, font, colours_.softInk, QString::number(written_));
}

/// The stocks with their page, close, change, and what the person said of each.
void PagePainter::contents(const std::vector<Heading>& all, const std::vector<StockPage>& pages)
{
    constexpr double line = 24.0;
    constexpr double top = 150.0;
    const auto aPage = static_cast<std::size_t>((height_ - top - 40.0) / line);
    const std::size_t own = (all.size() + aPage - 1) / aPage; // pages of contents
    for (std::size_t first = 0; first < all.size(); first += aPage) {
        begin();
        text({0.0, 40.0, sheetWidth, 44.0}, Qt::AlignLeft, fontOf(Weight::SemiBold, 2.2),
             colours_.ink, pages_.title);
        text({0.0, 86.0, sheetWidth, 24.0}, Qt::AlignLeft, fontOf(Weight::Regular, 1.1),
             colours_.softInk,
             tr("%1 stocks, as known on %2").arg(all.size()).arg(dayText(pages_.day)));
        painter_.fillRect(QRectF(0.0, top - 16.0, sheetWidth, 1.6), colours_.mark);
        for (std::size_t i = first; i < std::min(first + aPage, all.size()); ++i) {
            const double y = top + line * static_cast<double>(i - first);
            const Heading& of = all[i];
            text({0.0, y, 80.0, line}, Qt::AlignLeft, fontOf(Weight::SemiBold), colours_.ink,
                 of.symbol);
            text({84.0, y, 220.0, line}, Qt::AlignLeft, fontOf(Weight::Regular), colours_.ink,
                 of.name);
            text({308.0, y, 80.0, line}, Qt::AlignRight, fontOf(Weight::Regular), colours_.ink,
                 numberText(of.close, Unit::Money, 2));
            text({392.0, y, 66.0, line}, Qt::AlignRight, fontOf(Weight::Regular),
                 of.change < 0.0 ? colours_.fall : colours_.rise,
                 signedText(of.change, Unit::Percent, 1));
            text({478.0, y, sheetWidth - 520.0, line}, Qt::AlignLeft, fontOf(Weight::Regular, 0.92),
                 colours_.softInk, pages[i].words.value(0));
            text({sheetWidth - 40.0, y, 40.0, line}, Qt::AlignRight, fontOf(Weight::Regular),
                 colours_.softInk, QString::number(own + i + 1));
            painter_.fillRect(QRectF(0.0, y + line - 1.0, sheetWidth, 0.5), colours_.rule);
        }
        foot();
    }
}

double PagePainter::head(const Heading& heading, const Shown& shown)
{
    const market::Instrument& instrument = market_->instrument(shown.dossier.stock);
    text({0.0, 0.0, 260.0, 34.0}, Qt::AlignLeft, fontOf(Weight::SemiBold, 2.0), colours_.ink,
         heading.symbol);
    text({0.0, 34.0, 560.0, 22.0}, Qt::AlignLeft, fontOf(Weight::Medium, 1.15), colours_.ink,
         heading.name);
    QStringList group;
    for (const std::string& part :
         {instrument.exchange, instrument.sector, instrument.industry, shown.dossier.currency})
        if (!part.empty())
            group << app::text(part);
    text({0.0, 56.0, 700.0, 18.0}, Qt::AlignLeft, fontOf(Weight::Regular, 0.92), colours_.softInk,
         group.join(QStringLiteral(" · ")));
    text({sheetWidth - 300.0, 0.0, 300.0, 34.0}, Qt::AlignRight, fontOf(Weight::SemiBold, 1.7),
         colours_.ink, numberText(heading.close, Unit::Money, 2));
    text({sheetWidth - 300.0, 34.0, 300.0, 22.0}, Qt::AlignRight, fontOf(Weight::Medium, 1.05),
         heading.change < 0.0 ? colours_.fall : colours_.rise,
         isMissing(heading.change)
             ? QString()
             : tr("%1 on the day").arg(signedText(heading.change, Unit::Percent, 1)));
    text({sheetWidth - 300.0, 56.0, 300.0, 18.0}, Qt::AlignRight, fontOf(Weight::Regular, 0.92),
         colours_.softInk, dayText(pages_.day));
    painter_.fillRect(QRectF(0.0, 80.0, sheetWidth, 1.6), colours_.mark);
    return 90.0;
}

void PagePainter::chart(const Shown& shown, const StockPage& of, const QRectF& area)
{
    if (shown.chart->size() == 0)
        return text(area, Qt::AlignHCenter, fontOf(Weight::Regular), colours_.softInk,
                    tr("It has not traded by this day."));
    const QFont small = fontOf(Weight::Medium, 0.86);
    const double line = QFontMetricsF(small).height();
    double x = area.left();
    painter_.setFont(small);
    for (const charts::Layer& layer : shown.chart->panes.front().layers) { // what the lines are
        const QString title = app::text(layer.title);
        painter_.setPen(ChartPicture::colourOf(layer.setUp.colour, colours_));
        painter_.drawText(QPointF(x, area.top() + line - 4.0), title);
        x += QFontMetricsF(small).horizontalAdvance(title) + 14.0;
    }
    ChartPicture picture;
    charts::Viewport viewport(shown.chart->size());
    viewport.showNewest(pages_.sessions / shown.chart->places.sessionsEach());
    picture.setForm(shown.chart->setUp.form);
    picture.setValueScale(shown.chart->setUp.values);
    picture.setDetail(ChartPicture::Detail::Compact);
    picture.setFont(fontOf(Weight::Regular, 0.86));
    picture.setChart(shown.chart);
    PlanGauge gauge;
    gauge.setPlan(of.choices.planned, of.choices.plan);
    picture.setWanted(gauge.prices());
    picture.layOut(area.adjusted(0.0, line, 0.0, 0.0), viewport);
    picture.paint(painter_, colours_);
    std::vector<QRectF> taken;
    for (const drawings::Drawing& drawing :
         drawings::drawingsOn(*pages_.work.drawings, *market_, shown.dossier.stock, pages_.day))
        if (!drawing.isHidden)
            DrawingPicture::of(drawing, picture, small).paint(painter_, colours_, taken);
    gauge.paint(painter_, picture, colours_, small);
}

/// Where the parts go on in the next column, so that the highest column is as low as can be; the
/// last place is the end.
std::vector<std::size_t> splitOf(const std::vector<int>& heights)
{
    const std::size_t count = heights.size();
    const auto heightOf = [&](std::size_t from, std::size_t to) {
        return std::accumulate(heights.begin() + static_cast<std::ptrdiff_t>(from),
                               heights.begin() + static_cast<std::ptrdiff_t>(to), 0);
    };
    std::vector<std::size_t> best{count, count, count};
    int least = heightOf(0, count);
    for (std::size_t first = 1; first <= count; ++first)
        for (std::size_t second = first; second <= count; ++second)
            if (const int most = std::max(
                    {heightOf(0, first), heightOf(first, second), heightOf(second, count)});
                most < least) {
                least = most;
                best = {first, second, count};
            }
    return best;
}

/// The parts in three columns of like height, as small as it takes to have all of them.
void PagePainter::columns(const Shown& shown, const QRectF& area)
{
    constexpr int columns = 3;
    DossierPicture picture;
    picture.setDossier(std::make_shared<const dossier::Dossier>(shown.dossier), market_);
    picture.setByYear(true);
    std::vector<std::string> keys;
    std::vector<std::size_t> ends;
    double scale = mostScale;
    int width = 0;
    for (;; scale -= 0.02) {
        width = static_cast<int>((area.width() - gutter * (columns - 1)) / columns / scale);
        picture.layOut(width);
        const auto known = picture.heights();
        keys.clear();
        std::vector<int> heights;
        for (const dossier::Part& part : shown.dossier.parts)
            if (!part.words.empty() || !part.tables.empty()) {
                keys.push_back(part.key);
                constexpr int gap = 10; // between parts
                heights.push_back(known.at(part.key) + gap);
            }
        ends = splitOf(heights);
        int most = 0;
        std::size_t from = 0;
        for (const std::size_t end : ends) {
            most = std::max(most,
                            std::accumulate(heights.begin() + static_cast<std::ptrdiff_t>(from),
                                            heights.begin() + static_cast<std::ptrdiff_t>(end), 0));
            from = end;
        }
        if (most * scale <= area.height() || scale <= leastScale)
            break;
    }
    painter_.save();
    painter_.setClipRect(area);
    painter_.translate(area.topLeft());
    painter_.scale(scale, scale);
    const QRect all(0, 0, width, static_cast<int>(area.height() / scale));
    std::size_t from = 0;
    for (const std::size_t end : ends) {
        if (end > from) { // no part named would mean all of them
            picture.setParts({keys.begin() + static_cast<std::ptrdiff_t>(from),
                              keys.begin() + static_cast<std::ptrdiff_t>(end)});
            picture.layOut(width);
            picture.paint(painter_, colours_, all);
        }
        painter_.translate(width + gutter / scale, 0.0);
        from = end;
    }
    painter_.restore();
}

void PagePainter::page(const Heading& heading, const Shown& shown, const StockPage& of)
{
    begin();
    const double top = head(heading, shown);
    constexpr double chartHigh = 356.0;
    chart(shown, of, QRectF(0.0, top, sheetWidth, chartHigh));
    columns(shown,
            QRectF(0.0, top + chartHigh + 8.0, sheetWidth, height_ - top - chartHigh - 8.0 - 26.0));
    foot();
}

Heading headingOf(std::size_t stock, const market::Market& market, Day day)
{
    const market::Instrument& instrument = market.instrument(stock);
    Heading heading{text(market::symbolOn(instrument, day)), text(instrument.name)};
    const auto bar = market::barOn(market, stock, day);
    if (!bar)
        return heading;
    const market::BarsView bars = market.bars(stock);
    heading.close = bars.close[*bar];
    if (*bar > 0)
        heading.change = heading.close / (bars.close[*bar - 1] *
                                          market.priceFactor(stock, bars.days[*bar - 1],
                                                             market.footing(stock, *bar))) -
                         1.0;
    return heading;
}

/// What is chosen for a stock, and what the person said of it.
StockPage pageOf(std::size_t stock, const StockPages& pages, const market::Market& market)
{
    StockPage page{
        stock, choicesOf(pages.choices, pages.work, market, stock, pages.day, pages.list), {}};
    const auto add = [&](const std::string& reason, const QString& where) {
        if (!reason.empty())
            page.words << PagePainter::tr("%1: %2").arg(where, text(reason));
    };
    if (const auto place = placeIn(*pages.work.tray, market, stock))
        add(pages.work.tray->cards()[*place].reason, PagePainter::tr("In hand"));
    for (const auto& list : pages.work.lists)
        if (const auto place = placeOn(*list, market, stock)) {
            const watchlists::Entry& entry = list->entries[*place];
            add(entry.reason,
                PagePainter::tr("%1, since %2").arg(text(list->name), shortDayText(entry.addedOn)));
            if (!page.choices.planned && entry.plan)
                page.choices.planned = watchlists::onDay(*entry.plan, market, stock, pages.day);
        }
    return page;
}

Shown shownOf(const StockPage& page, const StockPages& pages, const Progress& progress)
{
    const language::Names names = pages.book->names();
    Shown shown;
    shown.chart = std::make_shared<const charts::Chart>(charts::makeChart(
        *pages.evaluator, names, pages.setUp, page.stock, pages.day, progress, pages.work.lists));
    const dossier::Subject subject{*pages.evaluator,    names,        page.stock,
                                   pages.day,           page.choices, pages.work.lists,
                                   *pages.work.verdicts};
    const std::string parts[] = {"verdict", "figures", "score", "value", "results", "plan"};
    shown.dossier = dossier::printedOf(dossier::makeDossier(subject, parts, progress));
    if (!page.words.isEmpty()) {
        dossier::Part own{"words", utf8(PagePainter::tr("Your words"))};
        for (const QString& words : page.words)
            own.words.push_back(utf8(words));
        shown.dossier.parts.push_back(std::move(own));
    }
    return shown;
}

} // namespace

int writeStockPages(const QString& file, const StockPages& pages, const Progress& progress)
{
    QSaveFile out(file);
    if (pages.stocks.empty() || !out.open(QIODevice::WriteOnly))
        return 0;
    std::vector<Heading> all;
    std::vector<StockPage> each;
    for (const std::size_t stock : pages.stocks) {
        if (progress.stopRequested())
            throw Stopped{};
        all.push_back(headingOf(stock, pages.evaluator->market(), pages.day));
        each.push_back(pageOf(stock, pages, pages.evaluator->market()));
    }
    int written = 0;
    {
        QPdfWriter writer(&out);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins(QMarginsF(14.0, 12.0, 14.0, 12.0), QPageLayout::Millimeter);
        writer.setTitle(pages.title.isEmpty() ? all.front().symbol : pages.title);
        PagePainter painter(writer, pages);
        if (!painter.isReady())
            return 0;
        if (!pages.title.isEmpty())
            painter.contents(all, each);
        for (std::size_t i = 0; i < all.size(); ++i) { // one in memory at a time
            if (progress.stopRequested())
                throw Stopped{};
            progress.report(static_cast<double>(i) / static_cast<double>(all.size()),
                            "Pages of stocks");
            painter.page(all[i], shownOf(each[i], pages, progress), each[i]);
        }
        painter.end();
        written = painter.written();
    }
    return out.commit() ? written : 0;
}

} // namespace sieve::app
