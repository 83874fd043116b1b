#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "app/weigh/dossier_measures.h"
#include "app/weigh/dossier_picture.h"

#include <QFontMetrics>
#include <QPainter>
#include <algorithm>
#include <cmath>

// How the lines of a dossier's page are painted.

namespace sieve::app {

using dossier::Cell;
using dossier::Form;
using dossier::Row;
using dossier::Table;

namespace {

constexpr int gap = 8;

QFont rowFont()
{
    return fontOf(Weight::Regular, 0.96);
}

/// A word in its box, with dots where it does not fit.
void drawText(QPainter& painter, const QRect& place, Qt::Alignment alignment, const QString& words)
{
    const QFontMetrics metrics(painter.font());
    painter.drawText(place, static_cast<int>(alignment | Qt::AlignVCenter),
                     metrics.elidedText(words, Qt::ElideRight, place.width()));
}

QColor colourOf(double change, const Palette& colours)
{
    return isMissing(change) ? colours.softInk : change < 0.0 ? colours.fall : colours.ink;
}

/// Small columns about zero, the newest last; what was restated has a stroke over it.
void drawColumnsOf(QPainter& painter, const QRectF& place, const std::vector<Cell>& cells,
                   const Palette& colours)
{
    double high = 0.0;
    double low = 0.0;
    for (const Cell& cell : cells)
        if (!isMissing(cell.value)) {
            high = std::max(high, cell.value);
            low = std::min(low, cell.value);
        }
    if (cells.empty() || high == low)
        return;
    const double each = place.width() / static_cast<double>(cells.size());
    const double zero = place.top() + place.height() * high / (high - low);
    for (std::size_t i = 0; i < cells.size(); ++i) {
        const double value = cells[i].value;
        if (isMissing(value))
            continue;
        const double y = place.top() + place.height() * (high - value) / (high - low);
        const QRectF column(place.left() + each * static_cast<double>(i) + 1.0, std::min(y, zero),
                            std::max(each - 2.0, 1.0), std::max(std::fabs(y - zero), 1.0));
        const QColor colour = value < 0.0 ? colours.fall : colours.mark;
        painter.fillRect(column, i + 1 == cells.size() ? colour : colours.wash(colour, 0.55));
        if (cells[i].restated)
            painter.fillRect(QRectF(column.left(), column.top() - 3.0, column.width(), 1.5),
                             colours.caution);
    }
}

/// A line from 0 to 100 with a dot where the stock stands among all, and a stroke for its industry.
void drawPlace(QPainter& painter, const QRectF& place, double amongAll, double inIndustry,
               const Palette& colours)
{
    const double y = place.center().y();
    painter.fillRect(QRectF(place.left(), y - 0.5, place.width(), 1.0), colours.rule);
    painter.fillRect(QRectF(place.center().x() - 0.5, y - 2.0, 1.0, 4.0), colours.rule);
    const auto xOf = [&](double percentile) {
        return place.left() + place.width() * percentile / 100.0;
    };
    if (!isMissing(inIndustry))
        painter.fillRect(QRectF(xOf(inIndustry) - 1.0, y - 5.0, 2.0, 10.0), colours.softInk);
    if (!isMissing(amongAll)) {
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(Qt::NoPen);
        painter.setBrush(colours.mark);
        painter.drawEllipse(QPointF(xOf(amongAll), y), 3.4, 3.4);
        painter.setRenderHint(QPainter::Antialiasing, false);
    }
}

/// Where the columns of a figure's row lie.
struct FigureColumns {
    explicit FigureColumns(const QRect& place)
    {
        const int figure = QFontMetrics(rowFont()).horizontalAdvance(QStringLiteral("-888.8 M"));
        const int width = place.width() * 17 / 100;
        const auto column = [&](int right, int wide) {
            return QRect(right - wide, place.top(), wide, place.height());
        };
        median = column(place.right() + 1, figure);
        strip = column(median.left() - 2, width);
        now = column(strip.left() - gap, figure);
        title = QRect(place.left(), place.top(), now.left() - place.left() - 2, place.height());
    }

