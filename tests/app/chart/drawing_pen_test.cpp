#include "app/chart/drawing_pen.h"

#include "app/chart/chart_view.h"
#include "app/chart/drawings_dialog.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "core/charts/chart.h"

#include <QApplication>
#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTest>
#include <catch2/catch.hpp>

// Drawing on a chart by mouse and by keys.

namespace sieve::app {

using drawings::Anchor;
using drawings::Drawing;
using drawings::Point;
using drawings::Tool;

namespace {

/// Forty weekdays from Monday 2024-01-01 about 50, with a high of 60 on bar 20 and a low of 40 on
/// bar 30.
market::Bars madeBars()
{
    market::Bars bars;
    Day day = *Day::parse("2024-01-01");
    for (int i = 0; i < 40; ++i) {
        const double high = i == 20 ? 60.0 : 51.0;
        const double low = i == 30 ? 40.0 : 49.0;
        bars.add({day, 50.0, high, low, 50.0, 100.0});
        day = day.plusDays(day.weekday() == std::chrono::Friday ? 3 : 1);
    }
    return bars;
}

std::shared_ptr<const charts::Chart> madeChart(charts::BarScale scale = charts::BarScale::Day)
{
    charts::SetUp setUp;
    setUp.scale = scale;
    charts::Chart chart = charts::emptyChart(setUp);
    chart.symbol = "MADE.C";
    chart.daily = std::make_shared<const market::Bars>(madeBars());
    const auto ends = charts::barEnds(chart.daily->days, scale);
    chart.places = charts::BarPlaces(ends, scale);
    chart.bars = std::make_shared<const market::Bars>(charts::barsOfScale(*chart.daily, ends));
    return std::make_shared<const charts::Chart>(std::move(chart));
}

/// A chart to draw on, and what its pen told, kept as a person's work would keep it.
struct Easel {
    Easel()
    {
        view.allowDrawing();
        view.setShownBars(0);
        view.setChart(madeChart());
        view.resize(900, 520);
        view.show();
        REQUIRE(QTest::qWaitForWindowActive(&view));
        QObject::connect(&view.pen(), &DrawingPen::made, &view, [this](const Drawing& drawing) {
            Drawing own = drawing;
            own.id = ++lastId;
            own.drawnOn = view.chart().daily->days.back();
            kept.push_back(own);
            view.pen().setDrawings(kept);
            view.pen().choose(own.id);
        });
        QObject::connect(&view.pen(), &DrawingPen::moved, &view, [this](const Drawing& drawing) {
            *std::ranges::find(kept, drawing.id, &Drawing::id) = drawing;
            view.pen().setDrawings(kept);
        });
        QObject::connect(&view.pen(), &DrawingPen::removed, &view, [this](qint64 id) {
            std::erase_if(kept, [id](const Drawing& drawing) { return drawing.id == id; });
            view.pen().setDrawings(kept);
        });
    }

    QPoint at(double bar, double price) { return view.pointOf({bar, price}).toPoint(); }
    void click(double bar, double price, Qt::KeyboardModifiers with = Qt::NoModifier)
    {
        QTest::mouseMove(&view, at(bar, price));
        QTest::mouseClick(&view, Qt::LeftButton, with, at(bar, price));
    }
    void drag(const QPoint& from, const QPoint& to, Qt::KeyboardModifiers with = Qt::NoModifier)
    {
        QTest::mousePress(&view, Qt::LeftButton, with, from);
        QTest::mouseMove(&view, (from + to) / 2);
        // Moves of QTest bear no modifiers; the last point is where it is let go.
        QTest::mouseMove(&view, to);
        QTest::mouseRelease(&view, Qt::LeftButton, with, to);
    }
    void press(int key, Qt::KeyboardModifiers with = Qt::NoModifier)
    {
        view.activateWindow(); // offscreen nobody does when the menu has closed
        REQUIRE(QTest::qWaitForWindowActive(&view));
        view.setFocus();
        QTest::keyClick(&view, static_cast<Qt::Key>(key), with);
    }
    /// D, and the letter of a tool.
    void take(Tool tool)
    {
        press(Qt::Key_D);
        auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
        REQUIRE(menu);
        QTest::keyClick(menu, drawings::rowOf(tool).letter);
        REQUIRE(view.pen().isDrawing());
    }
    const Drawing& only() const
    {
        REQUIRE(kept.size() == 1);
        return kept.front();
    }
    static Anchor anchor(const char* day, double price) { return {*Day::parse(day), price}; }

