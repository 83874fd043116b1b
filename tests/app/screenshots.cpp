#include "tests/app/window_bench.h"

#include "app/frame/take_in_prices_dialog.h"

#include <QComboBox>
#include <QDir>
#include <QLineEdit>
#include <QTableView>
#include <QTreeWidget>
#include <cstdio>

// wise-sieve-screenshots FOLDER [PALETTE]: the pictures of the documentation, from the demo market.

namespace {

using sieve::test::WindowBench;

void take(const WindowBench& bench, const QDir& folder, const char* name)
{
    bench.settle();
    const QString path = folder.filePath(QLatin1String(name) + QStringLiteral(".png"));
    if (!bench.window->grab().save(path))
        throw std::runtime_error("cannot write " + path.toStdString());
}

/// A folder of prices as a bank might hand it out, with a fault or two.
void takeIntake(const WindowBench& bench, const QDir& folder)
{
    const sieve::test::OwnFolder files;
    files.write("KELP.csv", "Tag;Eroeffnung;Hoch;Tief;Schluss;Stueck\n"
                            "02.06.2025;1.010,5;1.020;1.000;1.015,25;12.000\n"
                            "03.06.2025;1.015;1.040;1.010;1.030;9.500\n"
                            "04.06.2025;1.030;1.031,5;1.002;1.004;14.200\n"
                            "05.06.2025;1.004;1.020;n. v.;1.018;8.100\n"
                            "06.06.2025;1.018;1.044;1.017;1.040,75;16.900\n"
                            "10.06.2025;1.042;1.052;1.038;1.049;11.300\n");
    sieve::app::TakeInPricesDialog dialog(bench.window.get());
    dialog.show();
    dialog.setSource(files.path());
    sieve::test::waitUntil([&] { return dialog.findChildren<QComboBox*>().back()->count() > 1; },
                           "the headings");
    sieve::intake::PriceLayout layout = dialog.layoutChosen();
    layout.decimalMark = ',';
    layout.thousandsMark = '.';
    layout.dayForm = sieve::intake::DayForm::DayMonthYear;
    layout.headings = {"", "Tag", "Eroeffnung", "Hoch", "Tief", "Schluss", "", "Stueck"};
    dialog.showLayout(layout);
    dialog.grab().save(folder.filePath(QStringLiteral("take_in_prices.png")));
}

void takeAll(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite", sieve::test::wholeDemoDataset());
    bench.settle();
    bench.find<QTreeWidget>(QStringLiteral("Groups"))->topLevelItem(2)->setExpanded(true);
    take(bench, folder, "market");
    bench.desk->setDay(*sieve::Day::parse("2026-07-01")); // the list below has aged since
    bench.go("sift");
    auto* results = bench.find<QTableView>(QStringLiteral("Results"));
    results->setCurrentIndex(results->model()->index(0, 0));
    QTest::keyClick(bench.window.get(), Qt::Key_Return, Qt::ControlModifier);
    bench.settle();
    auto* weigh = bench.window->place(QStringLiteral("weigh"));
    for (const char* reason : {"turning at the 50-day average", "wait for the high of June", ""}) {
        auto* line = bench.find<QLineEdit>(QStringLiteral("Reason"));
        line->setText(QLatin1String(reason));
        QTest::keyClick(weigh, Qt::Key_K);
        bench.settle();
    }
    QTest::keyClick(weigh, Qt::Key_X);
    QTest::keyClick(weigh, Qt::Key_L);
    bench.go("lists");
    bench.desk->goToLatest();
    take(bench, folder, "lists");
    bench.go("sift");
    results->setCurrentIndex(results->model()->index(0, 0));
    take(bench, folder, "sift");
    QTest::keyClick(bench.window.get(), Qt::Key_Return, Qt::ControlModifier);
    bench.settle();
    QTest::keyClick(weigh, Qt::Key_K);
    QTest::keyClick(weigh, Qt::Key_X);
    take(bench, folder, "weigh");
    takeIntake(bench, folder);
}

} // namespace

int main(int count, char** arguments)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(count, arguments);
    const QDir folder(count > 1 ? QString::fromLocal8Bit(arguments[1]) : QStringLiteral("."));
    sieve::app::wear(count > 2 && qstrcmp(arguments[2], "harbour") == 0
                         ? sieve::app::harbourPalette()
                         : sieve::app::paperPalette());
    try {
        takeAll(folder);
    } catch (const std::exception& fault) {
        std::fprintf(stderr, "screenshots: %s\n", fault.what());
        return 1;
    }
    return 0;
}