    QRect title;
    QRect now;
    QRect strip;
    QRect median;
};

} // namespace

QFont DossierMeasures::wordsFont()
{
    return fontOf(Weight::Regular, 0.96);
}

QFont DossierMeasures::smallFont()
{
    return fontOf(Weight::Regular, 0.84);
}

int DossierMeasures::rowHeight()
{
    return QFontMetrics(rowFont()).height() + 4;
}

int DossierMeasures::partHeight()
{
    return QFontMetrics(fontOf(Weight::SemiBold, 1.15)).height() + 14;
}

int DossierMeasures::titleHeight()
{
    return QFontMetrics(fontOf(Weight::SemiBold)).height() + 10;
}

int DossierMeasures::dayWidth()
{
    return QFontMetrics(smallFont()).horizontalAdvance(QStringLiteral("30 Sep 2026")) + gap;
}

int DossierMeasures::answerWidth()
{
    return QFontMetrics(fontOf(Weight::SemiBold)).horizontalAdvance(QStringLiteral("✓")) + gap;
}

int DossierMeasures::figureWidth()
{
    return QFontMetrics(smallFont()).horizontalAdvance(QStringLiteral("you, 2026-09-30")) + gap;
}

int DossierMeasures::moveWidth()
{
    return QFontMetrics(smallFont()).horizontalAdvance(QStringLiteral("88.8 × usual")) + gap;
}

/// Each column is as wide as its widest figure and the longest word of its head.
DossierPicture::Columns DossierPicture::columnsOf(const Table& table, int width) const
{
    const QFontMetrics metrics(rowFont());
    const QFontMetrics headMetrics(DossierMeasures::smallFont());
    Columns columns;
    int longest = 0;
    for (const Row& row : table.rows)
        longest = std::max(longest, metrics.horizontalAdvance(text(row.title)));
    columns.title = std::min(longest, width * 2 / 5);
    int used = columns.title;
    for (std::size_t i = 0; i < table.heads.size(); ++i) {
        int widest = 0;
        for (const QString& word : text(table.heads[i]).split(QLatin1Char(' ')))
            widest = std::max(widest, headMetrics.horizontalAdvance(word));
        for (const Row& row : table.rows)
            if (i < row.cells.size())
                widest = std::max(widest, metrics.horizontalAdvance(textOf(row.cells[i])));
        if (used + widest + gap > width && !columns.widths.empty())
            break;
        columns.widths.push_back(std::min(widest + gap, width - used));
        used += columns.widths.back();
    }
    // What is left over is shared; a long title takes it first.
    int left = std::max(0, width - used);
    const int more = std::min(left, longest - columns.title + (longest > columns.title ? gap : 0));
    columns.title += more;
    left -= more;
    for (int& each : columns.widths)
        each += std::min(left / static_cast<int>(columns.widths.size()), 24);
    int sum = 0;
    for (const int each : columns.widths)
        sum += each;
    columns.title = width - sum; // figures stand at the right edge
    return columns;
}

int DossierPicture::headHeight(const Table& table) const
{
    const Columns& columns = columns_.at(&table);
    const QFontMetrics metrics(DossierMeasures::smallFont());
    int height = metrics.height();
    for (std::size_t i = 0; i < columns.widths.size(); ++i)
        height = std::max(height,
                          metrics
                              .boundingRect(QRect(0, 0, columns.widths[i] - gap + 1, 1000),
                                            Qt::TextWordWrap | Qt::AlignRight, text(table.heads[i]))
                              .height());
    return height + 4;
}

void DossierPicture::paint(QPainter& painter, const Palette& colours, const QRect& clip,
                           std::optional<std::size_t> chosen)
{
    colours_ = &colours;
    for (std::size_t i = 0; i < lines_.size(); ++i)
        if (lines_[i].place.intersects(clip))
            paintLine(painter, lines_[i], chosen == i);
    colours_ = nullptr;
}

void DossierPicture::paintLine(QPainter& painter, const Line& line, bool isChosen) const
{
    const Palette& colours = *colours_;
    const QRect& place = line.place;
    switch (line.kind) {
    case Kind::Part:
        painter.fillRect(QRect(0, place.top() + 2, width_, 1), colours.rule);
        painter.setFont(fontOf(Weight::SemiBold, 1.15));
        painter.setPen(colours.ink);
        return drawText(painter, place.adjusted(0, 6, 0, 0), Qt::AlignLeft, line.words);
    case Kind::Words:
        painter.setFont(DossierMeasures::wordsFont());
        painter.setPen(colours.ink);
        painter.drawText(place, Qt::TextWordWrap, line.words);
        return;
    case Kind::Title: {
        painter.setFont(fontOf(Weight::SemiBold));
        painter.setPen(colours.ink);
        drawText(painter, place.adjusted(0, 4, 0, 0), Qt::AlignLeft, line.words);
        return;
    }
    case Kind::Heads:
        return paintHeads(painter, line);
    case Kind::Group:
        painter.setFont(fontOf(Weight::Medium, 0.96));
        painter.setPen(colours.softInk);
        return drawText(painter, place.adjusted(0, 4, 0, 0), Qt::AlignLeft, line.words);
    case Kind::Note:
        painter.setFont(DossierMeasures::smallFont());
        painter.setPen(colours.softInk);
        painter.drawText(place, Qt::TextWordWrap, line.words);
        return;
    case Kind::Row:
        break;
    }
    if (isChosen)
        painter.fillRect(place.adjusted(-6, 0, 6, 0), colours.wash(colours.mark, 0.12));
    const Row& row = line.table->rows[line.row];
    painter.setFont(rowFont());
    painter.setPen(colours.ink);
    switch (line.table->form) {
    case Form::Figures:
        return paintFigures(painter, row, place);
    case Form::Periods:
        return paintPeriods(painter, *line.table, line.row, place);
    case Form::Values:
        return paintValue(painter, row, place);
    case Form::Ranges:
        return paintRange(painter, row, place);
    case Form::Table:
        return paintCells(painter, *line.table, row, place);
    case Form::Checklist:
        return paintQuestion(painter, row, place);
    case Form::Events:
        return paintHappening(painter, row, place);
    }
}

void DossierPicture::paintHeads(QPainter& painter, const Line& line) const
{
    const QRect& place = line.place;
    painter.setFont(DossierMeasures::smallFont());
    painter.setPen(colours_->softInk);
    if (line.table->form == Form::Figures) { // what the marks of the rows below mean
        const FigureColumns at(place);
        drawText(painter, at.strip.adjusted(-60, 0, 0, 0), Qt::AlignRight,
                 tr("● all   ❙ industry"));
        drawText(painter, at.median, Qt::AlignRight, tr("median"));
        return;
    }
    const Columns& columns = columns_.at(line.table);
    int x = place.left() + columns.title;
    for (std::size_t i = 0; i < columns.widths.size(); ++i) {
        painter.drawText(
            QRect(x + gap - 1, place.top(), columns.widths[i] - gap + 1, place.height()),
            Qt::TextWordWrap | Qt::AlignRight | Qt::AlignBottom, text(line.table->heads[i]));
        x += columns.widths[i];
    }
}

void DossierPicture::paintFigures(QPainter& painter, const Row& row, const QRect& place) const
{
    const Palette& colours = *colours_;
    const FigureColumns at(place);
    if (row.cells.size() == 4) {
        painter.setPen(colours.softInk);
        drawText(painter, at.median, Qt::AlignRight, textOf(row.cells[3]));
        if (!isMissing(row.cells[0].value))
            drawPlace(painter, at.strip, row.cells[1].value, row.cells[2].value, colours);
    }
    const Cell& now = row.cells[0];
    painter.setPen(now.unit == Unit::Percent ? colourOf(now.value, colours)
                   : isMissing(now.value)    ? colours.softInk
                                             : colours.ink);
    drawText(painter, at.now, Qt::AlignRight, now.note.empty() ? textOf(now) : text(now.note));
    painter.setPen(colours.softInk);
    drawText(painter, at.title, Qt::AlignLeft, text(row.title));
}

void DossierPicture::paintPeriods(QPainter& painter, const Table& table, std::size_t row,
                                  const QRect& place) const
{
    const Palette& colours = *colours_;
    const Row& of = table.rows[row];
    const bool hasChange = row + 1 < table.rows.size() && table.rows[row + 1].isOfFormer;
    const int change =
        hasChange ? QFontMetrics(rowFont()).horizontalAdvance(QStringLiteral("+188.8 %")) : 0;
    const int figure = QFontMetrics(rowFont()).horizontalAdvance(QStringLiteral("-888.8 M")) + 4;
    const int columns = std::max(60, place.width() * 26 / 100);
    const int y = place.top();
    const int height = place.height();
    int right = place.right() + 1;
    if (hasChange) {
        const Cell& cell = table.rows[row + 1].cells.back();
        painter.setPen(colourOf(cell.value, colours));
        drawText(painter, QRect(right - change, y, change, height), Qt::AlignRight,
                 signedText(cell.value, cell.unit, cell.decimals));
        right -= change;
    }
    painter.setPen(isMissing(of.cells.back().value) ? colours.softInk : colours.ink);
    drawText(painter, QRect(right - figure, y, figure, height), Qt::AlignRight,
             textOf(of.cells.back()));
    right -= figure + gap / 2;
    drawColumnsOf(painter, QRectF(right - columns, y + 4, columns, height - 7), of.cells, colours);
    right -= columns + gap / 2;
    painter.setPen(colours.softInk);
    drawText(painter, QRect(place.left(), y, right - place.left(), height), Qt::AlignLeft,
             text(of.title));
}

/// The worth and its distance from the price; below, what it is made of, or why there is none.
void DossierPicture::paintValue(QPainter& painter, const Row& row, const QRect& place) const
{
    const Palette& colours = *colours_;
    const int line = DossierMeasures::rowHeight();
    const QFontMetrics metrics(rowFont());
    const int distance = metrics.horizontalAdvance(QStringLiteral("+888 %"));
    const int worth = metrics.horizontalAdvance(QStringLiteral("dn 8,888.88")) + gap;
    const int bar = place.width() * 16 / 100;
    int right = place.right() + 1;
    const Cell& over = row.cells[3];
    const bool isSum = row.cells[0].expression.empty();
    painter.setFont(isSum ? fontOf(Weight::SemiBold, 0.96) : rowFont());
    painter.setPen(colourOf(over.value, colours));
    drawText(painter, QRect(right - distance, place.top(), distance, line), Qt::AlignRight,
             signedText(over.value, over.unit, over.decimals));
    right -= distance;
    if (!isMissing(over.value)) { // how far over or under the price, to a half either way
        const QRectF strip(right - bar + 4, place.top() + line / 2.0 - 3.0, bar - 8, 6.0);
        const double middle = strip.center().x();
        const double reach = std::clamp(over.value / 0.5, -1.0, 1.0) * strip.width() / 2.0;
        painter.fillRect(
            QRectF(std::min(middle, middle + reach), strip.top(), std::fabs(reach), strip.height()),
            colours.wash(over.value < 0.0 ? colours.fall : colours.mark, 0.55));
        painter.fillRect(QRectF(middle - 0.5, strip.top() - 3.0, 1.0, strip.height() + 6.0),
                         colours.softInk);
    }
    right -= bar;
    painter.setPen(isMissing(row.cells[2].value) ? colours.softInk : colours.ink);
    drawText(painter, QRect(right - worth, place.top(), worth, line), Qt::AlignRight,
             textOf(row.cells[2]));
    right -= worth;
    painter.setPen(isSum ? colours.ink : colours.softInk);
    drawText(painter, QRect(place.left(), place.top(), right - place.left() - 4, line),
             Qt::AlignLeft, text(row.title));
    if (place.height() <= line)
        return;
    painter.setFont(DossierMeasures::smallFont());
    painter.setPen(colours.softInk);
    const QString made =
        isMissing(row.cells[2].value)
            ? text(row.cells[2].note)
            : tr("%1 a share × %2").arg(textOf(row.cells[0]), textOf(row.cells[1]));
    drawText(painter,
             QRect(place.left() + gap, place.top() + line - 3, place.width() - gap,
                   place.height() - line + 2),
             Qt::AlignLeft, made);
}

/// Its own five years above, the industry of today below, on one scale: the thin line goes from the
/// least to the most, the thick one over the middle half.
void DossierPicture::paintRange(QPainter& painter, const Row& row, const QRect& place) const
{
    const Palette& colours = *colours_;
    const int figure = QFontMetrics(rowFont()).horizontalAdvance(QStringLiteral("888.88")) + gap;
    const int title = place.width() * 36 / 100;
    painter.setPen(isMissing(row.cells[0].value) ? colours.softInk : colours.ink);
    drawText(painter, QRect(place.right() - figure + 1, place.top(), figure, place.height()),
             Qt::AlignRight, textOf(row.cells[0]));
    painter.setPen(colours.softInk);
    drawText(painter, QRect(place.left(), place.top(), title, place.height()), Qt::AlignLeft,
             text(row.title));
    double most = 0.0;
    for (const std::size_t upper : {4U, 9U}) // far ones are cut off, so that the rest can be told
        if (!isMissing(row.cells[upper].value))
            most = std::max(most, 2.0 * row.cells[upper].value);
    if (!isMissing(row.cells[0].value))
        most = std::max(most, 1.05 * row.cells[0].value);
    if (most <= 0.0)
        return;
    const QRectF strip(place.left() + title + 4, place.top() + 4,
                       place.width() - title - figure - 8, place.height() - 8);
    const auto xOf = [&](double value) {
        return strip.left() + strip.width() * std::clamp(value / most, 0.0, 1.0);
    };
    const auto drawRange = [&](std::size_t first, double y, const QColor& colour) {
        if (isMissing(row.cells[first].value))
            return;
        const auto at = [&](std::size_t i) { return xOf(row.cells[first + i].value); };
        painter.fillRect(QRectF(at(0), y - 0.5, at(4) - at(0), 1.0), colour);
        painter.fillRect(QRectF(at(1), y - 2.5, std::max(at(3) - at(1), 1.0), 5.0),
                         colours.wash(colour, 0.6));
        painter.fillRect(QRectF(at(2) - 1.0, y - 4.0, 2.0, 8.0), colour);
    };
    drawRange(1, strip.top() + strip.height() * 0.28, colours.mark);
    drawRange(6, strip.top() + strip.height() * 0.76, colours.softInk);
    if (!isMissing(row.cells[0].value))
        painter.fillRect(
            QRectF(xOf(row.cells[0].value) - 0.75, strip.top() - 2.0, 1.5, strip.height() + 4.0),
            colours.ink);
}

void DossierPicture::paintCells(QPainter& painter, const Table& table, const Row& row,
                                const QRect& place) const
{
    const Palette& colours = *colours_;
    const Columns& columns = columns_.at(&table);
    painter.setPen(row.stock && *row.stock != dossier_->stock ? colours.mark : colours.softInk);
    const int indent = row.isOfFormer ? gap : 0;
    if (row.isOfFormer)
        painter.setFont(DossierMeasures::smallFont());
    drawText(painter,
             QRect(place.left() + indent, place.top(), columns.title - indent, place.height()),
             Qt::AlignLeft, text(row.title));
    int x = place.left() + columns.title;
    for (std::size_t i = 0; i < std::min(columns.widths.size(), row.cells.size()); ++i) {
        const Cell& cell = row.cells[i];
        const QRect at(x, place.top(), columns.widths[i], place.height());
        x += columns.widths[i];
        if (cell.unit == Unit::Points && !isMissing(cell.value)) // of a hundred: as a stroke, too
            painter.fillRect(QRectF(at.left() + gap, at.bottom() - 1.0,
                                    (at.width() - gap) * cell.value / 100.0, 2.0),
                             colours.wash(colours.mark, 0.6));
        painter.setPen(cell.unit == Unit::Percent && !row.isOfFormer ? colourOf(cell.value, colours)
                       : isMissing(cell.value) && cell.text.empty()  ? colours.softInk
                                                                     : colours.ink);
        drawText(painter, at, Qt::AlignRight, textOf(cell));
    }
}

/// A sign for the answer, the question, and at the right what the answer rests on.
void DossierPicture::paintQuestion(QPainter& painter, const Row& row, const QRect& place) const
{
    const Palette& colours = *colours_;
    const Cell& answer = row.cells[0];
    const int sign = DossierMeasures::answerWidth();
    const int figure = DossierMeasures::figureWidth();
    const bool isOpen = isMissing(answer.value);
    painter.setFont(fontOf(Weight::SemiBold));
    painter.setPen(isOpen ? colours.softInk : answer.value == 1.0 ? colours.mark : colours.fall);
    painter.drawText(QRect(place.left(), place.top() + 2, sign, place.height()), Qt::AlignTop,
                     isOpen                ? QStringLiteral("?")
                     : answer.value == 1.0 ? QStringLiteral("✓")
                                           : QStringLiteral("✗"));
    painter.setFont(DossierMeasures::wordsFont());
    painter.setPen(colours.ink);
    painter.drawText(place.adjusted(sign, 2, -figure, 0), Qt::TextWordWrap, text(row.title));
    const Cell& behind = row.cells[1];
    const bool isFigure = behind.text.empty();
    const QString shown = !answer.note.empty()                    ? text(answer.note)
                          : isFigure && behind.expression.empty() ? QString()
                                                                  : textOf(behind);
    painter.setFont(isFigure ? rowFont() : DossierMeasures::smallFont());
    painter.setPen(isFigure && answer.note.empty() ? colours.ink : colours.softInk);
    drawText(painter,
             QRect(place.right() - figure + 1, place.top(), figure, DossierMeasures::rowHeight()),
             Qt::AlignRight, shown);
}

void DossierPicture::paintHappening(QPainter& painter, const Row& row, const QRect& place) const
{
    const Palette& colours = *colours_;
    const int day = DossierMeasures::dayWidth();
    const int moves = DossierMeasures::moveWidth();
    const int line = DossierMeasures::rowHeight();
    painter.setFont(DossierMeasures::smallFont());
    painter.setPen(colours.softInk);
    painter.drawText(QRect(place.left(), place.top() + 2, day, line), Qt::AlignLeft | Qt::AlignTop,
                     textOf(row.cells[0]));
    const double usual = row.cells[4].value;
    constexpr double isLarge = 2.0; // usual moves
    painter.setFont(usual >= isLarge ? fontOf(Weight::SemiBold, 0.96) : rowFont());
    painter.setPen(colourOf(row.cells[3].value, colours));
    painter.drawText(QRect(place.right() - moves + 1, place.top(), moves, line),
                     Qt::AlignRight | Qt::AlignTop,
                     signedText(row.cells[3].value, Unit::Percent, 1));
    if (!isMissing(usual) && place.height() > line + 4) {
        painter.setFont(DossierMeasures::smallFont());
        painter.setPen(colours.softInk);
        painter.drawText(QRect(place.right() - moves + 1, place.top() + line - 3, moves, line),
                         Qt::AlignRight | Qt::AlignTop, tr("%1 × usual").arg(usual, 0, 'f', 1));
    }
    painter.setFont(DossierMeasures::wordsFont());
    painter.setPen(colours.ink);
    painter.save();
    const QRect words(place.left() + day, place.top(), place.width() - day - moves,
                      place.height() - 2);
    painter.setClipRect(words);
    painter.drawText(words, Qt::TextWordWrap, text(row.cells[2].text));
    painter.restore();
}

} // namespace sieve::app
