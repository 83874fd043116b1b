#include "app/frame/main_window.h"

#include "app/desk/asker.h"
#include "app/frame/tray_bar.h"
#include "app/parts/number_text.h"
#include "tests/app/window_bench.h"

#include <QLabel>
#include <QToolButton>
#include <catch2/catch.hpp>

namespace sieve::app {

using test::OwnFolder;
using test::WindowBench;

TEST_CASE("As-of bar: its buttons step, and it says when it looks back", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    const Day latest = bench.desk->focus().day();
    const auto lookingBack = [&] {
        for (const auto* label : bench.window->findChildren<QLabel*>())
            if (label->text().startsWith(QStringLiteral("Looking back")))
                return label->isVisible();
        return false;
    };
    CHECK_FALSE(lookingBack());
    auto* earlier = bench.find<QToolButton>(QStringLiteral("One session earlier"));
    auto* later = bench.find<QToolButton>(QStringLiteral("One session later"));
    CHECK_FALSE(later->isEnabled());
    QTest::mouseClick(earlier, Qt::LeftButton);
    CHECK(bench.desk->focus().day() < latest);
    CHECK(lookingBack());
    QTest::mouseClick(later, Qt::LeftButton);
    CHECK(bench.desk->focus().day() == latest);
    CHECK_FALSE(lookingBack());
}

TEST_CASE("Tray: a click selects a card, a double click goes to Weigh", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    std::vector<std::string> symbols;
    for (const std::size_t stock : {2U, 5U, 9U})
        symbols.push_back(bench.desk->market().data().instrument(stock).symbol);
    bench.desk->work().edit(QStringLiteral("fill"),
                            [&](Work& work) { work.tray = test::trayOf(bench, symbols, "test"); });
    bench.settle();
    auto* cards = bench.find<TrayCards>(QStringLiteral("Candidates in hand"));
    QTest::mouseClick(cards, Qt::LeftButton, {}, cards->card(1).center());
    CHECK(bench.desk->focus().selected() == std::optional<std::size_t>(5));
    CHECK(bench.window->shownPlace() == QStringLiteral("market"));
    QTest::mouseDClick(cards, Qt::LeftButton, {}, cards->card(2).center());
    CHECK(bench.desk->focus().selected() == std::optional<std::size_t>(9));
    CHECK(bench.window->shownPlace() == QStringLiteral("weigh"));
    QTest::mouseClick(cards, Qt::LeftButton, {}, cards->card(0).topRight() + QPoint(3, 5));
    CHECK(bench.desk->focus().selected() == std::optional<std::size_t>(9)); // between two cards
}

TEST_CASE("Window: a place answers for the day when it is seen, not before", "[app]")
{
    const OwnFolder own;
    const test::WindowBench bench(own.path() / "library.sqlite");
    bench.go("sift");
    const auto summary = [&] {
        QStringList all;
        for (const auto* label :
             bench.window->place(QStringLiteral("sift"))->findChildren<QLabel*>())
            all << label->text();
        return all.filter(QStringLiteral(" on ")).value(0);
    };
    const QString before = summary();
    bench.go("market");
    bench.desk->focus().stepSessions(-30);
    bench.settle();
    CHECK(summary() == before);
    bench.go("sift");
    CHECK(summary() != before);
    CHECK(summary().contains(shortDayText(bench.desk->focus().day())));
}

TEST_CASE("Window: whichever question fails, its fault is told", "[app]")
{
    const OwnFolder own;
    const test::WindowBench bench(own.path() / "library.sqlite");
    for (const char* place : {"market", "sift", "weigh", "lists"})
        bench.go(place);
    QStringList notices;
    QObject::connect(bench.desk.get(), &Desk::noticed, bench.window.get(),
                     [&](const QString& notice) { notices << notice; });
    QObject::connect(&bench.desk->market().keeper(), &MarketKeeper::failed, bench.window.get(),
                     [&](const QString& notice) { notices << notice; });
    int askers = 0;
    for (QObject* root :
         {static_cast<QObject*>(bench.desk.get()), static_cast<QObject*>(bench.window.get())})
        for (auto* asker : root->findChildren<Asker*>()) {
            notices.clear();
            Q_EMIT asker->failed(QStringLiteral("the quay is closed"));
            INFO("asked by " << asker->parent()->metaObject()->className());
            CHECK(notices.filter(QStringLiteral("the quay is closed")).size() == 1);
            ++askers;
        }
    CHECK(askers > 10);
}

} // namespace sieve::app
