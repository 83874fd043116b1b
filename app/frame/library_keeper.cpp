#include "app/frame/library_keeper.h"

namespace sieve::app {

LibraryKeeper::LibraryKeeper(std::filesystem::path file, QObject* parent)
    : QObject(parent), thread_([this, file = std::move(file)] { run(file); })
{
}

LibraryKeeper::~LibraryKeeper()
{
    {
        const std::scoped_lock lock(mutex_);
        isEnding_ = true;
    }
    changed_.notify_all();
    thread_.join();
}

void LibraryKeeper::give(Work work)
{
    {
        const std::scoped_lock lock(mutex_);
        queue_.push_back(std::move(work));
    }
    changed_.notify_all();
}

void LibraryKeeper::waitUntilDone()
{
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [this] { return queue_.empty() && !isWorking_; });
}

std::unique_ptr<storage::Library> LibraryKeeper::openOrStandIn(const std::filesystem::path& file)
{
    try {
        if (!file.empty()) {
            storage::Library::Opened library = storage::Library::open(file);
            Q_EMIT opened(true, QString::fromStdString(library.notice));
            return std::move(library.library);
        }
        Q_EMIT opened(false, {});
    } catch (const std::exception& fault) {
        Q_EMIT opened(false, tr("Nothing is being saved. The library cannot be used: %1. What you "
                                "do in this session is lost when the window closes.")
                                 .arg(QString::fromUtf8(fault.what())));
    }
    return storage::Library::inMemory();
}

void LibraryKeeper::run(const std::filesystem::path& file)
{
    const std::unique_ptr<storage::Library> library = openOrStandIn(file);
    std::unique_lock lock(mutex_);
    for (;;) {
        isWorking_ = false;
        changed_.notify_all();
        changed_.wait(lock, [this] { return isEnding_ || !queue_.empty(); });
        if (queue_.empty())
            return;
        const Work work = std::move(queue_.front());
        queue_.pop_front();
        isWorking_ = true;
        lock.unlock();
        try {
            work(*library);
        } catch (const std::exception& fault) {
            Q_EMIT failed(
                tr("A change could not be saved: %1").arg(QString::fromUtf8(fault.what())));
        }
        lock.lock();
    }
}

} // namespace sieve::app
