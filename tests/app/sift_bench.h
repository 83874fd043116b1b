#pragma once

#include "app/parts/scatter_picture.h"
#include "app/sift/band.h"
#include "tests/app/window_bench.h"

#include <QTabWidget>
#include <QToolButton>
#include <algorithm>

/// What tests do in Sift.
namespace sieve::test {

using app::Band;
using app::Work;

inline void press(const WindowBench& bench, const char* name)
{
    for (auto* button : bench.window->findChildren<QToolButton*>())
        if (button->text() == QLatin1String(name) && button->isVisible())
            button->click();
    bench.settle();
}

inline void showEvidence(const WindowBench& bench, int tab)
{
    bench.window->place(QStringLiteral("sift"))->findChild<QTabWidget*>()->setCurrentIndex(tab);
    bench.settle();
}

/// A screen of one's own in Sift.
inline void sift(const WindowBench& bench, std::vector<screens::Criterion> criteria)
{
    bench.go("sift");
    bench.desk->work().edit(QStringLiteral("screen"), [&](Work& work) {
        work.screen = {};
        work.screen.edit().name = "Own";
        work.screen.edit().universe = "kind == \"share\"";
        work.screen.edit().criteria = std::move(criteria);
        work.screen.edit().columns = {"symbol", "close"};
    });
    bench.settle();
}

inline Band* band(const WindowBench& bench, std::size_t at)
{
    const auto bands = bench.window->place(QStringLiteral("sift"))->findChildren<Band*>();
    std::vector<Band*> shown;
    for (Band* each : bands)
        if (each->isVisible())
            shown.push_back(each);
    std::ranges::sort(shown, {}, &QWidget::y);
    return shown.at(at);
}

inline std::string criterion(const WindowBench& bench, std::size_t at)
{
    return bench.desk->work().now().screen->criteria.at(at).text;
}

/// A place on the line of a limit of the figure across: there a point of as much would stand.
inline QPoint limitLine(const app::ScatterPicture& picture, double across)
{
    screens::ScatterPoint at;
    at.across = across;
    at.up = 50;
    return {picture.pointOf(at).toPoint().x(), picture.height() / 2};
}

inline void drag(QWidget* widget, QPoint from, QPoint to)
{
    QTest::mousePress(widget, Qt::LeftButton, {}, from);
    QTest::mouseMove(widget, (from + to) / 2);
    QTest::mouseMove(widget, to);
    QMouseEvent move(QEvent::MouseMove, to, widget->mapToGlobal(to), Qt::LeftButton, Qt::LeftButton,
                     {});
    QApplication::sendEvent(widget, &move); // offscreen, moves come without the button
    QTest::mouseRelease(widget, Qt::LeftButton, {}, to);
}

} // namespace sieve::test
