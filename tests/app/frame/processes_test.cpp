#include "app/frame/doorbell.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "core/library/kept_work.h"
#include "core/library/settings.h"
#include "tests/app/opened.h"

#include <QProcess>
#include <catch2/catch.hpp>
#include <cstdio>
#include <random>

// Real programs beside each other, and programs that are killed.

namespace sieve::app {

namespace {

using test::OwnFolder;
using test::waitUntil;
using test::WindowBench;

constexpr const char* killedLibrary = "SIEVE_KILLED_LIBRARY"; // for the program that is killed

/// A program that ends with the test.
class Running {
public:
    Running(const OwnFolder& home, const QString& program, const QStringList& arguments)
    {
        QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
        const QString folder = text(home.path().string());
        for (const char* each : {"HOME", "XDG_DATA_HOME", "XDG_CACHE_HOME", "XDG_RUNTIME_DIR"})
            environment.insert(QString::fromLatin1(each), folder);
        environment.insert(QString::fromLatin1(killedLibrary),
                           folder + QStringLiteral("/library.sqlite"));
        process.setProcessEnvironment(environment);
        process.setProcessChannelMode(QProcess::ForwardedErrorChannel);
        process.start(program, arguments);
        if (!process.waitForStarted())
            throw std::runtime_error("the program did not start");
    }
    ~Running()
    {
        process.kill();
        process.waitForFinished();
    }
    Running(const Running&) = delete;
    Running& operator=(const Running&) = delete;

    QProcess process;
};

} // namespace

TEST_CASE("Processes: a second start hands its dataset to the first window and ends", "[app]")
{
    const OwnFolder own;
    const OwnFolder prices;
    prices.write("QUAY.csv", "Date,Open,High,Low,Close,Volume\n2025-03-14,1,2,1,2,10\n");
    const auto library = own.path() / "library.sqlite";
    const QString program =
        QCoreApplication::applicationDirPath() + QStringLiteral("/../app/wise-sieve");
    const QStringList arguments{QStringLiteral("--library"), text(library.string())};
    Running first(own, program, arguments);
    waitUntil([&] { return Doorbell::ring(text(library.string()), {}); }, "the first window");
    Running second(own, program, arguments + QStringList{text(prices.path().string())});
    REQUIRE(second.process.waitForFinished(20'000));
    CHECK(second.process.exitCode() == 0);
    waitUntil(
        [&] {
            const auto now = library::Library::copyOf(library);
            return library::setting(*now, "recent_sources") == prices.path().string();
        },
        "the dataset in the first window");
    CHECK(first.process.state() == QProcess::Running);
    first.process.kill(); // its lock and its socket are left behind
    first.process.waitForFinished();
    Running third(own, program, arguments);
    waitUntil([&] { return Doorbell::ring(text(library.string()), {}); }, "the next window");
    CHECK(third.process.state() == QProcess::Running);
}

/// Run by the next test in a program of its own: says each criterion that is on the disk.
TEST_CASE("Processes: edits by keys until it is killed", "[.killed]")
{
    const WindowBench bench(qEnvironmentVariable(killedLibrary).toStdString(), {});
    bench.go("sift");
    bench.desk->work().edit(QStringLiteral("test"),
                            [](Work& work) { work.screen.edit().criteria.clear(); });
    auto* edit = bench.find<ExpressionEdit>(QStringLiteral("New criterion"));
    for (int number = 1; number <= 500; ++number) {
        edit->setFocus();
        QTest::keyClicks(edit, QStringLiteral("close > %1").arg(number));
        QTest::keyClick(edit, Qt::Key_Escape); // the finder's list goes
        QTest::keyClick(edit, Qt::Key_Return);
        REQUIRE(bench.desk->work().now().screen->criteria.size() ==
                static_cast<std::size_t>(number));
        waitUntil([&] { return bench.desk->work().isSaved(); }, "the saving");
        std::printf("kept %d\n", number);
        std::fflush(stdout);
    }
}

TEST_CASE("Processes: a window killed in the middle of an edit loses none that it saved", "[app]")
{
    std::mt19937 random(7);
    for (int kill = 0; kill < 3; ++kill) {
        const OwnFolder own;
        std::size_t kept = 0;
        {
            Running window(own, QCoreApplication::applicationFilePath(),
                           {QStringLiteral("Processes: edits by keys until it is killed")});
            const std::size_t enough = 3 + random() % 8;
            const auto read = [&] {
                while (window.process.canReadLine())
                    if (window.process.readLine().startsWith("kept "))
                        ++kept;
            };
            waitUntil(
                [&] {
                    read();
                    return kept >= enough;
                },
                "some edits");
            QTest::qWait(static_cast<int>(random() % 30));
            window.process.kill();
            window.process.waitForFinished();
            read();
        }
        const auto opened = library::Library::open(own.path() / "library.sqlite");
        CHECK(opened.notice.empty());
        CHECK_FALSE(opened.isReadOnly);
        const auto criteria = library::loadWork(*opened.library).work.screen->criteria;
        CHECK(criteria.size() >= kept);
        CHECK(criteria.size() <= kept + 1); // at most the one that was under way
        for (std::size_t i = 0; i < criteria.size(); ++i)
            CHECK(criteria[i].text == "close > " + std::to_string(i + 1));
    }
}

} // namespace sieve::app