    ChartView view;
    std::vector<Drawing> kept;
    std::int64_t lastId = 0;
};

} // namespace

TEST_CASE("Drawing: every tool is taken by its letter and drawn by clicks", "[app]")
{
    for (const drawings::ToolRow& row : drawings::toolRows()) {
        CAPTURE(row.title);
        Easel easel;
        easel.take(row.tool);
        CHECK_FALSE(easel.view.pen().asks().isEmpty());
        for (std::size_t point = 0; point < row.fewest; ++point)
            easel.click(5.0 + 6.0 * static_cast<double>(point), 55.0 - static_cast<double>(point),
                        Qt::ControlModifier);
        if (row.most > row.fewest)
            easel.press(Qt::Key_Return); // where the last was set: it ends
        CHECK(easel.only().tool == row.tool);
        CHECK(easel.only().anchors.size() == row.fewest);
        CHECK_FALSE(easel.view.pen().isDrawing());
        CHECK(easel.view.pen().chosen()); // and is at hand
    }
}

TEST_CASE("Drawing: points are caught by prices and turns, with Ctrl they are not", "[app]")
{
    Easel easel;
    easel.take(Tool::Line);
    const QPoint near = easel.at(20.0, 60.0) + QPoint(3, -5);
    QTest::mouseMove(&easel.view, near);
    QTest::mouseClick(&easel.view, Qt::LeftButton, Qt::NoModifier, near);
    const QPoint free = easel.at(30.0, 40.0) + QPoint(0, 4);
    QTest::mouseClick(&easel.view, Qt::LeftButton, Qt::ControlModifier, free);
    const Drawing& line = easel.only();
    CHECK(line.anchors[0] == Easel::anchor("2024-01-29", 60.0));
    CHECK(line.anchors[1].day == *Day::parse("2024-02-12"));
    CHECK(line.anchors[1].price < 40.0);
    CHECK(line.anchors[1].price > 39.0);
}

TEST_CASE("Drawing: a drag sets both points, Esc gives up, Backspace takes a point back", "[app]")
{
    Easel easel;
    easel.take(Tool::Line);
    easel.drag(easel.at(20.0, 60.0), easel.at(30.0, 40.0));
    CHECK(easel.only().anchors ==
          std::vector{Easel::anchor("2024-01-29", 60.0), Easel::anchor("2024-02-12", 40.0)});
    easel.take(Tool::Ray);
    easel.click(5.0, 45.0);
    QTest::mouseRelease(&easel.view, Qt::RightButton, Qt::NoModifier, easel.at(25.0, 55.0));
    CHECK(easel.view.pen().isDrawing()); // only the left button sets points
    easel.press(Qt::Key_Escape);
    CHECK_FALSE(easel.view.pen().isDrawing());
    CHECK(easel.kept.size() == 1);
    easel.take(Tool::Swings);
    easel.click(5.0, 45.0, Qt::ControlModifier);
    easel.click(8.0, 55.0, Qt::ControlModifier);
    easel.click(10.0, 56.0, Qt::ControlModifier);
    easel.press(Qt::Key_Backspace);
    easel.click(11.0, 47.0, Qt::ControlModifier);
    easel.press(Qt::Key_Return);
    REQUIRE(easel.kept.size() == 2);
    CHECK(easel.kept[1].anchors.size() == 3);
    CHECK(easel.kept[1].anchors[2].day == *Day::parse("2024-01-16"));
    // A second click of a double one ends what has enough points.
    easel.take(Tool::Swings);
    easel.click(5.0, 45.0, Qt::ControlModifier);
    easel.click(8.0, 55.0, Qt::ControlModifier);
    QTest::mouseDClick(&easel.view, Qt::LeftButton, Qt::ControlModifier, easel.at(8.0, 55.0));
    CHECK(easel.kept.size() == 3);
    CHECK(easel.view.viewport().width() < 60.0); // the double click was the pen's
}

TEST_CASE("Drawing: by keys alone a line is drawn, chosen, moved, removed", "[app]")
{
    Easel easel;
    easel.take(Tool::Line);
    easel.press(Qt::Key_Left, Qt::ShiftModifier); // five bars from the last close
    easel.press(Qt::Key_Up);
    easel.press(Qt::Key_Return);
    easel.press(Qt::Key_Right);
    easel.press(Qt::Key_Down, Qt::ShiftModifier);
    easel.press(Qt::Key_Return);
    const Drawing line = easel.only();
    CHECK(line.anchors[0].day == *Day::parse("2024-02-16"));
    CHECK(line.anchors[1].day == *Day::parse("2024-02-19"));
    CHECK(line.anchors[0].price > 50.0);
    CHECK(line.anchors[1].price < 50.0);
    CHECK(easel.view.viewport().to() > 39.0); // the arrows did not pan
    easel.press(Qt::Key_Left, Qt::AltModifier);
    easel.press(Qt::Key_Up, Qt::AltModifier);
    const Drawing moved = easel.only();
    CHECK(moved.anchors[0].day == *Day::parse("2024-02-15"));
    CHECK(moved.anchors[0].price > line.anchors[0].price);
    CHECK(moved.anchors[1].price - moved.anchors[0].price ==
          Approx(line.anchors[1].price - line.anchors[0].price));
    easel.press(Qt::Key_Escape);
    CHECK_FALSE(easel.view.pen().chosen());
    easel.press(Qt::Key_Delete); // nothing is chosen
    CHECK(easel.kept.size() == 1);
    easel.press(Qt::Key_N);
    CHECK(easel.view.pen().chosen());
    easel.press(Qt::Key_Delete);
    CHECK(easel.kept.empty());
    // The next one begins at the newest close again, wherever the last one ended.
    easel.take(Tool::Level);
    easel.click(10.0, 58.0, Qt::ControlModifier);
    easel.take(Tool::Level);
    easel.press(Qt::Key_Return);
    REQUIRE(easel.kept.size() == 2);
    CHECK(easel.kept[1].anchors[0].price == 50.0);
}

TEST_CASE("Drawing: one is chosen by a click, and dragged whole or by a point", "[app]")
{
    Easel easel;
    easel.take(Tool::Line);
    easel.drag(easel.at(10.0, 55.0), easel.at(16.0, 58.0), Qt::ControlModifier);
    easel.press(Qt::Key_Escape);
    const Drawing before = easel.only();
    const QPoint middle = easel.at(13.0, 56.5);
    QTest::mouseClick(&easel.view, Qt::LeftButton, Qt::NoModifier, middle);
    REQUIRE(easel.view.pen().chosen());
    CHECK(easel.only() == before); // a click moves nothing
    easel.drag(middle, easel.at(15.0, 54.5));
    const Drawing after = easel.only();
    CHECK(after.anchors[0].day == *Day::parse("2024-01-17")); // two bars later
    CHECK(after.anchors[0].price == Approx(before.anchors[0].price - 2.0).margin(0.1));
    CHECK(after.anchors[1].price - after.anchors[0].price ==
          Approx(before.anchors[1].price - before.anchors[0].price));
    easel.drag(easel.at(18.0, after.anchors[1].price), easel.at(20.0, 60.0)); // its second point
    CHECK(easel.only().anchors[1] == Easel::anchor("2024-01-29", 60.0));
    CHECK(easel.only().anchors[0] == after.anchors[0]);
    // Beside it the chart pans, and nothing is chosen.
    const double from = easel.view.viewport().from();
    easel.view.showBars(5.0, 35.0);
    easel.drag(easel.at(25.0, 43.0), easel.at(20.0, 43.0));
    CHECK(easel.view.viewport().from() != from);
    CHECK_FALSE(easel.view.pen().chosen());
}

TEST_CASE("Drawing: what is locked stays, what is hidden is not chosen", "[app]")
{
    Easel easel;
    easel.take(Tool::Level);
    easel.click(10.0, 55.0, Qt::ControlModifier);
    easel.kept[0].isLocked = true;
    easel.view.pen().setDrawings(easel.kept);
    const Drawing locked = easel.only();
    easel.drag(easel.at(15.0, locked.anchors[0].price), easel.at(15.0, 45.0));
    easel.press(Qt::Key_Up, Qt::AltModifier);
    easel.press(Qt::Key_Delete);
    CHECK(easel.only() == locked);
    easel.press(Qt::Key_H, Qt::ShiftModifier);
    CHECK_FALSE(easel.view.pen().chosen());
    easel.press(Qt::Key_N);
    CHECK_FALSE(easel.view.pen().chosen());
    easel.press(Qt::Key_H, Qt::ShiftModifier);
    easel.press(Qt::Key_N);
    CHECK(easel.view.pen().chosen());
    easel.kept[0].isHidden = true;
    easel.view.pen().setDrawings(easel.kept);
    easel.press(Qt::Key_Escape);
    QTest::mouseClick(&easel.view, Qt::LeftButton, Qt::NoModifier,
                      easel.at(15.0, locked.anchors[0].price));
    CHECK_FALSE(easel.view.pen().chosen());
    // Who draws wants to see drawings.
    easel.press(Qt::Key_H, Qt::ShiftModifier);
    easel.take(Tool::Level);
    CHECK_FALSE(easel.view.pen().areAllHidden());
}

TEST_CASE("Drawing: it is copied as text and pasted, and other texts are told", "[app]")
{
    Easel easel;
    QApplication::clipboard()->setText(QStringLiteral("not a drawing"));
    QString fault;
    std::vector<Drawing> pasted;
    QObject::connect(&easel.view, &ChartView::failed, &easel.view,
                     [&](const QString& why) { fault = why; });
    QObject::connect(&easel.view.pen(), &DrawingPen::pasted, &easel.view,
                     [&](const Drawing& drawing) { pasted.push_back(drawing); });
    easel.press(Qt::Key_V, Qt::ControlModifier);
    CHECK(fault.contains(QStringLiteral("no drawing")));
    easel.take(Tool::Level);
    easel.click(20.0, 60.0);
    easel.press(Qt::Key_C, Qt::ControlModifier);
    easel.press(Qt::Key_V, Qt::ControlModifier);
    REQUIRE(pasted.size() == 1);
    CHECK(pasted[0].anchors == easel.only().anchors);
}

TEST_CASE("Drawing: the measure tells bars, days, money, share and true ranges", "[app]")
{
    Easel easel;
    easel.press(Qt::Key_M);
    CHECK(easel.view.pen().isDrawing());
    easel.drag(easel.at(20.0, 60.0), easel.at(30.0, 40.0));
    CHECK(easel.kept.empty()); // it is none
    CHECK(easel.view.pen().measured() ==
          QStringLiteral("10 sessions · 14 days · -20.00 · -33.3 % · -6.8 true ranges"));
    easel.press(Qt::Key_Escape);
    CHECK(easel.view.pen().measured().isEmpty());
}

TEST_CASE("Drawing: it lies on its days in weeks, and on a logarithmic scale", "[app]")
{
    Easel easel;
    easel.take(Tool::Line);
    easel.drag(easel.at(20.0, 60.0), easel.at(30.0, 40.0));
    easel.kept[0].colour = PalettePart::Mark; // which nothing else of this chart has
    easel.kept[0].width = 3.0;                // wide enough for pixels of the whole colour
    easel.view.pen().setDrawings(easel.kept);
    const auto inked = [&] {
        const QImage image = easel.view.grab().toImage();
        int count = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x)
                count += image.pixelColor(x, y) == look().mark ? 1 : 0;
        return count;
    };
    easel.press(Qt::Key_Escape);
    CHECK(inked() > 20);
    easel.view.setChart(madeChart(charts::BarScale::Week));
    CHECK(inked() > 20);
    easel.press(Qt::Key_L, Qt::ShiftModifier);
    CHECK(inked() > 20);
    // On weeks a point is set on the day within the week whose price it is.
    easel.take(Tool::Level);
    easel.click(20.0, 60.0);
    CHECK(easel.kept[1].anchors[0] == Easel::anchor("2024-01-29", 60.0));
    // Without bars keys and clicks draw nothing.
    easel.view.setChart(std::make_shared<const charts::Chart>(charts::emptyChart({})));
    easel.press(Qt::Key_D);
    CHECK_FALSE(QApplication::activePopupWidget());
    easel.press(Qt::Key_M);
    QTest::mouseClick(&easel.view, Qt::LeftButton, Qt::NoModifier, QPoint(100, 100));
    easel.press(Qt::Key_Return);
    CHECK(easel.kept.size() == 2);
    CHECK_FALSE(easel.view.grab().isNull());
}

