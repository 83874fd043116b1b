#include "app/chart/layers_dialog.h"

#include "app/chart/ready_layers_dialog.h"
#include "app/look/look.h"
#include "app/parts/expression_edit.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QTest>
#include <QTreeWidget>
#include <catch2/catch.hpp>
#include <memory>

// The layers of a chart, changed one by one.

namespace sieve::app {

using charts::LayerForm;
using charts::SetUp;

namespace {

/// Prices with two layers, and a pane with one.
SetUp twoPanes()
{
    SetUp setUp;
    setUp.name = "Mine";
    setUp.panes.resize(2);
    setUp.panes[0].layers = {{"ema(close, 21)"}, {"sma(close, 50)"}};
    setUp.panes[1].layers = {{"volume", "", LayerForm::Columns}};
    return setUp;
}

struct Opened {
    explicit Opened(const SetUp& setUp = twoPanes()) : dialog(setUp)
    {
        dialog.show();
        REQUIRE(QTest::qWaitForWindowActive(&dialog));
        tree = dialog.findChild<QTreeWidget*>();
        QObject::connect(&dialog, &LayersDialog::changed, &dialog, [this] { ++changes; });
    }
    void choose(int pane, int layer) // -1: the pane
    {
        QTreeWidgetItem* item = tree->topLevelItem(pane);
        tree->setCurrentItem(layer < 0 ? item : item->child(layer));
    }
    void press(const char* button)
    {
        for (auto* each : dialog.findChildren<QPushButton*>())
            if (each->text() == QLatin1String(button))
                return each->click();
        FAIL("no button");
    }
    void type(const char* name, const char* expression)
    {
        for (auto* line : dialog.findChildren<ExpressionEdit*>())
            if (line->accessibleName() == QLatin1String(name)) {
                line->setText(QLatin1String(expression));
                Q_EMIT line->editingFinished();
            }
    }
    void as(LayerForm form)
    {
        for (auto* box : dialog.findChildren<QComboBox*>())
            if (box->findText(QStringLiteral("Columns")) >= 0) {
                box->setCurrentIndex(box->findData(static_cast<int>(form)));
                Q_EMIT box->activated(box->currentIndex());
            }
    }
    std::vector<std::string> shows(std::size_t pane) const
    {
        std::vector<std::string> all;
        for (const auto& layer : dialog.setUp().panes.at(pane).layers)
            all.push_back(layer.show);
        return all;
    }

