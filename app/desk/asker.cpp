#include "app/desk/asker.h"

namespace sieve::app {

Asker::Asker(QObject* parent) : QObject(parent)
{
    link_->asker = this;
}

Asker::~Asker()
{
    stop_.request_stop();
    const std::scoped_lock lock(link_->mutex);
    link_->asker = nullptr;
}

void Asker::stop()
{
    stop_.request_stop();
    ++number_;
    busy_ = false;
}

Progress Asker::progressFor(quint64 number)
{
    auto last = std::make_shared<std::atomic<int>>(-1);
    return Progress(stop_.get_token(), [link = link_, number, last](double fraction,
                                                                    std::string_view what) {
        const int percent = static_cast<int>(fraction * 100.0);
        if (last->exchange(percent) == percent)
            return; // a hundred reports are enough
        post(link, [link, number, fraction,
                    text = QString::fromUtf8(what.data(), static_cast<qsizetype>(what.size()))] {
            if (link->asker->isCurrent(number))
                Q_EMIT link->asker->progressed(fraction, text);
        });
    });
}

} // namespace sieve::app