TEST_CASE("Drawing: on minutes a point lies in its session, and days show it there", "[app]")
{
    Easel easel;
    // Ten bars of each of the last four days, the fourth bar with a high of 55.
    charts::SetUp setUp;
    setUp.scale = charts::BarScale::Minutes;
    charts::Chart chart = charts::emptyChart(setUp);
    chart.symbol = "MADE.C";
    chart.daily = std::make_shared<const market::Bars>(madeBars());
    market::Bars minutes;
    std::vector<std::uint32_t> ofDays;
    std::vector<double> shares;
    for (std::uint32_t day = 36; day < 40; ++day)
        for (int bar = 0; bar < 10; ++bar) {
            minutes.add({chart.daily->days[day], 50.0, bar == 3 ? 55.0 : 50.5, 49.5, 50.0, 10.0});
            ofDays.push_back(day);
            shares.push_back((bar + 1) / 10.0);
            chart.clock.push_back(600 + 5 * bar);
        }
    chart.places = charts::BarPlaces(ofDays, shares);
    chart.bars = std::make_shared<const market::Bars>(std::move(minutes));
    easel.view.setChart(std::make_shared<const charts::Chart>(std::move(chart)));
    const auto onMinutes = [&](double bar, double price) {
        return QPoint(static_cast<int>(easel.view.drawnPicture().xOf(bar)),
                      static_cast<int>(easel.view.drawnPicture().yOf(0, price)));
    };
    easel.take(Tool::Line);
    easel.drag(onMinutes(13.2, 54.9), onMinutes(29.0, 52.0)); // near a high, and on nothing
    const auto& anchors = easel.only().anchors;
    CHECK(anchors[0].day == *Day::parse("2024-02-21"));
    CHECK(anchors[0].price == 55.0);
    CHECK(anchors[0].inDay == Approx(-0.15)); // the middle of the fourth of ten
    CHECK(anchors[1].day == *Day::parse("2024-02-22"));
    CHECK(anchors[1].inDay == Approx(0.45));
    const auto again = drawings::drawingFromToml(drawings::toToml(easel.only()));
    REQUIRE(again);
    CHECK(again->anchors == anchors);
    // An arrow moves it by a bar, and it stays in its session.
    easel.press(Qt::Key_Right, Qt::AltModifier);
    CHECK(easel.only().anchors[0].inDay == Approx(-0.05));
    // On days the points lie across the day's bar.
    easel.view.setChart(madeChart());
    easel.view.pen().setDrawings(easel.kept);
    const QPointF begin = easel.view.pointOf({37.0 - 0.05, 55.0});
    QTest::mouseMove(&easel.view, begin.toPoint());
    QTest::mouseClick(&easel.view, Qt::LeftButton, Qt::NoModifier, begin.toPoint());
    CHECK(easel.view.pen().chosen());
}

