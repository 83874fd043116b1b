#include "app/sift/out_and_in.h"

#include "app/parts/number_text.h"
#include "app/sift/columns_menu.h"
#include "core/storage/file_aside.h"
#include "tests/app/opened.h"
#include "tests/app/sift_bench.h"

#include <QClipboard>
#include <QHeaderView>
#include <QInputDialog>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QPlainTextEdit>
#include <QSignalSpy>
#include <QTableView>
#include <catch2/catch.hpp>

namespace sieve::app {

namespace {

using namespace test;

namespace fs = std::filesystem;

const QMenu& outMenu(const WindowBench& bench)
{
    return *bench.window->findChild<OutAndIn*>();
}

QAbstractItemModel* results(const WindowBench& bench)
{
    return bench.find<QTableView>(QStringLiteral("Results"))->model();
}

void save(const WindowBench& bench, const QString& entryWords, const fs::path& file)
{
    inOpened<QFileDialog>(
        bench, [&] { entry(outMenu(bench), entryWords)->trigger(); },
        [&](QFileDialog& dialog) { choose(dialog, file); });
}

/// Opens the dialog on a text and takes what it found with the button of those words.
void paste(
    const WindowBench& bench, const QString& typed, const QString& button,
    const std::function<void()>& after = [] {})
{
    QApplication::clipboard()->setText(typed);
    inOpened<QDialog>(
        bench, [&] { entry(outMenu(bench), QStringLiteral("Symbols from a text"))->trigger(); },
        [&](QDialog& dialog) {
            auto* use = buttonOf<QPushButton>(dialog, button);
            waitUntil([use] { return use->isEnabled(); }, "symbols");
            after();
            use->click();
        });
}

} // namespace

TEST_CASE("Results: are saved as a table of any kind and as symbols", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > sma(close, 20)"}});
    QStringList notices;
    QObject::connect(bench.desk.get(), &Desk::told, bench.window.get(),
                     [&](const QString& notice) { notices << notice; });
    const auto* model = results(bench);
    const auto symbolAt = [&](int row) { return utf8(model->index(row, 0).data().toString()); };
    const int rows = model->rowCount();
    REQUIRE(rows > 10);

    save(bench, QStringLiteral("Save the table as CSV"), own.path() / "out.csv");
    const std::string csv = own.read("out.csv");
    CHECK(std::ranges::count(csv, '\n') == rows + 1);
    CHECK(csv.find(symbolAt(0) + ",") == csv.find('\n') + 1);
    CHECK(notices.filter(QStringLiteral("out.csv")).size() == 1);

    save(bench, QStringLiteral("Save the table as JSON"), own.path() / "out.json");
    const auto json = QJsonDocument::fromJson(QByteArray::fromStdString(own.read("out.json")));
    REQUIRE(json.isArray());
    CHECK(json.array().size() == rows);
    CHECK(json.array()[1].toObject().size() == model->columnCount());

    save(bench, QStringLiteral("Save the table as XLSX"), own.path() / "out.xlsx");
    CHECK(own.read("out.xlsx").substr(0, 2) == "PK"); // a workbook is a packed folder

    save(bench, QStringLiteral("Save the symbols as text"), own.path() / "out.txt");
    const std::string symbols = own.read("out.txt");
    CHECK(symbols.substr(0, symbolAt(0).size() + 1) == symbolAt(0) + "\n");
    CHECK(std::ranges::count(symbols, '\n') == rows);
}

TEST_CASE("Results: what cannot be saved is told, and the former file stays", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > sma(close, 20)"}});
    const QSignalSpy notices(bench.desk.get(), &Desk::noticed);
    fs::create_directories(own.path() / "out.csv.part"); // where it would be written first
    save(bench, QStringLiteral("Save the table as CSV"), own.path() / "out.csv");
    REQUIRE(notices.count() == 1);
    CHECK(notices[0][0].toString().contains(QStringLiteral("out.csv.part")));
    CHECK_FALSE(fs::exists(own.path() / "out.csv"));

    inOpened<QFileDialog>(
        bench, [&] { entry(outMenu(bench), QStringLiteral("Save the table as CSV"))->trigger(); },
        [](QFileDialog& dialog) { dialog.reject(); });
    CHECK(notices.count() == 1); // nothing was asked for
}

TEST_CASE("Paste: symbols become the universe, go into the tray, and onto lists", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 0"}});
    const auto symbolOf = [&](std::size_t stock) {
        return bench.desk->market().data().instrument(stock).symbol;
    };
    const QString mail =
        QStringLiteral("look at %1 and, later, %2.").arg(text(symbolOf(3)), text(symbolOf(5)));
    paste(bench, mail, QStringLiteral("As the universe"));
    CHECK(bench.desk->work().now().screen->universe ==
          "symbol in (\"" + symbolOf(3) + "\", \"" + symbolOf(5) + "\")");
    CHECK(results(bench)->rowCount() == 2);
    paste(bench, mail, QStringLiteral("Take in hand"));
    CHECK(bench.desk->work().now().tray->cards().size() == 2);

    const auto ontoList = [&](const QString& pasted, const QString& name) {
        paste(bench, pasted, QStringLiteral("Onto a list…"), [&bench, name] {
            answerNext<QInputDialog>(bench, [name](QInputDialog& which) {
                which.setTextValue(name);
                accept(which);
            });
        });
    };
    ontoList(mail, QStringLiteral("Harbour"));
    REQUIRE(bench.desk->work().now().lists.size() == 1);
    const watchlists::Watchlist list = *bench.desk->work().now().lists[0];
    CHECK(list.name == "Harbour");
    REQUIRE(list.entries.size() == 2);
    CHECK(list.entries[0].symbol == symbolOf(3));
    CHECK(list.entries[1].priceThen > 0.0);
    ontoList(text(symbolOf(7)), QStringLiteral("Harbour"));
    REQUIRE(bench.desk->work().now().lists.size() == 1);
    CHECK(bench.desk->work().now().lists[0]->entries.size() == 3);
    ontoList(text(symbolOf(8)), QStringLiteral("  ")); // no name, no list
    CHECK(bench.desk->work().now().lists.size() == 1);
    bench.desk->work().undoStack().undo();
    CHECK(bench.desk->work().now().lists[0]->entries.size() == 2);
}

TEST_CASE("Columns: a set is kept under a name, chosen again, and forgotten", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 0"}});
    const auto setColumns = [&](std::vector<std::string> columns) {
        bench.desk->work().edit(QStringLiteral("columns"), [&](Work& work) {
            work.screen.edit().columns = std::move(columns);
        });
        bench.settle();
    };
    auto* menu = bench.window->findChild<ColumnsMenu*>();
    const auto keepAs = [&](const QString& name) {
        inOpened<QInputDialog>(
            bench, [&] { entry(*menu, QStringLiteral("Keep these columns as a set"))->trigger(); },
            [&](QInputDialog& dialog) {
                dialog.setTextValue(name);
                accept(dialog);
            });
        Q_EMIT menu->aboutToShow();
    };
    setColumns({"symbol", "volume", "close"});
    keepAs(QStringLiteral("  Quay  ")); // blanks around a name are none of it
    setColumns({"symbol", "market_cap"});
    keepAs(QStringLiteral("Hills"));
    CHECK(entry(*menu, QStringLiteral("Hills"))->isChecked());
    CHECK_FALSE(entry(*menu, QStringLiteral("Quay"))->isChecked());
    CHECK(entry(*menu, QStringLiteral("Quay"))->toolTip() ==
          QStringLiteral("symbol, volume, close"));
    entry(*menu, QStringLiteral("Quay"))->trigger();
    bench.settle();
    CHECK(bench.desk->work().now().screen->columns ==
          std::vector<std::string>{"symbol", "volume", "close"});
    CHECK(results(bench)->columnCount() == 3);

    setColumns({"symbol", "close"});
    keepAs(QStringLiteral("Quay")); // the same name again is the set anew
    keepAs(QString());              // no name keeps nothing
    const auto countOf = [&](const QString& name) {
        return std::ranges::count(actionsOf(*menu), name, &QAction::text);
    };
    CHECK(countOf(QStringLiteral("Quay")) == 2); // to choose and to forget
    for (QAction* action : actionsOf(*menu->findChildren<QMenu*>().last()))
        if (action->text() == QStringLiteral("Quay"))
            action->trigger();
    Q_EMIT menu->aboutToShow();
    CHECK(countOf(QStringLiteral("Quay")) == 0);
    CHECK(countOf(QStringLiteral("Hills")) == 2);
}

TEST_CASE("Results: a head's menu sets the cell's picture and takes the column away", "[app]")
{
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    sift(bench, {{"close > 0"}});
    auto* table = bench.find<QTableView>(QStringLiteral("Results"));
    auto* head = table->horizontalHeader();
    const auto headOf = [&](int column) {
        return QPoint(head->sectionViewportPosition(column) + 8, head->height() / 2);
    };
    chooseAt(bench, head->viewport(), headOf(1), QStringLiteral("With a bar among all stocks"));
    CHECK(bench.desk->work().now().screen->cells.at("close") == language::CellGraphic::Bar);
    chooseAt(bench, head->viewport(), headOf(1), QStringLiteral("The figure alone"));
    const auto& cells = bench.desk->work().now().screen->cells;
    CHECK((!cells.contains("close") || cells.at("close") == language::CellGraphic::None));
    chooseAt(bench, head->viewport(), headOf(1), QStringLiteral("Take the column away"));
    CHECK(bench.desk->work().now().screen->columns == std::vector<std::string>{"symbol"});
    bench.desk->work().undoStack().undo();
    bench.settle();
    CHECK(table->model()->columnCount() == 2);
}

} // namespace sieve::app
