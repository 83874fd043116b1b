#include "app/parts/table_model.h"

#include "app/look/look.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "tests/app/one_stock.h"

#include <QAbstractItemModelTester>
#include <QClipboard>
#include <QMimeData>
#include <QTableView>
#include <QTest>
#include <catch2/catch.hpp>

namespace sieve::app {

using test::oneStock;

namespace {

std::shared_ptr<screens::ResultTable> tableOf(const market::MarketPtr& market)
{
    auto table = std::make_shared<screens::ResultTable>();
    table->rows = {0, 0};
    table->columns.resize(3);
    table->columns[0] = {"symbol",    "Symbol", "Symbol",       "The name", Kind::Text,
                         Unit::Plain, 0,        {1.0, missing}, missing,    std::nullopt};
    table->columns[0].figures[0] = market->text(0, market::TextField::Symbol);
    table->columns[1] = {"change",      "Change", "Chg",         "How far", Kind::Number,
                         Unit::Percent, 1,        {0.05, -0.02}, 0.015,     std::nullopt};
    table->columns[2] = {"on",        "On", "On",           "Whether", Kind::YesNo,
                         Unit::Plain, 0,    {1.0, missing}, missing,   std::nullopt};
    return table;
}

} // namespace

TEST_CASE("Table model: keeps the promises of a model and shows the core's figures", "[app]")
{
    const auto market = oneStock();
    TableModel model;
    const QAbstractItemModelTester tester(&model);
    CHECK(model.rowCount() == 0);
    model.setTable(tableOf(market), market);
    CHECK(model.rowCount() == 2);
    CHECK(model.columnCount() == 3);
    const auto shown = [&](int row, int column) {
        return model.index(row, column).data().toString();
    };
    CHECK(shown(0, 0) == QStringLiteral("AAAA.C"));
    auto old = tableOf(market);
    old->idle = {12, 0};
    model.setTable(old, market);
    CHECK(shown(0, 0) == QStringLiteral("AAAA.C (12 d)"));
    CHECK(model.index(0, 0)
              .data(Qt::ToolTipRole)
              .toString()
              .contains(QStringLiteral("12 sessions old")));
    CHECK_FALSE(model.index(1, 0).data(Qt::ToolTipRole).isValid());
    QTableView view;
    view.setModel(&model);
    const std::unique_ptr<QMimeData> copied(copyOf(view));
    CHECK(copied->text().contains(QStringLiteral("AAAA.C (12 d)")));
    const QByteArray raw = copied->data(QStringLiteral("text/tab-separated-values"));
    CHECK(raw.contains("AAAA.C\t")); // another program knows it by its symbol
    CHECK_FALSE(raw.contains("12 d"));
    model.setTable(tableOf(market), market);
    CHECK(shown(1, 0) == QStringLiteral("–"));
    CHECK(shown(0, 1) == QStringLiteral("5.0 %"));
    CHECK(shown(1, 1) == QStringLiteral("-2.0 %"));
    CHECK(shown(0, 2) == QStringLiteral("yes"));
    CHECK(model.index(1, 1).data(Qt::ForegroundRole).value<QColor>() == look().fall);
    CHECK_FALSE(model.index(0, 1).data(Qt::ForegroundRole).isValid());
    CHECK(model.headerData(1, Qt::Horizontal).toString() == QStringLiteral("Chg"));
    const QString tip = model.headerData(1, Qt::Horizontal, Qt::ToolTipRole).toString();
    CHECK(tip.contains(QStringLiteral("How far")));
    CHECK(tip.contains(QStringLiteral("1.5 %"))); // the median
    CHECK(model.rowOf(0) == 0);
    CHECK(model.rowOf(7) == -1);
}

TEST_CASE("Table model: rows leave as their symbols, each once, in the order that is shown",
          "[app]")
{
    const auto market = oneStock();
    TableModel model;
    model.setTable(tableOf(market), market);
    const std::unique_ptr<QMimeData> both(model.mimeData(
        {model.index(1, 0), model.index(0, 2), model.index(0, 0), model.index(1, 1)}));
    CHECK(both->text() == QStringLiteral("AAAA.C\nAAAA.C"));
    const std::unique_ptr<QMimeData> one(model.mimeData({model.index(1, 0), model.index(1, 1)}));
    CHECK(one->text() == QStringLiteral("AAAA.C"));
}

TEST_CASE("Tables: Ctrl+C copies head and rows for a spreadsheet", "[app]")
{
    const auto market = oneStock();
    TableModel model;
    model.setTable(tableOf(market), market);
    QTableView table;
    table.setModel(&model);
    prepareTable(&table);
    table.show();
    REQUIRE(QTest::qWaitForWindowActive(&table));
    table.setFocus();
    QTest::keyClick(&table, Qt::Key_C, Qt::ControlModifier);
    CHECK(QApplication::clipboard()->text() ==
          QStringLiteral("Symbol\tChg\tOn\nAAAA.C\t5.0 %\tyes\n–\t-2.0 %\t–"));
}

TEST_CASE("Table model: money in another currency bears it, and tells what it is worth", "[app]")
{
    const auto market = oneStock();
    TableModel model;
    auto table = tableOf(market);
    table->currency = "vl";
    table->otherCurrencies = {"dn", ""};
    screens::TableColumn money;
    money.text = "close";
    money.unit = Unit::Money;
    money.figures = {1204.5, 20.0};
    money.inMarket = {361.35, 20.0};
    table->columns.push_back(money);
    money.inMarket[0] = missing;
    table->columns.push_back(money);
    model.setTable(table, market);
    const auto shown = [&](int row, int column, int role) {
        return model.index(row, column).data(role).toString();
    };
    CHECK(shown(0, 3, Qt::DisplayRole) == QStringLiteral("dn\u00A01,204.50"));
    CHECK(shown(0, 3, Qt::EditRole) == QStringLiteral("1,204.50"));
    CHECK(shown(0, 3, Qt::ToolTipRole) ==
          QStringLiteral("dn\u00A01,204.50 is vl\u00A0361.35 at the rate of the day"));
    CHECK(shown(1, 3, Qt::DisplayRole) == QStringLiteral("20.00"));
    CHECK_FALSE(model.index(1, 3).data(Qt::ToolTipRole).isValid());
    CHECK(shown(0, 4, Qt::ToolTipRole).contains(QStringLiteral("No exchange rate of dn to vl")));
    CHECK(shown(0, 1, Qt::DisplayRole) == QStringLiteral("5.0 %")); // a percentage has none
}

} // namespace sieve::app
