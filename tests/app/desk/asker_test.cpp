#include "app/desk/asker.h"

#include "tests/app/window_bench.h"

#include <QThread>
#include <catch2/catch.hpp>
#include <future>

namespace sieve::app {

TEST_CASE("Asker: the answer comes on the asking thread, the work runs on another", "[app]")
{
    Asker asker(nullptr);
    QThread* workThread = nullptr;
    QThread* answerThread = nullptr;
    int answer = 0;
    asker.ask(
        [&workThread](const Progress&) {
            workThread = QThread::currentThread();
            return 42;
        },
        [&](int got) {
            answer = got;
            answerThread = QThread::currentThread();
        });
    CHECK(asker.isBusy());
    test::waitUntil([&] { return answer != 0; }, "the answer");
    CHECK(answer == 42);
    CHECK(answerThread == QThread::currentThread());
    CHECK(workThread != answerThread);
    CHECK_FALSE(asker.isBusy());
}

TEST_CASE("Asker: a later question stops the former and its answer is dropped", "[app]")
{
    Asker asker(nullptr);
    std::promise<void> mayEnd;
    std::shared_future<void> gate = mayEnd.get_future().share();
    std::atomic<bool> wasStopped = false;
    std::vector<int> answers;
    asker.ask(
        [gate, &wasStopped](const Progress& progress) {
            gate.wait();
            wasStopped = progress.stopRequested();
            return 1;
        },
        [&](int got) { answers.push_back(got); });
    asker.ask([](const Progress&) { return 2; }, [&](int got) { answers.push_back(got); });
    test::waitUntil([&] { return !answers.empty(); }, "the second answer");
    mayEnd.set_value();
    QThreadPool::globalInstance()->waitForDone();
    QCoreApplication::processEvents();
    CHECK(answers == std::vector<int>{2});
    CHECK(wasStopped);
}

TEST_CASE("Asker: a fault is told in words, a stop is silent", "[app]")
{
    Asker asker(nullptr);
    const QSignalSpy failed(&asker, &Asker::failed);
    asker.ask([](const Progress&) -> int { throw std::runtime_error("the disk is gone"); },
              [](int) { FAIL("there is no answer"); });
    test::waitUntil([&] { return failed.count() == 1; }, "the fault");
    CHECK(failed.first().first().toString() == QStringLiteral("the disk is gone"));
    asker.ask([](const Progress&) -> int { throw Stopped{}; }, [](int) { FAIL("stopped"); });
    QThreadPool::globalInstance()->waitForDone();
    QCoreApplication::processEvents();
    CHECK(failed.count() == 1);
}

TEST_CASE("Asker: one that is gone gets no answer", "[app]")
{
    std::promise<void> mayEnd;
    std::shared_future<void> gate = mayEnd.get_future().share();
    {
        Asker asker(nullptr);
        asker.ask(
            [gate](const Progress&) {
                gate.wait();
                return 1;
            },
            [](int) { FAIL("nobody is there to take it"); });
    }
    mayEnd.set_value();
    QThreadPool::globalInstance()->waitForDone();
    QCoreApplication::processEvents();
}

TEST_CASE("Asker: progress is told in steps, not in a flood", "[app]")
{
    Asker asker(nullptr);
    const QSignalSpy progressed(&asker, &Asker::progressed);
    bool isDone = false;
    asker.ask(
        [](const Progress& progress) {
            for (int i = 0; i <= 100'000; ++i)
                progress.report(i / 100'000.0, "counting");
            return 0;
        },
        [&](int) { isDone = true; });
    test::waitUntil([&] { return isDone; }, "the end");
    CHECK(progressed.count() > 10);
    CHECK(progressed.count() <= 101);
    CHECK(progressed.last().at(1).toString() == QStringLiteral("counting"));
}

} // namespace sieve::app
