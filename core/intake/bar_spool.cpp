#include "core/intake/bar_spool.h"

#include <cerrno>
#include <fcntl.h>
#include <system_error>
#include <unistd.h>

namespace sieve::intake {

BarSpool::BarSpool(std::filesystem::path file, std::size_t mostInMemory)
    : path_(std::move(file)), mostInMemory_(mostInMemory)
{
}

BarSpool::~BarSpool()
{
    if (descriptor_ >= 0)
        ::close(descriptor_);
}

void BarSpool::add(std::string_view symbol, const ReadBar& bar, std::span<const ReadAction> actions)
{
    if (!lastLane_ || symbol != lastSymbol_) {
        auto found = lanes_.find(symbol);
        if (found == lanes_.end())
            found = lanes_.try_emplace(std::string(symbol)).first;
        lastLane_ = &found->second;
        lastSymbol_ = symbol;
    }
    lastLane_->waiting.push_back(bar);
    lastLane_->actions.insert(lastLane_->actions.end(), actions.begin(), actions.end());
    if (++waiting_ >= mostInMemory_)
        flush();
}

void BarSpool::flush()
{
    const auto fail = [this] {
        throw std::system_error(errno, std::generic_category(), path_.string());
    };
    if (descriptor_ < 0) {
        descriptor_ = ::open(path_.c_str(), O_RDWR | O_CREAT | O_TRUNC | O_CLOEXEC, 0600);
        if (descriptor_ < 0)
            fail();
        ::unlink(path_.c_str()); // it goes when it is closed, however that comes about
    }
    for (auto& [symbol, lane] : lanes_) {
        if (lane.waiting.empty())
            continue;
        const auto* data = reinterpret_cast<const char*>(lane.waiting.data());
        std::size_t left = lane.waiting.size() * sizeof(ReadBar);
        auto at = static_cast<off_t>(written_ * sizeof(ReadBar));
        while (left > 0) {
            const ssize_t count = ::pwrite(descriptor_, data, left, at);
            if (count < 0 && errno != EINTR)
                fail();
            if (count <= 0)
                continue;
            data += count;
            at += count;
            left -= static_cast<std::size_t>(count);
        }
        lane.chunks.push_back({written_, lane.waiting.size()});
        written_ += lane.waiting.size();
        lane.waiting = {};
    }
    waiting_ = 0;
}

std::vector<std::string> BarSpool::symbols() const
{
    std::vector<std::string> all;
    for (const auto& [symbol, lane] : lanes_)
        all.push_back(symbol);
    return all;
}

std::span<const ReadAction> BarSpool::actionsOf(std::string_view symbol) const
{
    const auto found = lanes_.find(symbol);
    return found == lanes_.end() ? std::span<const ReadAction>() : found->second.actions;
}

void BarSpool::append(std::string_view symbol, std::vector<ReadBar>& to) const
{
    const auto found = lanes_.find(symbol);
    if (found == lanes_.end())
        return;
    for (const Chunk& chunk : found->second.chunks) {
        const std::size_t before = to.size();
        to.resize(before + chunk.count);
        auto* data = reinterpret_cast<char*>(to.data() + before);
        std::size_t left = chunk.count * sizeof(ReadBar);
        auto at = static_cast<off_t>(chunk.offset * sizeof(ReadBar));
        while (left > 0) {
            const ssize_t count = ::pread(descriptor_, data, left, at);
            if (count < 0 && errno == EINTR)
                continue;
            if (count <= 0)
                throw std::system_error(count < 0 ? errno : EIO, std::generic_category(),
                                        path_.string());
            data += count;
            at += count;
            left -= static_cast<std::size_t>(count);
        }
    }
    to.insert(to.end(), found->second.waiting.begin(), found->second.waiting.end());
}

} // namespace sieve::intake
