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
    std::atomic<bool> isRunning = false;
    std::atomic<bool> wasStopped = false;
    std::vector<int> answers;
    asker.ask(
        [gate, &isRunning, &wasStopped](const Progress& progress) {
            isRunning = true;
            gate.wait();
            wasStopped = progress.stopRequested();
            return 1;
        },
        [&](int got) { answers.push_back(got); });
    test::waitUntil([&] { return isRunning.load(); }, "the first question's begin");
    asker.ask([](const Progress&) { return 2; }, [&](int got) { answers.push_back(got); });
    test::waitUntil([&] { return !answers.empty(); }, "the second answer");
    mayEnd.set_value();
    QThreadPool::globalInstance()->waitForDone();
    QCoreApplication::processEvents();
    CHECK(answers == std::vector<int>{2});
    CHECK(wasStopped);
}

TEST_CASE("Asker: a question that was stopped while it waited is not run", "[app]")
{
    std::promise<void> mayEnd;
    std::shared_future<void> gate = mayEnd.get_future().share();
    std::vector<std::unique_ptr<Asker>> others; // they hold every thread of the pool
    std::atomic<int> held = 0;
    for (int i = 0; i < QThreadPool::globalInstance()->maxThreadCount(); ++i) {
        others.push_back(std::make_unique<Asker>(nullptr));
        others.back()->ask(
            [gate, &held](const Progress&) {
                ++held;
                gate.wait();
                return 0;
            },
            [](int) {});
    }
    test::waitUntil([&] { return held == static_cast<int>(others.size()); }, "a full pool");
    Asker asker(nullptr);
    std::atomic<int> ran = 0;
    std::vector<int> answers;
    for (int question = 0; question < 5; ++question)
        asker.ask(
            [&ran, question](const Progress&) {
                ++ran;
                return question;
            },
            [&](int got) { answers.push_back(got); });
    mayEnd.set_value();
    test::waitUntil([&] { return !answers.empty(); }, "the last answer");
    CHECK(answers == std::vector<int>{4});
    CHECK(ran == 1);
}

TEST_CASE("Asker: answers about a market that is no longer open are dropped", "[app]")
{
    Asker about(nullptr);
    Asker other(nullptr, Asker::About::Else);
    std::vector<int> answers;
    about.ask([](const Progress&) { return 1; }, [&](int got) { answers.push_back(got); });
    other.ask([](const Progress&) { return 2; }, [&](int got) { answers.push_back(got); });
    Asker::forgetFormerMarket();
    CHECK_FALSE(about.isBusy());
    test::waitUntil([&] { return !answers.empty(); }, "the other answer");
    QThreadPool::globalInstance()->waitForDone();
    QCoreApplication::processEvents();
    CHECK(answers == std::vector<int>{2});
    about.ask([](const Progress&) { return 3; }, [&](int got) { answers.push_back(got); });
    test::waitUntil([&] { return answers.size() == 2; }, "an answer about the new one");
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