    LayersDialog dialog;
    QTreeWidget* tree = nullptr;
    int changes = 0;
};

using Shows = std::vector<std::string>;

} // namespace

TEST_CASE("Layers dialog: layers and panes are added, and changed where they are", "[app]")
{
    Opened opened;
    CHECK(opened.tree->topLevelItemCount() == 2);
    opened.choose(0, 1);
    opened.type("What the layer shows", "wma(close, 30)");
    CHECK(opened.shows(0) == Shows{"ema(close, 21)", "wma(close, 30)"});
    opened.type("What the layer shows", "  ");
    CHECK(opened.shows(0)[1] == "wma(close, 30)"); // a layer shows something
    opened.press("Add a layer");
    CHECK(opened.shows(0).size() == 3);
    CHECK(opened.tree->currentItem() == opened.tree->topLevelItem(0)->child(2));
    opened.press("Add a pane");
    CHECK(opened.dialog.setUp().panes.size() == 3);
    CHECK(opened.shows(2).size() == 1);
    CHECK(opened.changes == 3);
    opened.as(LayerForm::Band); // a band has two edges
    CHECK(opened.dialog.setUp().panes[2].layers[0].to == "close");
    opened.type("The band's other edge, or when the rule leaves", "50");
    CHECK(opened.dialog.setUp().panes[2].layers[0].to == "50");
    opened.as(LayerForm::Line);
    CHECK(opened.dialog.setUp().panes[2].layers[0].to.empty());
    // Whatever was done, it is a set-up that can be kept.
    CHECK(*charts::setUpFromToml(toToml(opened.dialog.setUp())) == opened.dialog.setUp());
}

TEST_CASE("Layers dialog: they are moved within a pane and from pane to pane, and removed", "[app]")
{
    Opened opened;
    opened.choose(0, 0);
    opened.press("Move down");
    CHECK(opened.shows(0) == Shows{"sma(close, 50)", "ema(close, 21)"});
    opened.press("Move down"); // on into the next pane
    CHECK(opened.shows(0) == Shows{"sma(close, 50)"});
    CHECK(opened.shows(1) == Shows{"ema(close, 21)", "volume"});
    opened.press("Move up");
    CHECK(opened.shows(0) == Shows{"sma(close, 50)", "ema(close, 21)"});
    opened.choose(1, 0);
    opened.press("Move down"); // there is no pane after it
    CHECK(opened.shows(1) == Shows{"volume"});
    opened.press("Remove");
    CHECK(opened.shows(1).empty());
    opened.press("Remove"); // the pane
    CHECK(opened.dialog.setUp().panes.size() == 1);
    opened.press("Remove"); // the prices stay
    CHECK(opened.dialog.setUp().panes.size() == 1);
    opened.choose(0, 0);
    opened.press("Remove");
    opened.press("Remove");
    CHECK(opened.shows(0).empty());
    CHECK(*charts::setUpFromToml(toToml(opened.dialog.setUp())) == opened.dialog.setUp());
}

TEST_CASE("Layers dialog: a mistake is told beside its layer, a ready set-up becomes one's own",
          "[app]")
{
    SetUp setUp = charts::standardSetUp();
    Opened opened(setUp);
    opened.choose(0, 1);
    opened.type("What the layer shows", "smaa(close, 50)");
    CHECK(opened.dialog.setUp().name == setUp.name + ", changed");
    charts::Chart chart = charts::emptyChart(opened.dialog.setUp());
    chart.panes[0].layers[1].error = LocatedError{{1, 1, 0, 4, 4}, "no function 'smaa'", "sma"};
    opened.dialog.setChart(chart);
    const auto told = [&] {
        for (const auto* label : opened.dialog.findChildren<QLabel*>())
            if (label->text().contains(QStringLiteral("smaa")))
                return true;
        return false;
    };
    CHECK(told());
    CHECK(opened.tree->topLevelItem(0)->child(1)->foreground(0).color() == look().caution);
    CHECK(opened.tree->topLevelItem(0)->child(0)->foreground(0).color() == look().ink);
    opened.choose(0, 0);
    CHECK_FALSE(told());
    opened.type("What the layer shows", "close");
    opened.dialog.setChart(chart); // of a set-up before this one
    CHECK_FALSE(told());
    CHECK(opened.dialog.setUp().name == setUp.name + ", changed"); // once
}

TEST_CASE("Layers dialog: gone with a half typed line it changes nothing", "[app]")
{
    auto opened = std::make_unique<Opened>();
    int changes = 0;
    QObject::connect(&opened->dialog, &LayersDialog::changed, [&changes] { ++changes; });
    auto* line = opened->dialog.findChild<ExpressionEdit*>();
    line->setFocus();
    QTest::keyClicks(line, QStringLiteral("x"));
    opened.reset();
    CHECK(changes == 0);
}

TEST_CASE("Layers dialog: Ctrl+Up and Down step the number under the cursor", "[app]")
{
    Opened opened;
    opened.choose(0, 1); // sma(close, 50)
    ExpressionEdit* line = nullptr;
    for (auto* each : opened.dialog.findChildren<ExpressionEdit*>())
        if (each->accessibleName() == QStringLiteral("What the layer shows"))
            line = each;
    REQUIRE(line);
    line->setFocus();
    line->setCursorPosition(12);
    const int before = opened.changes;
    QTest::keyClick(line, Qt::Key_Up, Qt::ControlModifier);
    QTest::keyClick(line, Qt::Key_Up, Qt::ControlModifier);
    CHECK(opened.shows(0)[1] == "sma(close, 52)");
    QTest::keyClick(line, Qt::Key_Down, Qt::ControlModifier);
    CHECK(opened.shows(0)[1] == "sma(close, 51)");
    CHECK(opened.changes == before + 3);
}

TEST_CASE("Ready layers: found by letters, tried on the chart, kept or taken back", "[app]")
{
    ReadyLayersDialog dialog(twoPanes());
    dialog.show();
    REQUIRE(QTest::qWaitForWindowActive(&dialog));
    SetUp shown = twoPanes();
    QObject::connect(&dialog, &ReadyLayersDialog::tried, &dialog,
                     [&](const SetUp& tried) { shown = tried; });
    auto* words = dialog.findChild<QLineEdit*>();
    auto* found = dialog.findChild<QListWidget*>();
    CHECK(found->count() == static_cast<int>(charts::readyLayers().size()));
    QTest::keyClicks(words, QStringLiteral("sold short"));
    REQUIRE(found->count() == 1); // by its meaning
    CHECK(shown.panes.size() == 3);
    CHECK(shown.panes[2].layers[0].show == "short_share");
    words->clear();
    QTest::keyClicks(words, QStringLiteral("bands"));
    REQUIRE(found->count() >= 2);
    const SetUp first = shown;
    CHECK(first.panes.size() == 2); // in place of the one tried before
    CHECK(first.panes[0].layers.back().form == LayerForm::Band);
    QTest::keyClick(words, Qt::Key_Down);
    CHECK(shown != first);
    QTest::keyClick(words, Qt::Key_Up);
    CHECK(shown == first);
    words->setText(QStringLiteral("nothing like it"));
    CHECK(found->count() == 0);
    CHECK(shown == twoPanes());
    words->setText(QStringLiteral("RSI"));
    CHECK(shown != twoPanes());
    dialog.reject();
    CHECK(shown == twoPanes());
}

} // namespace sieve::app
