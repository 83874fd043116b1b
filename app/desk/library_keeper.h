#pragma once

#include "core/library/library.h"

#include <QObject>
#include <QPointer>
#include <atomic>
#include <condition_variable>
#include <deque>
#include <filesystem>
#include <functional>
#include <memory>
#include <mutex>
#include <thread>

namespace sieve::app {

/// Keeps the library on a thread of its own: reads and writes are done there in the order given, so
/// that the window never waits for the disk. Ending it finishes what was given before.
class LibraryKeeper : public QObject {
    Q_OBJECT
public:
    using Job = std::function<void(library::Library&)>;

    /// An empty path keeps everything in memory: nothing will be there next time.
    LibraryKeeper(std::filesystem::path file, QObject* parent);
    ~LibraryKeeper() override;

    /// Opens the library and begins to work. Call it once who wants to hear opened() is connected.
    void start();
    void enqueue(Job job); ///< may be given before the start
    /// Runs `work(library)` in its turn, then `take(answer)` on the receiver's thread, if the
    /// receiver is still there. What `work` throws ends in `fail(words)` there.
    template <class Work, class Take, class Fail>
    void ask(QObject* receiver, Work work, Take take, Fail fail);
    /// Another program has the library: this one shows it as it was. Known before the first job.
    bool isReadOnly() const { return isReadOnly_; }
    const std::filesystem::path& file() const { return file_; } ///< empty: in memory
    void waitUntilDone();                                       ///< for tests
    void finish(); ///< does what was given, and takes no more

Q_SIGNALS:
    /// The library is open, or a stand-in in memory where it cannot be. `notice` is what the person
    /// must know, empty when all is well.
    void opened(const QString& notice);
    void failed(const QString& message); ///< one job; the rest goes on

private:
    void run();
    std::unique_ptr<library::Library> openOrStandIn();

    const std::filesystem::path file_;
    std::mutex mutex_;
    std::condition_variable changed_;
    std::deque<Job> queue_;
    std::atomic<bool> isReadOnly_ = false;
    bool isEnding_ = false;
    bool isWorking_ = true;
    std::thread thread_; ///< last: it uses the rest
};

template <class Work, class Take, class Fail>
void LibraryKeeper::ask(QObject* receiver, Work work, Take take, Fail fail)
{
    // The keeper ends after its thread does, so it is there to post through; whether the receiver
    // still is can only be told on its own thread.
    enqueue([this, work, take, fail,
             receiver = QPointer<QObject>(receiver)](library::Library& library) {
        const auto post = [&](auto then) {
            QMetaObject::invokeMethod(
                this,
                [receiver, then] {
                    if (receiver)
                        then();
                },
                Qt::QueuedConnection);
        };
        try {
            post([take, answer = work(library)] { take(answer); });
        } catch (const std::exception& fault) {
            post([fail, words = QString::fromUtf8(fault.what())] { fail(words); });
        }
    });
}

} // namespace sieve::app
