#include "app/sift/column_chooser.h"

#include "app/parts/number_text.h"
#include "tests/app/window_bench.h"

#include <QLineEdit>
#include <QListWidget>
#include <QSignalSpy>
#include <catch2/catch.hpp>

namespace sieve::app {

TEST_CASE("Column chooser: finds by word, ticks, and takes an expression of one's own", "[app]")
{
    ColumnChooser chooser({"symbol", "close"}, {}, language::Vocabulary::builtIn(), nullptr);
    CHECK(chooser.columns() == std::vector<std::string>{"symbol", "close"});
    auto* search = chooser.findChild<QLineEdit*>();
    auto* list = chooser.findChild<QListWidget*>();
    search->setText(QStringLiteral("earnings multiple"));
    search->setText(QStringLiteral("EPS quarter"));
    int visible = 0;
    for (int row = 0; row < list->count(); ++row)
        if (!list->item(row)->isHidden()) {
            ++visible;
            if (list->item(row)->data(Qt::UserRole).toString() ==
                QStringLiteral("eps_growth_quarter"))
                list->item(row)->setCheckState(Qt::Checked);
        }
    CHECK(visible >= 1);
    CHECK(visible < list->count() / 10);
    search->setText(QStringLiteral("close / open - 1"));
    QTest::keyClick(search, Qt::Key_Return);
    CHECK(chooser.columns() ==
          std::vector<std::string>{"close / open - 1", "symbol", "close", "eps_growth_quarter"});
}

} // namespace sieve::app
