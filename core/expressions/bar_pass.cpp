#include "core/expressions/bar_pass.h"

#include "core/market/as_of.h"

#include <algorithm>
#include <array>

namespace sieve::expressions {

BarPass::BarPass(const market::Market& market, const Plan& plan, std::span<const NodeId> targets,
                 const AcrossTable& table)
    : market_(market), plan_(plan), table_(table), targets_(targets.begin(), targets.end()),
      order_(plan.neededAlongBars(targets)), buffers_(order_.empty() ? 0 : order_.back() + 1U)
{
}

void BarPass::Buffer::include(std::size_t first, std::size_t end)
{
    if (first >= end)
        return;
    from = isNeeded() ? std::min(from, first) : first;
    to = std::max(to, end);
}

void BarPass::findNeeds(std::size_t from, std::size_t to)
{
    for (const NodeId id : order_)
        buffers_[id].from = buffers_[id].to = 0;
    for (const NodeId target : targets_)
        buffers_[target].include(from, to);
    for (auto place = order_.rbegin(); place != order_.rend(); ++place) {
        const Node& node = plan_[*place];
        const Buffer& own = buffers_[*place];
        if (!own.isNeeded() || isAcross(node.op))
            continue;
        const auto count = static_cast<std::size_t>(node.count);
        std::size_t first = own.from;
        std::size_t end = own.to;
        if (node.op == Op::Prior) {
            first -= std::min(first, count);
            end -= std::min(end, count);
        } else if (node.op == Op::Indicator) {
            const std::size_t back = node.indicator->reach == indicators::Reach::Window ? count - 1
                                     : node.indicator->reach == indicators::Reach::PriorBar ? 1
                                                                                            : first;
            first -= std::min(first, back);
        }
        for (const NodeId input : node.inputs)
            buffers_[input].include(first, end);
    }
}

void BarPass::run(std::size_t instrument, std::size_t footing, std::size_t from, std::size_t to)
{
    instrument_ = instrument;
    footing_ = footing;
    from_ = from;
    to_ = to;
    findNeeds(from, to);
    for (const NodeId id : order_)
        if (buffers_[id].isNeeded())
            compute(id);
}

std::span<const double> BarPass::values(NodeId target) const
{
    const Buffer& buffer = buffers_[target];
    return std::span(buffer.values).subspan(from_ - buffer.from, to_ - from_);
}

void BarPass::compute(NodeId id)
{
    const Node& node = plan_[id];
    Buffer& out = buffers_[id];
    out.values.resize(out.to - out.from);
    if (isAcross(node.op))
        acrossLeaf(id, out);
    else if (isValueByValue(node.op))
        valueByValue(node, out);
    else if (node.op == Op::Prior)
        prior(node, out);
    else if (node.op == Op::Indicator)
        indicator(node, out);
    else
        leaf(node, out);
}

void BarPass::leaf(const Node& node, Buffer& out)
{
    const market::Instrument& instrument = market_.instrument(instrument_);
    const std::span<const Day> days = market_.bars(instrument_).days;
    const auto fill = [&out](double value) { std::ranges::fill(out.values, value); };
    switch (node.op) {
    case Op::Constant:
        return fill(node.number);
    case Op::TextConstant: {
        const auto number = market_.texts().find(node.text);
        return fill(number ? static_cast<double>(*number) : -1.0); // equals no text of the market
    }
    case Op::TextField: {
        const std::uint32_t number = market_.text(instrument_, node.textField);
        return fill(number == 0 ? missing : static_cast<double>(number));
    }
    case Op::BarColumn:
        return market_.adjusted(instrument_, node.barField, footing_, out.from, out.values);
    case Op::TotalReturn:
        return market_.totalReturn(instrument_, footing_, out.from, out.values);
    case Op::BarDay:
        for (std::size_t bar = out.from; bar < out.to; ++bar)
            out.values[bar - out.from] = days[bar].serial();
        return;
    case Op::BarNumber:
        for (std::size_t bar = out.from; bar < out.to; ++bar)
            out.values[bar - out.from] = static_cast<double>(bar + 1);
        return;
    case Op::ListedOn:
        return fill(instrument.listedOn ? instrument.listedOn->serial() : missing);
    case Op::OfferPrice:
        return fill(
            instrument.offerPrice *
            market_.priceFactor(instrument_, instrument.listedOn.value_or(days.front()), footing_));
    case Op::Quarter:
    case Op::Year:
    case Op::TrailingTwelveMonths:
        return statement(node, out);
    default:
        return shareCount(node, out);
    }
}

double BarPass::statementFigure(const Node& node, Day day) const
{
    const market::Statements& statements = market_.statements(instrument_);
    const bool isPerShare = market::statementItems()[node.item].isPerShare;
    const auto factorOf = [&](Day known) {
        return isPerShare ? market_.priceFactor(instrument_, known, footing_) : 1.0;
    };
    if (node.op == Op::TrailingTwelveMonths) {
        const auto sum = statements.trailingTwelveMonths(node.item, node.count, day, factorOf);
        return sum ? sum->value : missing;
    }
    const auto period = node.op == Op::Quarter ? market::Period::Quarter : market::Period::Year;
    const auto figure = statements.figure(node.item, period, node.count, day);
    return figure ? figure->value * factorOf(figure->knownOn) : missing;
}

void BarPass::statement(const Node& node, Buffer& out)
{
    const std::span<const Day> days = market_.bars(instrument_).days;
    const std::span<const Day> known = market_.statements(instrument_).knownDays();
    std::size_t bar = out.from;
    while (bar < out.to) { // nothing changes between two filings
        const double value = statementFigure(node, days[bar]);
        const auto next = std::ranges::upper_bound(known, days[bar]);
        const auto last = days.begin() + static_cast<std::ptrdiff_t>(out.to);
        const auto end =
            next == known.end()
                ? last
                : std::lower_bound(days.begin() + static_cast<std::ptrdiff_t>(bar), last, *next);
        for (; bar < static_cast<std::size_t>(end - days.begin()); ++bar)
            out.values[bar - out.from] = value;
    }
}

void BarPass::shareCount(const Node& node, Buffer& out)
{
    const std::span<const Day> days = market_.bars(instrument_).days;
    for (std::size_t bar = out.from; bar < out.to; ++bar) {
        const auto count = market::sharesOn(market_, instrument_, days[bar]);
        double shares = missing;
        if (count)
            shares = node.op == Op::SharesOutstanding ? count->outstanding
                     : node.op == Op::FreeFloat       ? count->freeFloat
                                                      : count->shortInterest;
        out.values[bar - out.from] =
            count ? shares / market_.priceFactor(instrument_, count->date, footing_) : missing;
    }
}

void BarPass::valueByValue(const Node& node, Buffer& out)
{
    std::vector<double> inputs(node.inputs.size());
    for (std::size_t bar = out.from; bar < out.to; ++bar) {
        for (std::size_t i = 0; i < inputs.size(); ++i) {
            const Buffer& input = buffers_[node.inputs[i]];
            inputs[i] = input.values[bar - input.from];
        }
        out.values[bar - out.from] = combine(node.op, inputs);
    }
}

void BarPass::prior(const Node& node, Buffer& out)
{
    const Buffer& input = buffers_[node.inputs[0]];
    const auto count = static_cast<std::size_t>(node.count);
    for (std::size_t bar = out.from; bar < out.to; ++bar)
        out.values[bar - out.from] = bar < count ? missing : input.values[bar - count - input.from];
}

void BarPass::indicator(const Node& node, Buffer& out)
{
    // All inputs are cut to the bars that this part needs, whatever more others asked of them.
    const auto count = static_cast<std::size_t>(node.count);
    const indicators::Reach reach = node.indicator->reach;
    std::size_t first = 0;
    if (reach == indicators::Reach::Window)
        first = out.from - std::min(out.from, count - 1);
    else if (reach == indicators::Reach::PriorBar)
        first = out.from - std::min<std::size_t>(out.from, 1);
    std::array<std::span<const double>, 4> columns;
    for (std::size_t i = 0; i < node.inputs.size(); ++i) {
        const Buffer& input = buffers_[node.inputs[i]];
        columns.at(i) = std::span(input.values).subspan(first - input.from, out.to - first);
    }
    out.values.resize(out.to - first);
    node.indicator->compute(std::span(columns).first(node.inputs.size()), node.count, first,
                            out.values);
    out.values.erase(out.values.begin(),
                     out.values.begin() + static_cast<std::ptrdiff_t>(out.from - first));
}

void BarPass::acrossLeaf(NodeId id, Buffer& out)
{
    const std::span<const Day> days = market_.bars(instrument_).days;
    const std::map<Day, ColumnPtr>& byDay = table_.at(id);
    for (std::size_t bar = out.from; bar < out.to; ++bar)
        out.values[bar - out.from] = (*byDay.at(days[bar]))[instrument_];
}

} // namespace sieve::expressions
