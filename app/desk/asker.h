#pragma once

#include "core/base/progress.h"

#include <QObject>
#include <QThreadPool>
#include <atomic>
#include <exception>
#include <memory>
#include <mutex>
#include <type_traits>

namespace sieve::app {

/// Asks questions of the core on the pool and brings each answer back to the window's thread. A new
/// question stops the one before; an answer that comes too late is dropped, and so is one about a
/// market that is no longer open. Each view has its own.
class Asker : public QObject {
    Q_OBJECT
public:
    /// Whether the questions are about the open market, whose answers mean nothing in another.
    enum class About { OpenMarket, Else };

    explicit Asker(QObject* parent, About about = About::OpenMarket);
    ~Asker() override;

    /// Runs `work(const Progress&)` on the pool, then `take(answer)` on the window's thread.
    /// `work` must own all that it uses. An exception ends in failed(), Stopped in nothing.
    template <class Work, class Take> void ask(Work work, Take take);
    void stop(); ///< the question under way; its answer will not come
    bool isBusy() const { return busy_; }
    /// Another market is open from now on. Requires: the window's thread.
    static void forgetFormerMarket();

Q_SIGNALS:
    void progressed(double fraction, const QString& what);
    void failed(const QString& message);

private:
    struct Link { ///< outlives the asker, so that a late job finds nobody instead of a dead object
        std::mutex mutex;
        Asker* asker = nullptr;
    };
    template <class Function> static void post(const std::shared_ptr<Link>& link, Function function)
    {
        const std::scoped_lock lock(link->mutex);
        if (link->asker)
            QMetaObject::invokeMethod(link->asker, std::move(function), Qt::QueuedConnection);
    }
    Progress progressFor(quint64 number);
    bool isCurrent(quint64 number) const { return number == number_; }

    std::shared_ptr<Link> link_ = std::make_shared<Link>();
    std::stop_source stop_;
    About about_;
    quint64 number_ = 0;
    bool busy_ = false;
};

template <class Work, class Take> void Asker::ask(Work work, Take take)
{
    stop();
    stop_ = std::stop_source();
    busy_ = true;
    const quint64 number = ++number_;
    QThreadPool::globalInstance()->start([link = link_, number, work = std::move(work),
                                          take = std::move(take),
                                          progress = progressFor(number)]() mutable {
        using Answer = std::invoke_result_t<Work, const Progress&>;
        QString fault;
        try {
            if (progress.stopRequested()) // while it waited for a thread
                return;
            auto answer = std::make_shared<Answer>(work(progress));
            post(link, [link, number, answer, take = std::move(take)]() mutable {
                Asker* asker = link->asker; // the window's thread is the one that may end it
                if (!asker->isCurrent(number))
                    return;
                asker->busy_ = false;
                take(std::move(*answer));
            });
            return;
        } catch (const Stopped&) {
            return;
        } catch (const std::exception& error) {
            fault = QString::fromUtf8(error.what());
        }
        post(link, [link, number, fault] {
            if (!link->asker->isCurrent(number))
                return;
            link->asker->busy_ = false;
            Q_EMIT link->asker->failed(fault);
        });
    });
}

} // namespace sieve::app
