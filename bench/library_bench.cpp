#include "core/library/history.h"
#include "core/library/kept_work.h"
#include "core/library/library.h"
#include "tests/own_folder.h"

#include <algorithm>
#include <chrono>
#include <fmt/format.h>
#include <functional>
#include <vector>

// What a library of 200 lists with 20,000 entries costs: to be opened with all that it holds (which
// a start waits for), to save an edit, and to be opened once more with its daily backup due.

namespace {

using namespace sieve;

library::Work largeWork()
{
    library::Work work;
    for (int list = 1; list <= 200; ++list) {
        watchlists::Watchlist made{list, fmt::format("List {}", list), {}, {}};
        for (int entry = 0; entry < 100; ++entry)
            made.entries.push_back({fmt::format("S{:04}.C", 37 * list % 900 + entry),
                                    *Day::parse("2026-05-04"), 10.0 + entry,
                                    "holds above its average; wait for the report", "Pullback"});
        for (int entry = 0; entry < 100; entry += 4) { // of every fourth, what a person writes
            watchlists::Entry& written = made.entries[static_cast<std::size_t>(entry)];
            written.plan = watchlists::TradePlan{written.addedOn, 12.0, 11.0, {14.0}};
            written.page.category = "base";
            written.page.notes = {{written.addedOn, "Volume dries up while the range narrows."}};
        }
        work.lists.emplace_back(std::move(made));
    }
    return work;
}

/// Milliseconds: the median and the worst.
void tell(const char* what, std::vector<double> times)
{
    std::ranges::sort(times);
    fmt::print("{:44} {:8.1f} ms   worst {:8.1f}\n", what, times[times.size() / 2], times.back());
}

double millisecondsOf(const std::function<void()>& work)
{
    const auto begin = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin)
        .count();
}

} // namespace

int main()
{
    const test::OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    library::Work work = largeWork();
    saveWork(*library::Library::open(file).library, {}, work);
    std::vector<double> openings;
    for (int time = 0; time < 21; ++time)
        openings.push_back(
            millisecondsOf([&] { loadWork(*library::Library::open(file).library); }));
    tell("open and read all", openings);
    const auto opened = library::Library::open(file);
    std::vector<double> edits;
    for (int time = 0; time < 101; ++time) {
        library::Work after = work;
        after.editList(1 + time)->entries[5].reason = fmt::format("reason {}", time);
        const library::StepMade step{library::StepMade::Kind::New, "Change the reason", "lists"};
        edits.push_back(
            millisecondsOf([&] { saveSteps(*opened.library, work, after, std::span(&step, 1)); }));
        work = after;
    }
    tell("save the reason of an entry, and the step", edits);
    std::vector<double> pasts;
    for (int time = 0; time < 5; ++time)
        pasts.push_back(millisecondsOf(
            [&] { (void)library::pastSteps(*library::Library::copyOf(file), work, 60); }));
    tell("read the newest 60 steps, beside the window", pasts);
    std::vector<double> backups;
    for (int time = 0; time < 11; ++time)
        backups.push_back(millisecondsOf([&] { opened.library->backUp(); }));
    tell("write a backup", backups);
}
