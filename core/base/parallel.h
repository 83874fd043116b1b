#pragma once

#include <cstddef>
#include <tbb/parallel_for.h>
#include <tbb/task_group.h>
#include <utility>

namespace sieve {

/// Runs work(0) to work(count - 1) on all threads. When it returns all of it is done; else it
/// throws what one of them threw. The loop is its own: one inside another one that is given up is
/// not cut short without a word, so that nobody reads, or keeps for later, what was left half done.
template <class Work> void inParallel(std::size_t count, const Work& work)
{
    tbb::task_group_context own(tbb::task_group_context::isolated);
    tbb::parallel_for(std::size_t{0}, count, work, own);
}

/// Tasks that are begun one by one, with the same promise: wait() returns when all are done.
class ParallelTasks {
public:
    template <class Task> void run(Task task) { group_.run(std::move(task)); }
    void wait() { group_.wait(); }

private:
    tbb::task_group_context own_{tbb::task_group_context::isolated};
    tbb::task_group group_{own_};
};

} // namespace sieve
