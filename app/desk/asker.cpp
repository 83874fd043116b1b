#include "app/desk/asker.h"

#include <set>

namespace sieve::app {

namespace {

/// All that are there: a market that is opened is news for each.
std::set<Asker*>& everyAsker()
{
    static std::set<Asker*> all;
    return all;
}

} // namespace

Asker::Asker(QObject* parent, About about) : QObject(parent), about_(about)
{
    link_->asker = this;
    everyAsker().insert(this);
}

Asker::~Asker()
{
    everyAsker().erase(this);
    stop_.request_stop();
    const std::scoped_lock lock(link_->mutex);
    link_->asker = nullptr;
}

void Asker::forgetFormerMarket()
{
    for (Asker* asker : everyAsker())
        if (asker->about_ == About::OpenMarket)
            asker->stop();
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
