#include "core/engine/operators/other_bars.h"

#include "core/engine/bar_pass.h"
#include "core/engine/operators/families.h"
#include "core/engine/scaled_bars.h"

#include <algorithm>
#include <array>

namespace sieve::engine {

namespace {

/// A part of weekly, monthly or minute bars, told on daily ones.
class ScaledValues : public Memory {
public:
    ScaledValues(const Context& context, const Plan& plan, const Node& node, Depth depth)
        : node_(node), pass_(context, plan, std::span(node.inputs).first(1), depth)
    {
    }

    /// Writes the values on daily bars [from, from + out.size()).
    void fill(const BarFrame& daily, std::size_t from, std::span<double> out)
    {
        bars_.open(daily, node_.op, node_.count, from + out.size());
        if (node_.op == Op::Minutes)
            return fillFromMinutes(from, out);
        while (!fillFromDays(from, out))
            pass_.extendLookback();
        pass_.resetLookbacks();
    }

private:
    void fillFromMinutes(std::size_t from, std::span<double> out)
    {
        std::optional<std::size_t> first;
        std::size_t end = 0;
        for (std::size_t i = 0; i < out.size(); ++i)
            if (const auto bar = bars_.barOf(from + i)) {
                first = first.value_or(*bar);
                end = *bar + 1;
            }
        if (first)
            pass_.run(bars_.frame(), *first, end);
        for (std::size_t i = 0; i < out.size(); ++i) {
            const auto bar = bars_.barOf(from + i);
            out[i] = bar ? pass_.values(0)[*bar - *first] : missing;
        }
    }

    /// Each day sees the weeks before it whole and its own up to that day.
    bool fillFromDays(std::size_t from, std::span<double> out)
    {
        const std::size_t first = *bars_.barOf(from);
        const std::size_t end = *bars_.barOf(from + out.size() - 1) + 1;
        pass_.prepare(bars_.frame(), first, end);
        const std::size_t earliest = std::min(first, pass_.firstBar());
        bars_.fill(earliest, first);
        if (!pass_.compute(earliest, first))
            return false;
        for (std::size_t i = 0; i < out.size(); ++i) {
            const std::size_t bar = *bars_.barOf(from + i);
            bars_.fillUpTo(bar, from + i);
            if (!pass_.compute(bar, bar + 1))
                return false;
            out[i] = pass_.values(0)[bar - first];
        }
        return true;
    }

    const Node& node_;
    BarPass pass_;
    ScaledBars bars_;
};

bool isOfMany(Op op)
{
    return op == Op::Composite || op == Op::GroupLine || op == Op::ListLine;
}

/// A part of another instrument, told on the days of this one's bars.
class OtherValues : public Memory {
public:
    OtherValues(const Context& context, const Plan& plan, const Node& node, Depth depth)
        : line_(isOfMany(node.op) ? context.composite(node) : nullptr),
          market_(line_ ? *line_ : context.market), own_{market_, context.across,
                                                         context.composite},
          pass_(own_, plan, std::span(node.inputs).first(1), depth),
          instrument_(line_ ? std::optional<std::size_t>(0) : otherInstrument(node, market_))
    {
        if (instrument_ && *instrument_ >= market_.size())
            instrument_.reset();
    }

    void fill(std::span<const Day> days, std::span<double> out)
    {
        std::ranges::fill(out, missing);
        if (!instrument_ || days.empty())
            return;
        const std::span<const Day> own = market_.bars(*instrument_).days;
        const auto by = [own](Day day) {
            return static_cast<std::size_t>(std::ranges::upper_bound(own, day) - own.begin());
        };
        std::size_t next = by(days.front()); // past the newest bar by the day
        const std::size_t end = by(days.back());
        if (end == 0)
            return;
        keep(next == 0 ? 0 : next - 1, end);
        for (std::size_t i = 0; i < out.size(); ++i) {
            while (next < end && own[next] <= days[i])
                ++next;
            if (next > 0)
                out[i] = values_[next - 1 - from_];
        }
    }

private:
    /// Many instruments ask for the same days: what was computed is kept.
    void keep(std::size_t from, std::size_t to)
    {
        const std::size_t footing = market_.footing(*instrument_, to - 1);
        const bool isKept = !values_.empty() && footing == footing_ && from >= from_ &&
                            to <= from_ + values_.size();
        if (isKept)
            return;
        if (!values_.empty() && footing == footing_) {
            from = std::min(from, from_);
            to = std::max(to, from_ + values_.size());
        }
        pass_.run(dailyFrame(market_, *instrument_, footing), from, to);
        values_.assign(pass_.values(0).begin(), pass_.values(0).end());
        from_ = from;
        footing_ = footing;
    }

