#include "app/desk/in_hand.h"
#include "app/parts/actions.h"
#include "app/weigh/dossier_page.h"
#include "app/weigh/reason_menu.h"
#include "app/weigh/sitting_dialog.h"
#include "tests/app/opened.h"

#include <QClipboard>
#include <QInputDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTableWidget>
#include <catch2/catch.hpp>

// A whole sitting by keys: reasons, the summary, those set aside again, and going on where one
// stopped.

namespace sieve::app {

namespace {

/// Gives a text in the dialog that comes next.
void answerNext(const test::WindowBench& bench, const QString& given)
{
    QTimer::singleShot(0, bench.window.get(), [given] {
        QInputDialog* dialog = nullptr;
        test::waitUntil(
            [&] {
                dialog = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
                return dialog && dialog->isVisible();
            },
            "a question");
        dialog->findChild<QPlainTextEdit*>()->setPlainText(given);
        dialog->accept();
    });
}

struct Sitter {
    explicit Sitter(std::size_t count) : bench(std::make_unique<test::WindowBench>(file()))
    {
        for (std::size_t stock = 0; symbols.size() < count; ++stock)
            if (const auto& market = bench->desk->market().data();
                market.isListed(stock, market.sessions().back()) && !market.isIndex(stock))
                symbols.push_back(market.instrument(stock).symbol);
        bench->desk->work().edit(QStringLiteral("test"), [&](Work& work) {
            work.tray = test::trayOf(*bench, symbols, "test");
            work.lists = {test::listOf(1, "First")};
        });
        bench->desk->focus().selectSymbol(symbols[0]);
        bench->go("weigh");
    }

    std::filesystem::path file() const { return own.path() / "library.sqlite"; }
    void press(Qt::Key key, Qt::KeyboardModifiers with = Qt::NoModifier) const
    {
        QTest::keyClick(bench->window->place(QStringLiteral("weigh")), key, with);
        bench->settle();
    }
    const watchlists::Tray& tray() const { return *bench->desk->work().now().tray; }
    std::string selected() const
    {
        return bench->desk->market().data().instrument(*bench->desk->focus().selected()).symbol;
    }
    void giveReason(int number) const
    {
        press(Qt::Key_W);
        auto* menu = qobject_cast<ReasonMenu*>(QApplication::activePopupWidget());
        REQUIRE(menu);
        QTest::keyClick(menu, static_cast<Qt::Key>(Qt::Key_0 + number));
        bench->settle();
    }
    SittingDialog& summary() const
    {
        auto* dialog = bench->window->findChild<SittingDialog*>();
        REQUIRE(dialog);
        return *dialog;
    }

    test::OwnFolder own;
    std::unique_ptr<test::WindowBench> bench;
    std::vector<std::string> symbols;
};

} // namespace

TEST_CASE("Sitting: forty candidates by keys alone, the summary, and those set aside again",
          "[app]")
{
    Sitter sitter(40);
    const auto& reasons = sitter.bench->desk->work().now().weighing->reasons;
    for (int number = 0; number < 40; ++number) {
        CHECK(sitter.selected() == sitter.symbols[static_cast<std::size_t>(number)]);
        if (number % 10 == 0)
            sitter.giveReason(3);
        sitter.press(number % 8 == 7 ? Qt::Key_K : number % 8 == 5 ? Qt::Key_L : Qt::Key_X);
    }
    const watchlists::TrayCounts counts = sitter.tray().counts();
    CHECK(counts.kept == 5);
    CHECK(counts.later == 5);
    CHECK(counts.dropped == 30);
    CHECK(sitter.tray().cards()[10].reason == reasons[2]);
    auto& summary = sitter.summary();
    const auto* table = summary.findChild<QTableWidget*>();
    REQUIRE(table->rowCount() == 2);
    CHECK(table->item(0, 0)->text() == QString::fromStdString(reasons[2]));
    CHECK(table->item(0, 2)->text() == QStringLiteral("4"));
    CHECK(summary.findChild<QLabel*>()->text().contains(
        QStringLiteral("40 in hand: 5 kept, 30 dropped, 5 set aside, 0 undecided.")));
    CHECK(summary.findChild<QLabel*>()->text().contains(QStringLiteral("seconds")));
    for (auto* button : summary.findChildren<QPushButton*>())
        if (button->text().contains(QStringLiteral("Again")))
            QTest::mouseClick(button, Qt::LeftButton);
    sitter.bench->settle();
    CHECK(sitter.tray().counts().open == 5);
    CHECK(sitter.selected() == sitter.symbols[5]);
    sitter.bench->activate();
    sitter.press(Qt::Key_X); // goes on over them
    CHECK(sitter.selected() == sitter.symbols[13]);
    sitter.bench->desk->work().undoStack().undo();
    sitter.bench->desk->work().undoStack().undo();
    CHECK(sitter.tray().counts().later == 5);
}

TEST_CASE("Sitting: after a restart it goes on at the same card", "[app]")
{
    Sitter sitter(6);
    sitter.press(Qt::Key_X);
    sitter.press(Qt::Key_X);
    sitter.press(Qt::Key_Space);
    CHECK(sitter.selected() == sitter.symbols[3]);
    sitter.bench.reset();
    sitter.bench = std::make_unique<test::WindowBench>(sitter.file());
    CHECK(sitter.selected() == sitter.symbols[3]);
    sitter.press(Qt::Key_S); // the seconds of the two decisions are not forgotten
    CHECK(sitter.summary().findChild<QLabel*>()->text().contains(QStringLiteral("seconds")));
}

TEST_CASE("Sitting: the own list of reasons is changed, and undone", "[app]")
{
    Sitter sitter(3);
    sitter.press(Qt::Key_W);
    auto* menu = sitter.bench->window->findChild<ReasonMenu*>();
    REQUIRE(menu);
    answerNext(*sitter.bench, QStringLiteral("Thin & wide\n\n  Dear  \n"));
    menu->actions().back()->trigger();
    sitter.bench->settle();
    const auto& work = sitter.bench->desk->work().now();
    CHECK(work.weighing->reasons == std::vector<std::string>{"Thin & wide", "Dear"});
    sitter.bench->activate();
    sitter.giveReason(1);
    CHECK(sitter.tray().cards()[0].reason == "Thin & wide");
    sitter.bench->desk->work().undoStack().undo();
    sitter.bench->desk->work().undoStack().undo();
    CHECK(*work.weighing == watchlists::standardWeighing());
}

TEST_CASE("Weigh: peers are chosen by hand and remembered", "[app]")
{
    Sitter sitter(3);
    const auto choose = [&](const QString& given) {
        sitter.bench->activate();
        answerNext(*sitter.bench, given);
        sitter.press(Qt::Key_P);
    };
    const auto peers = [&] {
        std::vector<std::string> titles;
        const auto& part =
            *sitter.bench->window->findChild<DossierPage*>()->dossier()->part("peers");
        for (const auto& table : part.tables)
            for (const auto& row : table.rows)
                titles.push_back(row.title);
        return titles;
    };
    const auto proposed = peers();
    choose(QString::fromStdString(sitter.symbols[1] + ", " + sitter.symbols[2]));
    CHECK(peers() == std::vector<std::string>{sitter.symbols[0], sitter.symbols[1],
                                              sitter.symbols[2], "Median of the peers"});
    sitter.press(Qt::Key_Space);
    sitter.press(Qt::Key_Space, Qt::ShiftModifier);
    CHECK(peers().size() == 4);
    choose(QString());
    CHECK(peers() == proposed);
}

} // namespace sieve::app
