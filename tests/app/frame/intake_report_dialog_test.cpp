#include "app/frame/intake_report_dialog.h"

#include "app/parts/number_text.h"
#include "tests/app/window_bench.h"

#include <QLineEdit>
#include <QTableView>
#include <catch2/catch.hpp>

namespace sieve::app {

TEST_CASE("Intake report: every finding has a row, and words find it", "[app]")
{
    auto report = std::make_shared<intake::IntakeReport>();
    report->rows = 10;
    report->findings = {
        {"bars/daily/A.csv", 3, "high", "9", "the high lies under the low", "row left out"},
        {"actions.csv", 0, "", "", "the file is empty", "file left out"}};
    IntakeReportDialog dialog(report, nullptr);
    const auto* table = dialog.findChild<QTableView*>();
    CHECK(table->model()->rowCount() == 2);
    CHECK(table->model()->index(0, 1).data().toInt() == 3);
    CHECK_FALSE(table->model()->index(1, 1).data().isValid()); // the file as a whole
    dialog.findChild<QLineEdit*>()->setText(QStringLiteral("EMPTY"));
    test::waitUntil([&] { return table->model()->rowCount() == 1; }, "the finding");
    CHECK(table->model()->index(0, 0).data().toString() == QStringLiteral("actions.csv"));
    dialog.findChild<QLineEdit*>()->setText(QStringLiteral("3"));
    test::waitUntil([&] { return table->model()->index(0, 1).data().toInt() == 3; }, "the line");
    dialog.findChild<QLineEdit*>()->clear();
    test::waitUntil([&] { return table->model()->rowCount() == 2; }, "all of them");
}

} // namespace sieve::app