    market::MarketPtr line_; ///< of many stocks; null where it is of one, or of none
    const market::Market& market_;
    Context own_;
    BarPass pass_;
    std::optional<std::size_t> instrument_;
    std::vector<double> values_; ///< from bar `from_` on, on `footing_`
    std::size_t from_ = 0;
    std::size_t footing_ = 0;
};

template <class Values> std::unique_ptr<Memory>
passOfItsOwn(const Context& context, const Plan& plan, const Node& node, Depth depth)
{
    return std::make_unique<Values>(context, plan, node, depth);
}

bool onOtherScale(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    static_cast<ScaledValues&>(*series.memory).fill(run.frame, from, series.out(from, to));
    return true;
}

bool onOtherLine(Series& series, const Run& run, std::size_t from, std::size_t to)
{
    static_cast<OtherValues&>(*series.memory)
        .fill(run.frame.days.subspan(from, to - from), series.out(from, to));
    return true;
}

constexpr std::array otherBars{Parameter{"x", Accepts::OtherBars}};
constexpr std::array minutesParameters{Parameter{"n", Accepts::Whole, std::nullopt, 1, 390},
                                       Parameter{"x", Accepts::OtherBars}};
constexpr std::array indexParameters{Parameter{"symbol", Accepts::Quoted},
                                     Parameter{"x", Accepts::OtherBars}};
constexpr std::array groupParameters{Parameter{"name", Accepts::Quoted},
                                     Parameter{"x", Accepts::OtherBars},
                                     Parameter{"weight", Accepts::Weight, 0.0}};
constexpr std::array compositeParameters{Parameter{"x", Accepts::OtherBars},
                                         Parameter{"weight", Accepts::Weight, 0.0}};

/// What all of a family share. `cost`: a pass of its own.
constexpr Operator otherScale(Op op, std::string_view name, std::string_view help,
                              std::span<const Parameter> parameters)
{
    return {.op = op,
            .family = Family::OtherScale,
            .name = name,
            .help = help,
            .parameters = parameters,
            .fill = onOtherScale,
            .cost = 100.0,
            .memory = passOfItsOwn<ScaledValues>};
}

constexpr Operator otherLine(Op op, std::string_view name, std::string_view help,
                             std::span<const Parameter> parameters)
{
    return {.op = op,
            .family = Family::OtherLine,
            .name = name,
            .help = help,
            .parameters = parameters,
            .fill = onOtherLine,
            .cost = 100.0,
            .memory = passOfItsOwn<OtherValues>};
}

constexpr std::array otherBarsRows{
    otherScale(Op::Weekly, "weekly", "x on weekly bars; the week that runs counts as its last bar",
               otherBars),
    otherScale(Op::Monthly, "monthly",
               "x on monthly bars; the month that runs counts as its last bar", otherBars),
    otherScale(Op::Minutes, "minutes", "x on bars of n minutes, at the last one of the day",
               minutesParameters),
    otherLine(Op::Benchmark, "benchmark", "x of the market's benchmark", otherBars),
    otherLine(Op::OtherStock, "index", "x of the index or any other instrument of that symbol",
              indexParameters),
    otherLine(Op::Composite, "composite",
              "x of all shares together, weighing the same or by capitalization",
              compositeParameters),
    otherLine(Op::GroupLine, "group",
              "x of the shares of a sector, industry or exchange together, by its name",
              groupParameters),
    otherLine(Op::ListLine, "list",
              "x of the stocks of one of your lists together, each while it was on it",
              groupParameters),
};

} // namespace

std::optional<std::size_t> otherInstrument(const Node& node, const market::Market& market)
{
    if (node.op != Op::Benchmark && node.op != Op::OtherStock)
        return std::nullopt;
    return market.find(node.text.empty() ? market.description().benchmark : node.text);
}

std::span<const Operator> otherBarsOperators()
{
    return otherBarsRows;
}

} // namespace sieve::engine
