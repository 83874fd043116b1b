#include "tests/app/window_bench.h"

#include <QDir>
#include <QLineEdit>
#include <QTableView>
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

void takeAll(const QDir& folder)
{
    const sieve::test::OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
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
