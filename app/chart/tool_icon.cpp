#include "app/chart/tool_icon.h"

#include "app/look/palette.h"

#include <QPainter>
#include <QPixmap>
#include <array>

namespace sieve::app {

namespace {

using drawings::Tool;

/// Lines of a tool on a field of 16 by 16, each as its points.
std::vector<QPolygonF> linesOf(Tool tool)
{
    switch (tool) {
    case Tool::Line:
        return {{{3, 12}, {13, 4}}};
    case Tool::Ray:
        return {{{3, 12}, {15, 2}}, {{3, 10}, {3, 14}}};
    case Tool::Level:
        return {{{1, 8}, {15, 8}}};
    case Tool::Channel:
        return {{{1, 14}, {11, 4}}, {{6, 14}, {15, 5}}};
    case Tool::Retracement:
        return {{{3, 14}, {8, 2}}, {{8, 2}, {15, 2}}, {{8, 8}, {15, 8}}, {{8, 14}, {15, 14}}};
    case Tool::Extension:
        return {{{1, 14}, {5, 6}, {8, 11}}, {{8, 7}, {15, 7}}, {{8, 2}, {15, 2}}};
    case Tool::MeasuredMove:
        return {{{1, 14}, {5, 7}, {8, 10}, {13, 2}}, {{9.5, 3.5}, {13, 2}, {14, 5.5}}};
    case Tool::Box:
        return {{{2, 4}, {14, 4}, {14, 12}, {2, 12}, {2, 4}}};
    case Tool::Note:
        return {{{3, 4}, {13, 4}}, {{3, 8}, {13, 8}}, {{3, 12}, {9, 12}}};
    case Tool::Arrow:
        return {{{3, 13}, {13, 3}}, {{8, 4}, {13, 3}, {12, 8}}};
    case Tool::Average:
        return {{{2, 3}, {2, 13}}, {{2, 12}, {6, 10}, {10, 9}, {15, 5}}};
    case Tool::Regression:
        return {{{1, 13}, {15, 5}}, {{1, 9}, {15, 1}}, {{1, 15.5}, {15, 9}}};
    case Tool::Swings:
        return {{{1, 13}, {5, 5}, {8, 10}, {12, 2}, {15, 6}}};
    }
    return {};
}

} // namespace

QIcon toolIcon(Tool tool, const Palette& colours)
{
    constexpr int side = 16;
    constexpr double ratio = 3.0; // sharp at any scale of the desktop
    QPixmap picture(static_cast<int>(side * ratio), static_cast<int>(side * ratio));
    picture.setDevicePixelRatio(ratio);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing, true);
    painter.setPen(QPen(colours.mark, 1.4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    for (const QPolygonF& line : linesOf(tool))
        painter.drawPolyline(line);
    return QIcon(picture);
}

} // namespace sieve::app
