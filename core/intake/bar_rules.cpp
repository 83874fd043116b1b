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
    const auto stampOf = [](const ReadBar& read) { return read.bar.stamp; };
    if (std::ranges::is_sorted(bars, std::ranges::less(), stampOf))
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
    std::ranges::stable_sort(bars, {}, [](const ReadBar& read) {
        return std::tuple(read.bar.stamp, read.line > 0, read.file, read.line);
    });
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

void ruleBars(std::vector<ReadBar>& bars, const BarContext& context, IntakeReport& report)
{
    order(bars, context, report);
    leaveOutDoubles(bars, context, report);
    leaveOutIdle(bars, context, report);
    noteClosed(bars, context, report);
    if (context.scale == BarScale::Daily)
        noteJumps(bars, context, report);
}

std::vector<market::Action> impliedActions(const std::vector<ReadBar>& bars)
{
    std::vector<market::Action> actions;
    for (std::size_t i = 1; i < bars.size(); ++i) {
        const double before = bars[i - 1].adjustedClose / bars[i - 1].bar.close;
        const double now = bars[i].adjustedClose / bars[i].bar.close;
        if (!(before > 0.0) || !(now > 0.0))
            continue;
        const double step = before / now; // 1 when nothing happened
        // Adjusted closes are rounded, mostly to cents: no smaller step can be told from that.
        const double rounding = 0.006 / std::min(bars[i].adjustedClose, bars[i - 1].adjustedClose);
        if (std::fabs(step - 1.0) < std::max(0.001, 2.0 * rounding))
            continue;
        const double ratio = 1.0 / step;
        const double whole = ratio > 1.0 ? std::round(ratio) : 1.0 / std::round(step);
        const Day exDate = Day::fromSerial(bars[i].bar.stamp);
        if (std::fabs(ratio / whole - 1.0) < 0.02 && std::fabs(std::log(whole)) > 0.4)
            actions.push_back({exDate, market::ActionKind::Split, whole});
        else if (step < 1.0)
            actions.push_back(
                {exDate, market::ActionKind::Dividend, bars[i - 1].bar.close * (1.0 - step)});
    }
    return actions;
}

} // namespace sieve::intake