TEST_CASE("Drawing: a chart whose drawings nobody keeps offers none", "[app]")
{
    ChartView view;
    view.setChart(madeChart());
    CHECK_FALSE(findAction(view, ActionId::Draw));
    CHECK_FALSE(findAction(view, ActionId::Measure));
}

TEST_CASE("Drawings dialog: names, texts and looks are told as they are changed", "[app]")
{
    Drawing level;
    level.id = 3;
    level.tool = Tool::Level;
    level.anchors = {Easel::anchor("2024-01-29", 60.0)};
    Drawing note = level;
    note.id = 5;
    note.tool = Tool::Note;
    note.text = "quay";
    DrawingsDialog dialog;
    std::vector<Drawing> all{level, note};
    std::vector<qint64> removed;
    QObject::connect(&dialog, &DrawingsDialog::looksChanged, &dialog, [&](const Drawing& drawing) {
        *std::ranges::find(all, drawing.id, &Drawing::id) = drawing;
        dialog.setDrawings(all);
    });
    QObject::connect(&dialog, &DrawingsDialog::removed, &dialog,
                     [&](qint64 id) { removed.push_back(id); });
    dialog.setDrawings(all);
    dialog.show(3);
    REQUIRE(QTest::qWaitForWindowActive(&dialog)); // or a line does not know that it is left
    auto* list = dialog.findChild<QListWidget*>();
    CHECK(list->count() == 2);
    CHECK(list->currentRow() == 0);
    auto* name = dialog.findChild<QLineEdit*>();
    name->setFocus();
    QTest::keyClicks(name, QStringLiteral(" pi\"vot "));
    QTest::keyClick(name, Qt::Key_Tab);
    CHECK(all[0].name == "pivot"); // a quote would end the name in an expression
    CHECK(list->item(0)->text().startsWith(QStringLiteral("pivot, ")));
    auto* text = dialog.findChild<QPlainTextEdit*>();
    CHECK_FALSE(text->isEnabled()); // a level has none
    list->setCurrentRow(1);
    CHECK(text->isEnabled());
    CHECK(text->toPlainText() == QStringLiteral("quay"));
    text->setFocus();
    text->moveCursor(QTextCursor::End);
    QTest::keyClicks(text, QStringLiteral(" opens"));
    CHECK(all[1].text == "quay opens");
    auto* colour = dialog.findChild<QComboBox*>();
    colour->setCurrentIndex(colour->findData(static_cast<int>(PalettePart::Fall)));
    Q_EMIT colour->activated(colour->currentIndex());
    CHECK(all[1].colour == PalettePart::Fall);
    for (auto* box : dialog.findChildren<QCheckBox*>())
        box->click();
    CHECK(all[1].isLogarithmic);
    CHECK(all[1].isLocked);
    CHECK(all[1].isHidden);
    for (auto* button : dialog.findChildren<QPushButton*>())
        if (button->text() == QStringLiteral("Remove it")) {
            button->click();
            CHECK(removed.empty()); // it is locked
            dialog.show(3);
            button->click();
        }
    CHECK(removed == std::vector<qint64>{3});
    CHECK(all[0].colour == PalettePart::Ink);
    dialog.setDrawings({});
    CHECK(list->count() == 0);
}

} // namespace sieve::app
