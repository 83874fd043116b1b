#include "core/intake/bar_rules.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <optional>
#include <tuple>

namespace sieve::intake {

namespace {

using storage::StampedBar;

std::string stampText(std::int32_t stamp, BarScale scale)
{
    return scale == BarScale::Daily ? Day::fromSerial(stamp).iso()
                                    : Minute::fromSerial(stamp).iso();
}

const std::string& fileOf(const ReadBar& read, const BarContext& context)
{
    return context.files[read.file].name;
}

void order(std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report)
{
    // Of one day the first file's first row comes first, whichever thread read it.
    const auto stampOf = [](const ReadBar& read) { return read.bar.stamp; };
    const auto placeOf = [](const ReadBar& read) {
        return std::tuple(read.bar.stamp, read.line > 0, read.file, read.line);
    };
    if (std::ranges::is_sorted(bars, std::ranges::less(), placeOf))
        return;
    std::optional<std::uint32_t> reportedFile; // bars of one file stand together, in its order
    for (std::size_t i = 1; i < bars.size(); ++i) {
        const bool isBack = bars[i].file == bars[i - 1].file && bars[i - 1].line > 0 &&
                            stampOf(bars[i]) < stampOf(bars[i - 1]);
        if (!isBack || reportedFile == bars[i].file)
            continue;
        reportedFile = bars[i].file;
        report.add({fileOf(bars[i], context), 0, "date", "", "days out of order",
                    "put in order, oldest first"});
    }
    std::ranges::stable_sort(bars, {}, placeOf);
}

void leaveOutDoubles(std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report)
{
    const auto isDouble = [](const ReadBar& a, const ReadBar& b) {
        return a.bar.stamp == b.bar.stamp;
    };
    if (std::ranges::adjacent_find(bars, isDouble) == bars.end())
        return;
    std::size_t kept = 0;
    for (std::size_t i = 0; i < bars.size(); ++i) {
        if (kept == 0 || bars[kept - 1].bar.stamp != bars[i].bar.stamp) {
            bars[kept++] = bars[i];
            continue;
        }
        ReadBar& first = bars[kept - 1];
        if (first.line == 0) { // the file corrects what was taken before
            first = bars[i];
            continue;
        }
        report.add({fileOf(bars[i], context), bars[i].line, "date",
                    stampText(bars[i].bar.stamp, context.scale),
                    context.scale == BarScale::Daily ? "a second bar of the day"
                                                     : "a second bar of the minute",
                    "row left out"});
        ++report.rowsLeftOut;
    }
    bars.resize(kept);
}

/// A row with volume 0 that repeats the last close tells that nobody traded: it is no bar.
void leaveOutIdle(std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report)
{
    if (context.record.instrument.kind == market::InstrumentKind::Index)
        return; // an index is computed, not traded
    if (std::ranges::none_of(bars, [](const ReadBar& read) { return read.bar.volume == 0.0; }))
        return;
    std::size_t kept = 0;
    for (std::size_t i = 0; i < bars.size(); ++i) {
        const StampedBar& bar = bars[i].bar;
        const bool isIdle = bar.volume == 0.0 && bar.high == bar.low && kept > 0 &&
                            bar.close == bars[kept - 1].bar.close && bars[i].line > 0;
        if (!isIdle) {
            bars[kept++] = bars[i];
            continue;
        }
        report.add({fileOf(bars[i], context), bars[i].line, "volume",
                    stampText(bar.stamp, context.scale), "nothing was traded",
                    "row left out: a day without trade is no bar"});
        ++report.rowsLeftOut;
    }
    bars.resize(kept);
}

/// One date with a wrong year would move the market's first or last session.
void leaveOutStrayDays(std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report)
{
    constexpr int halfYear = 183;
    constexpr int tenYears = 3653;
    const auto dayAt = [&](std::size_t i) {
        return context.scale == BarScale::Daily ? Day::fromSerial(bars[i].bar.stamp)
                                                : Minute::fromSerial(bars[i].bar.stamp).day();
    };
    const auto leaveOut = [&](std::size_t i, const char* why) {
        if (bars[i].line == 0)
            return;
        report.add({fileOf(bars[i], context), bars[i].line, "date",
                    stampText(bars[i].bar.stamp, context.scale), why, "row left out"});
        ++report.rowsLeftOut;
    };
    std::size_t first = 0; // the first of those that stay
    while (first + 1 < bars.size() && bars[first].line > 0 &&
           dayAt(first + 1) - dayAt(first) > 2 * tenYears)
        leaveOut(first++, "a day more than twenty years before the next bar");
    std::size_t end = bars.size();
    const auto isToCome = [&](std::size_t i) { // a day more for exchanges that are ahead of us
        return context.takenOn && bars[i].line > 0 && dayAt(i) > context.takenOn->plusDays(1);
    };
    while (end > first && isToCome(end - 1)) {
        std::size_t run = end - 1; // its bars stand less than half a year apart
        while (run > first && dayAt(run) - dayAt(run - 1) <= halfYear)
            --run;
        const bool isAlone = run == first;
        if (!isToCome(run) || (isAlone && dayAt(run) - *context.takenOn <= tenYears))
            break;
        for (std::size_t i = run; i < end; ++i)
            leaveOut(i, "a day that has not come yet");
        end = run;
    }
    bars.erase(bars.begin() + static_cast<std::ptrdiff_t>(end), bars.end());
    bars.erase(bars.begin(), bars.begin() + static_cast<std::ptrdiff_t>(first));
}

void noteClosed(const std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report)
{
    for (const ReadBar& read : bars) {
        if (read.line == 0)
            continue;
        const Day day = context.scale == BarScale::Daily ? Day::fromSerial(read.bar.stamp)
                        : context.exchange               ? market::localDay(*context.exchange,
                                                                            Minute::fromSerial(read.bar.stamp))
                                                         : Minute::fromSerial(read.bar.stamp).day();
        const bool isWeekend = day.isWeekend();
        if (isWeekend || (context.exchange && !market::isSessionDay(*context.exchange, day)))
            report.add({fileOf(read, context), read.line, "date",
                        stampText(read.bar.stamp, context.scale),
                        isWeekend ? "a bar on a weekend" : "a bar on a holiday of the exchange",
                        "kept as it is"});
    }
}

/// Whether a price that goes from one to the other looks like a split: halves, thirds, … or
/// doubles.
bool looksLikeSplit(double before, double after)
{
    if (after < 1.9 * before && before < 1.9 * after)
        return false;
    const double factor = before > after ? before / after : after / before;
    const double whole = std::round(factor);
    return whole >= 2.0 && whole <= 50.0 && std::fabs(factor / whole - 1.0) <= 0.015;
}

void noteJumps(const std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report)
{
    for (std::size_t i = 1; i < bars.size(); ++i) {
        const StampedBar& before = bars[i - 1].bar;
        const StampedBar& bar = bars[i].bar;
        if (bars[i].line == 0 || !looksLikeSplit(before.close, bar.open))
            continue;
        const auto explains = [&](const market::Action& action) {
            return action.kind != market::ActionKind::Dividend &&
                   action.exDate.serial() > before.stamp && action.exDate.serial() <= bar.stamp;
        };
        if (std::ranges::none_of(context.record.actions, explains))
            report.add({fileOf(bars[i], context), bars[i].line, "open",
                        fmt::format("{}: {} after a close of {}",
                                    stampText(bar.stamp, context.scale), bar.open, before.close),
                        "a jump that looks like a split, and actions.csv has none",
                        "kept as it is"});
    }
}

} // namespace

void settleBars(std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report)
{
    order(bars, context, report);
    leaveOutDoubles(bars, context, report);
    leaveOutIdle(bars, context, report);
    leaveOutStrayDays(bars, context, report);
}

void noteOddBars(const std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report)
{
    noteClosed(bars, context, report);
    if (context.scale == BarScale::Daily)
        noteJumps(bars, context, report);
}

namespace {

/// How far a figure may be off by its rounding, mostly to cents, relative to it.
double roundingOf(double adjustedClose)
{
    return 0.006 / adjustedClose;
}

/// The split of which the ratio may be: whole shares for one within 2 %, or one share for whole
/// ones; another simple fraction only as exactly as the figures are written.
std::optional<double> splitNear(double ratio, double exactness)
{
    const double larger = std::max(ratio, 1.0 / ratio);
    const auto isNear = [&](double split, double slack) {
        return std::fabs(larger / split - 1.0) < slack;
    };
    std::optional<double> split;
    if (const double whole = std::round(larger); whole >= 2.0 && isNear(whole, 0.02))
        split = whole;
    constexpr double smallest = 1.2; // 6:5; a smaller step down is likelier a dividend
    for (int old = 2; old <= 5 && !split; ++old) {
        const double fraction = std::round(larger * old) / old;
        if (fraction >= smallest && isNear(fraction, exactness))
            split = fraction;
    }
    if (!split)
        return std::nullopt;
    return ratio > 1.0 ? *split : 1.0 / *split;
}

} // namespace

std::vector<market::Action> impliedActions(const std::vector<ReadBar>& bars)
{
    std::vector<market::Action> actions;
    for (std::size_t i = 1; i < bars.size(); ++i) {
        const double before = bars[i - 1].adjustedClose / bars[i - 1].bar.close;
        const double now = bars[i].adjustedClose / bars[i].bar.close;
        if (!(before > 0.0) || !(now > 0.0))
            continue;
        const double step = before / now; // 1 when nothing happened
        const double rounding =
            2.0 * roundingOf(std::min(bars[i].adjustedClose, bars[i - 1].adjustedClose));
        if (std::fabs(step - 1.0) < std::max(0.001, rounding))
            continue;
        const Day exDate = Day::fromSerial(bars[i].bar.stamp);
        // Where figures are so coarse that fractions lie within their rounding, none can be told.
        constexpr double coarsest = 0.01;
        if (const auto split =
                splitNear(1.0 / step, rounding < coarsest ? std::max(0.0005, rounding) : 0.0))
            actions.push_back({exDate, market::ActionKind::Split, *split});
        else if (step < 1.0)
            actions.push_back(
                {exDate, market::ActionKind::Dividend, bars[i - 1].bar.close * (1.0 - step)});
    }
    return actions;
}

void rebase(std::vector<ReadBar>& former, const std::vector<ReadBar>& now)
{
    for (const ReadBar& each : now) {
        const auto same = std::ranges::lower_bound(
            former, each.bar.stamp, {}, [](const ReadBar& read) { return read.bar.stamp; });
        if (same == former.end() || same->bar.stamp != each.bar.stamp)
            continue;
        const double factor =
            (each.adjustedClose / each.bar.close) / (same->adjustedClose / same->bar.close);
        if (!(factor > 0.0))
            continue;
        const double rounding = 2.0 * roundingOf(std::min(each.adjustedClose, same->adjustedClose));
        if (std::fabs(factor - 1.0) >= std::max(0.001, rounding))
            for (ReadBar& bar : former)
                bar.adjustedClose *= factor;
        return;
    }
}

} // namespace sieve::intake
