#include "app/desk/blend_button.h"
#include "app/desk/plan_dialog.h"
#include "app/parts/expression_edit.h"
#include "app/parts/scatter_picture.h"
#include "app/weigh/checklists_dialog.h"
#include "app/weigh/dossier_dialog.h"
#include "app/weigh/dossier_page.h"
#include "app/weigh/peers_scatter_dialog.h"
#include "app/weigh/side_by_side_dialog.h"
#include "app/weigh/stock_pages.h"
#include "app/weigh/verdict_dialog.h"
#include "app/weigh/weigh_place.h"
#include "core/watchlists/stocks.h"
#include "tests/app/opened.h"

#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <catch2/catch.hpp>
#include <set>

// Plans, checklists and verdicts, what moved a stock, others beside it, and its page: in the real
// window, by mouse and keys, on the disk and undone.

namespace sieve::app {

namespace {

using watchlists::TradePlan;

/// The first stock in Weigh, and a list.
struct Judging {
    Judging() : bench(std::make_unique<test::WindowBench>(file()))
    {
        bench->desk->work().edit(QStringLiteral("test"), [&](Work& work) {
            work.lists = {test::listOf(bench->desk->work().newId(), "First")};
        });
        bench->desk->focus().select(0);
        bench->go("weigh");
    }

    std::filesystem::path file() const { return own.path() / "library.sqlite"; }
    const Work& work() const { return bench->desk->work().now(); }
    const market::Market& market() const { return bench->desk->market().data(); }
    ChartView& chart() const { return *bench->chartIn("weigh"); }
    DossierPage& page() const
    {
        return *bench->window->place(QStringLiteral("weigh"))->findChild<DossierPage*>();
    }
    double close() const { return watchlists::priceOn(market(), 0, bench->desk->focus().day()); }
    void press(Qt::Key key, Qt::KeyboardModifiers with = Qt::NoModifier) const
    {
        QTest::keyClick(bench->window->place(QStringLiteral("weigh")), key, with);
        bench->settle();
    }
    template <class Dialog> Dialog& dialog() const
    {
        Dialog* found = nullptr;
        test::waitUntil(
            [&] {
                found = bench->window->findChild<Dialog*>();
                return found && found->isVisible();
            },
            "a dialog");
        bench->settle();
        return *found;
    }
    template <class Dialog> void end(Dialog& dialog) const
    {
        dialog.close();
        test::waitUntil([&] { return !bench->window->findChild<Dialog*>(); }, "its end");
        bench->activate();
    }
    void undo() const
    {
        bench->desk->work().undoStack().undo();
        bench->settle();
    }
    QPointF levelAt(double price) const
    {
        const QRectF plot = chart().drawnPicture().panes().front().plot;
        return {plot.left() + 14.0, chart().drawnPicture().yOf(0, price)};
    }
    void drag(double from, double to) const
    {
        const QPoint start = levelAt(from).toPoint();
        const QPoint end = levelAt(to).toPoint();
        QTest::mousePress(&chart(), Qt::LeftButton, {}, start);
        QTest::mouseMove(&chart(), (start + end) / 2);
        QTest::mouseMove(&chart(), end);
        QTest::mouseRelease(&chart(), Qt::LeftButton, {}, end);
        bench->settle();
    }

