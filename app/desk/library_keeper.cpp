#include "app/desk/library_keeper.h"

namespace sieve::app {

LibraryKeeper::LibraryKeeper(std::filesystem::path file, QObject* parent)
    : QObject(parent), file_(std::move(file))
{
}

void LibraryKeeper::start()
{
    thread_ = std::thread([this] { run(); });
}

LibraryKeeper::~LibraryKeeper()
{
    finish();
}

void LibraryKeeper::finish()
{
    {
        const std::scoped_lock lock(mutex_);
        isEnding_ = true;
    }
    changed_.notify_all();
    if (thread_.joinable())
        thread_.join();
}

void LibraryKeeper::enqueue(Job job)
{
    {
        const std::scoped_lock lock(mutex_);
        queue_.push_back(std::move(job));
    }
    changed_.notify_all();
}

void LibraryKeeper::waitUntilDone()
{
    std::unique_lock lock(mutex_);
    changed_.wait(lock, [this] { return queue_.empty() && !isWorking_; });
}

std::unique_ptr<library::Library> LibraryKeeper::openOrStandIn()
{
    try {
        if (!file_.empty()) {
            library::Library::Opened library = library::Library::open(file_);
            isReadOnly_ = library.isReadOnly;
            Q_EMIT opened(QString::fromStdString(library.notice));
            return std::move(library.library);
        }
        Q_EMIT opened({});
    } catch (const std::exception& fault) {
        Q_EMIT opened(tr("Nothing is being saved. The library cannot be used: %1. What you do in "
                         "this session is lost when the window closes.")
                          .arg(QString::fromUtf8(fault.what())));
    }
    return library::Library::inMemory();
}

void LibraryKeeper::run()
{
    const std::unique_ptr<library::Library> library = openOrStandIn();
    std::unique_lock lock(mutex_);
    for (;;) {
        isWorking_ = false;
        changed_.notify_all();
        changed_.wait(lock, [this] { return isEnding_ || !queue_.empty(); });
        if (queue_.empty())
            return;
        const Job job = std::move(queue_.front());
        queue_.pop_front();
        isWorking_ = true;
        lock.unlock();
        try {
            job(*library);
        } catch (const std::exception& fault) {
            Q_EMIT failed(
                tr("A change could not be saved: %1").arg(QString::fromUtf8(fault.what())));
        }
        lock.lock();
    }
}

} // namespace sieve::app
