#pragma once

#include <functional>
#include <stop_token>
#include <string_view>
#include <utility>

namespace sieve {

/// How a long step tells how far it is and learns that it should stop.
/// Threads: `report` may be called from any thread of the job; the callback must bear that.
class Progress {
public:
    using Callback = std::function<void(double fraction, std::string_view what)>;

    Progress() = default; ///< reports to nobody, never stops
    Progress(std::stop_token stop, Callback callback)
        : stop_(std::move(stop)), callback_(std::move(callback))
    {
    }
    void report(double fraction, std::string_view what) const
    {
        if (callback_)
            callback_(fraction, what);
    }
    bool stopRequested() const { return stop_.stop_requested(); }

private:
    std::stop_token stop_;
    Callback callback_;
};

/// Thrown by a long step that was told to stop; only the edge that started it catches it.
struct Stopped {};

} // namespace sieve