    test::OwnFolder own;
    std::unique_ptr<test::WindowBench> bench;
};

} // namespace

TEST_CASE("Plan: made by a key, dragged on the chart, kept with the entry, undone and on the disk",
          "[app]")
{
    Judging judging;
    CHECK(judging.work().tray->isEmpty());
    judging.press(Qt::Key_G);
    auto& dialog = judging.dialog<PlanDialog>();
    REQUIRE(judging.work().tray->cards().size() == 1); // taken in hand with its plan
    const double close = judging.close();
    const auto planned = [&] { return judging.work().tray->cards().at(0).plan.value(); };
    CHECK(planned().entry == Approx(close));
    CHECK(planned().stop == Approx(0.92 * close).epsilon(0.001));
    CHECK(planned().targets.size() == 1);
    // A price that is typed moves the gauge, one that cannot be is told and not kept.
    auto* stop = dialog.findChildren<QDoubleSpinBox*>().at(1);
    REQUIRE(stop->accessibleName() == QStringLiteral("Stop"));
    stop->setValue(0.9 * close);
    judging.bench->settle();
    CHECK(planned().stop == Approx(0.9 * close).epsilon(0.001));
    const TradePlan sound = planned();
    stop->setValue(1.2 * close);
    judging.bench->settle();
    CHECK(planned() == sound);
    CHECK(dialog.told() == QStringLiteral("The stop must be a price below the entry."));
    judging.end(dialog);

    const TradePlan before = planned();
    judging.drag(before.stop, 0.95 * close);
    CHECK(planned().stop == Approx(0.95 * close).epsilon(0.01));
    CHECK(planned().entry == before.entry);
    judging.undo();
    CHECK(planned() == before);
    judging.bench->desk->work().undoStack().redo();
    judging.bench->settle();
    judging.drag(planned().targets[0], 0.5 * close); // no further than just above the entry
    CHECK(planned().targets[0] > planned().entry);
    const TradePlan last = planned();
    const dossier::Part& part = *judging.page().dossier()->part("plan");
    CHECK(part.tables[0].key == "plan.own");
    CHECK(part.tables[0].rows[1].cells[0].value == last.entry);

    judging.press(Qt::Key_K);
    const auto entryPlan = [&] { return judging.work().lists[0]->entries.at(0).plan; };
    CHECK(entryPlan() == last);
    const watchlists::Verdict& verdict = *judging.work().verdicts->at(0);
    CHECK(verdict.symbol == judging.market().instrument(0).symbol);
    CHECK(verdict.said.size() == judging.work().checklists->front().questions.size());
    judging.undo();
    CHECK(judging.work().lists[0]->entries.empty());
    CHECK(judging.work().verdicts->empty());
    judging.bench->desk->work().undoStack().redo();
    judging.bench.reset();
    judging.bench = std::make_unique<test::WindowBench>(judging.file()); // a restart
    CHECK(entryPlan() == last);
    CHECK(judging.work().tray->cards().at(0).plan == last);
}

TEST_CASE("Plan: opening the dialog changes nothing of a plan, and none is left by a button",
          "[app]")
{
    Judging judging;
    const Day day = judging.bench->desk->focus().day();
    const double close = judging.close();
    const TradePlan exact{day, close, close / 1.1234567, {close * 1.1234567}, 12.0, true};
    judging.bench->desk->work().edit(QStringLiteral("test"), [&](Work& work) {
        const std::size_t stock = 0;
        addTo(work.tray.edit(), judging.market(), std::span(&stock, 1), day, {});
        work.tray.edit().setPlan(0, exact);
    });
    judging.bench->settle();
    judging.press(Qt::Key_G);
    auto& dialog = judging.dialog<PlanDialog>();
    CHECK(judging.work().tray->cards()[0].plan == exact);
    dialog.findChildren<QDoubleSpinBox*>().at(2)->setValue(1.5 * close); // the first target
    CHECK(judging.work().tray->cards()[0].plan->stop == exact.stop);     // as exact as it was
    for (auto* button : dialog.findChildren<QPushButton*>())
        if (button->text().contains(QStringLiteral("o plan")))
            button->click();
    judging.bench->settle();
    CHECK_FALSE(judging.work().tray->cards()[0].plan);
}

TEST_CASE("Plan: the dialog goes with the stock that it is about", "[app]")
{
    Judging judging;
    judging.press(Qt::Key_G);
    judging.dialog<PlanDialog>();
    judging.bench->desk->focus().select(1);
    judging.bench->settle();
    test::waitUntil([&] { return !judging.bench->window->findChild<PlanDialog*>(); }, "its end");
    CHECK(judging.work().tray->cards().size() == 1); // nothing was planned of the other
}

TEST_CASE("Verdict: answered by keys, written in a sentence, kept a day, undone", "[app]")
{
    Judging judging;
    judging.press(Qt::Key_V);
    auto& dialog = judging.dialog<VerdictDialog>();
    auto* questions = dialog.findChild<QTreeWidget*>();
    const auto& checklist = judging.work().checklists->front();
    REQUIRE(questions->topLevelItemCount() == static_cast<int>(checklist.questions.size()));
    const auto first = std::ranges::find_if(
        checklist.questions, [](const auto& question) { return question.rule.empty(); });
    const int own = static_cast<int>(first - checklist.questions.begin());
    // A rule answers itself, whatever is pressed on it.
    questions->setCurrentItem(questions->topLevelItem(0));
    QTest::keyClick(questions, Qt::Key_Y);
    judging.bench->settle();
    CHECK(judging.work().verdicts->empty());
    questions->setCurrentItem(questions->topLevelItem(own));
    QTest::keyClick(questions, Qt::Key_Y);
    judging.bench->settle();
    const auto said = [&] {
        return judging.work().verdicts->at(0)->said.at(static_cast<std::size_t>(own)).isYes;
    };
    CHECK(said() == true);
    CHECK(questions->topLevelItem(own)->text(0) == QStringLiteral("✓"));
    CHECK(questions->indexOfTopLevelItem(questions->currentItem()) == own);
    // Two answers in one breath: none is lost before the dossier has come again.
    QTest::keyClick(questions, Qt::Key_N);
    questions->setCurrentItem(questions->topLevelItem(own + 1));
    QTest::keyClick(questions, Qt::Key_Y);
    judging.bench->settle();
    CHECK(said() == false);
    CHECK(judging.work().verdicts->at(0)->said.at(static_cast<std::size_t>(own) + 1).isYes == true);
    questions->setCurrentItem(questions->topLevelItem(own));
    QTest::keyClick(questions, Qt::Key_Space);
    judging.bench->settle();
    CHECK(said() == std::nullopt);
    judging.undo();
    CHECK(said() == false);
    CHECK(questions->topLevelItem(own)->text(0) == QStringLiteral("✗"));
    auto* sentence = dialog.findChild<QLineEdit*>();
    QTest::keyClicks(sentence, QStringLiteral("Too dear as yet"));
    judging.end(dialog); // what is typed counts
    judging.bench->settle();
    REQUIRE(judging.work().verdicts->size() == 1);
    CHECK(judging.work().verdicts->at(0)->words == "Too dear as yet");
    CHECK(judging.work().verdicts->at(0)->on == judging.bench->desk->focus().day());
    CHECK_THAT(judging.page().dossier()->part("verdict")->words.back(),
               Catch::Contains("“Too dear as yet”"));
    // The window is closed while a sentence is being typed.
    judging.press(Qt::Key_V);
    QTest::keyClicks(judging.dialog<VerdictDialog>().findChild<QLineEdit*>(),
                     QStringLiteral(", wait"));
    judging.bench.reset();
    judging.bench = std::make_unique<test::WindowBench>(judging.file());
    judging.bench->desk->focus().select(0);
    judging.bench->go("weigh");
    CHECK(judging.work().verdicts->at(0)->words == "Too dear as yet, wait");
    // On an earlier day nothing of it was said.
    judging.press(Qt::Key_BracketLeft);
    judging.bench->settle();
    const auto& table = judging.page().dossier()->part("verdict")->tables[0];
    CHECK(isMissing(table.rows[static_cast<std::size_t>(own)].cells[0].value));
}

TEST_CASE("Verdict: a question is answered in the dossier by Return", "[app]")
{
    Judging judging;
    judging.press(Qt::Key_F);
    for (int step = 0;
         step < 40 && !judging.page().spokenRow().startsWith(QStringLiteral("I understand"));
         ++step)
        QTest::keyClick(&judging.page(), Qt::Key_Down);
    QTest::keyClick(&judging.page(), Qt::Key_Return);
    judging.bench->settle();
    REQUIRE(judging.work().verdicts->size() == 1);
    CHECK(judging.page().spokenRow().contains(QStringLiteral("you, ")));
    QTest::keyClick(&judging.page(), Qt::Key_Return);
    judging.bench->settle();
    CHECK(judging.work().verdicts->size() == 1); // the same verdict
}

TEST_CASE("Checklists: one is made, its rule is held to the language, and judged by", "[app]")
{
    Judging judging;
    judging.press(Qt::Key_V, Qt::ShiftModifier);
    auto& dialog = judging.dialog<ChecklistsDialog>();
    const auto button = [&](const QString& title) -> QPushButton& {
        for (auto* each : dialog.findChildren<QPushButton*>())
            if (each->text().remove(u'&').startsWith(title))
                return *each;
        throw std::runtime_error("no button");
    };
    const auto line = [&](const QString& name) -> QLineEdit& {
        for (auto* each : dialog.findChildren<QLineEdit*>())
            if (each->accessibleName() == name)
                return *each;
        throw std::runtime_error("no line");
    };
    button(QStringLiteral("New")).click();
    auto& keep = button(QStringLiteral("Keep"));
    CHECK_FALSE(keep.isEnabled()); // it has no name
    QTest::keyClicks(&line(QStringLiteral("Name of the checklist")), QStringLiteral("Short"));
    button(QStringLiteral("Add")).click();
    auto& words = line(QStringLiteral("Words of the question"));
    words.clear();
    QTest::keyClicks(&words, QStringLiteral("Above ten?"));
    auto& rule = line(QStringLiteral("Rule"));
    QTest::keyClicks(&rule, QStringLiteral("clos > 10"));
    CHECK_FALSE(keep.isEnabled());
    rule.clear();
    QTest::keyClicks(&rule, QStringLiteral("close > 0.01"));
    CHECK(keep.isEnabled());
    button(QStringLiteral("Add")).click();
    keep.click();
    judging.bench->settle();
    const auto* made = judging.work().findChecklist("Short");
    REQUIRE(made);
    REQUIRE(made->questions.size() == 2);
    CHECK(made->questions[0] == watchlists::Question{"Above ten?", "close > 0.01"});
    const auto& part = *judging.page().dossier()->part("verdict");
    CHECK(part.tables[0].title == "Short");
    CHECK(part.words[0] == "1 of 2 answered by yes, 1 open.");
    judging.undo();
    CHECK(judging.work().findChecklist("Short") == nullptr);
    CHECK(judging.page().dossier()->part("verdict")->tables[0].title == "Before buying");
}

TEST_CASE("Why it moved: the bar under the pointer, in a window of its own", "[app]")
{
    Judging judging;
    judging.chart().pointAt(judging.market().sessions()[judging.market().sessions().size() - 5]);
    judging.press(Qt::Key_Y);
    auto& dialog = judging.dialog<DossierDialog>();
    test::waitUntil([&] { return dialog.page().dossier(); }, "the answer");
    const dossier::Part& part = dialog.page().dossier()->parts.at(0);
    CHECK_THAT(
        part.title,
        Catch::Contains(judging.market().sessions()[judging.market().sessions().size() - 5].iso()));
    REQUIRE_FALSE(part.tables.empty());
    CHECK(part.tables[0].rows[0].title == "The stock");
}

TEST_CASE("Following: what is new is told, and once seen no more", "[app]")
{
    Judging judging;
    const Day day = judging.bench->desk->focus().day();
    judging.press(Qt::Key_U);
    REQUIRE(judging.work().weighing->followed.size() == 1);
    CHECK(judging.work().weighing->followed[0].seenTo == day);
    judging.bench->desk->work().edit(QStringLiteral("test"), [&](Work& work) {
        work.weighing.edit().followed[0].seenTo = day.plusDays(-200);
    });
    judging.press(Qt::Key_U, Qt::ShiftModifier);
    auto& dialog = judging.dialog<DossierDialog>();
    test::waitUntil([&] { return dialog.page().dossier(); }, "the digest");
    REQUIRE(dialog.page().dossier()->parts[0].tables.size() == 1);
    for (auto* button : dialog.findChildren<QPushButton*>())
        if (button->text().contains(QStringLiteral("seen")))
            button->click();
    judging.bench->settle();
    CHECK(judging.work().weighing->followed[0].seenTo == day);
    judging.bench->activate();
    judging.press(Qt::Key_U);
    CHECK(judging.work().weighing->followed.empty());
}

TEST_CASE("Side by side: two to four dossiers, part by part at one height", "[app]")
{
    Judging judging;
    judging.press(Qt::Key_C);
    auto& dialog = judging.dialog<SideBySideDialog>();
    auto* symbols = dialog.findChild<QLineEdit*>();
    const auto shows = [&](const QString& text, std::size_t count) {
        symbols->setText(text);
        QTest::keyClick(symbols, Qt::Key_Return);
        test::waitUntil([&] { return dialog.shown() == count; }, "the dossiers");
        QTest::qWait(50); // until they are laid out
    };
    QStringList some;
    for (std::size_t stock = 0; some.size() < 5; ++stock)
        if (judging.market().isListed(stock, judging.bench->desk->focus().day()) &&
            !judging.market().isIndex(stock))
            some << QString::fromStdString(judging.market().instrument(stock).symbol);
    shows(some.mid(0, 2).join(u' '), 2);
    for (const std::string& part : dossier::partKeys()) {
        INFO(part);
        CHECK(dialog.page(0).topOf(part) == dialog.page(1).topOf(part));
        CHECK(dialog.page(0).topOf(part).has_value());
    }
    CHECK(dialog.page(0).dossier()->symbol == some[0].toStdString());
    CHECK(dialog.page(1).dossier()->symbol == some[1].toStdString());
    shows(some.join(u' '), 4);
    CHECK(dialog.told() == QStringLiteral("The first four are shown."));
    CHECK(dialog.page(3).topOf("events") == dialog.page(0).topOf("events"));
    shows(QStringLiteral("nobody"), 0);
}

TEST_CASE("Peers: as a scatter of two figures", "[app]")
{
    Judging judging;
    // One that has peers.
    for (std::size_t stock = 0; stock < judging.market().size(); ++stock) {
        judging.bench->desk->focus().select(stock);
        judging.bench->settle();
        const auto* part = judging.page().dossier()->part("peers");
        if (!part->tables.empty() && part->tables[0].rows.size() > 3)
            break;
    }
    judging.press(Qt::Key_T);
    auto& dialog = judging.dialog<PeersScatterDialog>();
    auto* figure = dialog.findChildren<ExpressionEdit*>().at(0);
    figure->setText(QStringLiteral("close"));
    Q_EMIT figure->editingFinished();
    dialog.findChildren<ExpressionEdit*>().at(1)->setText(QStringLiteral("year_change"));
    Q_EMIT dialog.findChildren<ExpressionEdit*>().at(1)->editingFinished();
    judging.bench->settle();
    const auto& scatter = dialog.picture().scatter();
    REQUIRE(scatter.points.size() >= 2);
    CHECK(scatter.points.back().stock == *judging.bench->desk->focus().selected());
    CHECK(std::ranges::count(scatter.points, true, &screens::ScatterPoint::passes) == 1);
}

TEST_CASE("Blend: weighed in the dossier, made a field, and the same in Market", "[app]")
{
    Judging judging;
    auto* blend = judging.bench->window->place(QStringLiteral("weigh"))->findChild<BlendButton*>();
    blend->click();
    auto* menu = QApplication::activePopupWidget();
    REQUIRE(menu);
    menu->findChildren<QDoubleSpinBox*>().at(0)->setValue(4.0);
    judging.bench->settle();
    const auto& rows = judging.page().dossier()->part("score")->tables[0].rows;
    CHECK(rows.back().title == "Your blend");
    menu->findChild<QPushButton*>()->click();
    judging.bench->settle();
    const auto* field = judging.work().fields->vocabulary().field("own_score");
    REQUIRE(field);
    CHECK(field->formula == rows.back().cells[0].expression);
    judging.bench->go("market");
    for (const auto* each : judging.bench->window->findChildren<BlendButton*>())
        CHECK(each->weights()[0] == 4.0);
    judging.undo();
    CHECK(judging.work().fields->vocabulary().field("own_score") == nullptr);
}

TEST_CASE("Pages: one stock, a booklet, and a folder that cannot be written", "[app]")
{
    Judging judging;
    auto& place = *qobject_cast<WeighPlace*>(judging.bench->window->place(QStringLiteral("weigh")));
    QString noticed;
    QObject::connect(judging.bench->desk.get(), &Desk::noticed, &place,
                     [&](const QString& notice) { noticed = notice; });
    const auto write = [&](std::vector<std::size_t> stocks, const QString& title,
                           const std::string& name) {
        noticed.clear();
        place.writePages(place.pagesOf(std::move(stocks), title), QString::fromStdString(name));
        test::waitUntil([&] { return !noticed.isEmpty(); }, "a notice");
        return noticed;
    };
    const std::string page = (judging.own.path() / "page.pdf").string();
    CHECK(write({0}, {}, page).contains(QStringLiteral("The page is in")));
    CHECK(judging.own.read("page.pdf").starts_with("%PDF"));
    const std::string booklet = (judging.own.path() / "booklet.pdf").string();
    CHECK(write({0, 1, 2}, QStringLiteral("Three"), booklet)
              .contains(QStringLiteral("4 pages are in"))); // with that of contents
    CHECK(write({0}, {}, "/proc/nowhere/page.pdf").contains(QStringLiteral("could be written")));
}

} // namespace sieve::app
