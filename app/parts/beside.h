#pragma once

#include <QCoreApplication>
#include <QPointer>
#include <QThreadPool>
#include <utility>

namespace sieve::app {

/// Runs `work()` beside the window's thread, as files want it, and then `take(answer)` on it, if
/// `owner` is still there. `work` owns all that it uses and throws nothing.
/// Requires: the window's thread.
template <class Work, class Take> void beside(QObject* owner, Work work, Take take)
{
    QThreadPool::globalInstance()->start([owner = QPointer<QObject>(owner), work = std::move(work),
                                          take = std::move(take)]() mutable {
        auto answer = work();
        QMetaObject::invokeMethod(
            QCoreApplication::instance(),
            [owner, take = std::move(take), answer = std::move(answer)]() mutable {
                if (owner)
                    take(std::move(answer));
            },
            Qt::QueuedConnection);
    });
}

} // namespace sieve::app
