#include "core/conditions/mosaic.h"

#include "core/base/require.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace sieve::conditions {

namespace {

/// Capitalization and change of every instrument on the day.
class Figures {
public:
    Figures(engine::Evaluator& evaluator, Day day, std::size_t span, const Progress& progress)
        : market_(evaluator.market()), day_(day)
    {
        engine::Plan plan;
        const language::Names names{language::Vocabulary::builtIn()};
        const auto size = check("converted(market_cap)", names, plan);
        const auto change = check(fmt::format("change(close, {})", span), names, plan);
        require(size && change, "mosaic: its own expressions do not check");
        const engine::NodeId targets[] = {size->node, change->node};
        columns_ = evaluator.columns(plan, targets, day, progress);
    }

    bool isListed(std::size_t share) const { return market_.isListed(share, day_); }
    double size(std::size_t share) const { return (*columns_[0])[share]; }
    double change(std::size_t share) const { return (*columns_[1])[share]; }
    const market::Instrument& instrument(std::size_t share) const
    {
        return market_.instrument(share);
    }

private:
    const market::Market& market_;
    Day day_;
    std::vector<engine::ColumnPtr> columns_;
};

/// A size now and what it was when the span began.
struct Sum {
    double size = 0.0;
    double now = 0.0;
    double before = 0.0;
    std::size_t shares = 0;

    void add(double own, double change)
    {
        size += own;
        ++shares;
        if (!isMissing(change) && change > -1.0) {
            now += own;
            before += own / (1.0 + change);
        }
    }
    double change() const { return before > 0.0 ? now / before - 1.0 : missing; }
};

class Builder {
public:
    Builder(const Figures& figures, Day day, std::size_t span) : figures_(figures)
    {
        mosaic_.day = day;
        mosaic_.span = span;
    }

    /// Sizes count unless nobody's is known.
    void weigh(std::span<const std::size_t> shares)
    {
        mosaic_.isBySize = std::ranges::any_of(shares, [&](std::size_t share) {
            return figures_.isListed(share) && figures_.size(share) > 0.0;
        });
    }
    std::optional<double> sizeOf(std::size_t share)
    {
        if (!figures_.isListed(share))
            return std::nullopt;
        if (!mosaic_.isBySize)
            return 1.0;
        const double size = figures_.size(share);
        if (size > 0.0)
            return size;
        ++mosaic_.unsized;
        return std::nullopt;
    }
    /// A column of shares.
    void addShares(const std::string& name, std::optional<std::size_t> group,
                   std::span<const std::size_t> shares)
    {
        MosaicColumn column{name, group, 0.0, missing, {}};
        Sum sum;
        for (const std::size_t share : shares)
            if (const auto size = sizeOf(share)) {
                column.parts.push_back({figures_.instrument(share).symbol, share, std::nullopt,
                                        *size, figures_.change(share), 1});
                sum.add(*size, figures_.change(share));
            }
        add(std::move(column), sum);
    }
    /// A column of industries; shares without one lie together.
    void addSector(const Groups& groups, std::size_t sector)
    {
        MosaicColumn column{groups.all[sector].name, sector, 0.0, missing, {}};
        Sum all;
        const auto addPart = [&](const std::string& name, std::optional<std::size_t> group,
                                 std::span<const std::size_t> shares) {
            Sum sum;
            for (const std::size_t share : shares)
                if (const auto size = sizeOf(share)) {
                    sum.add(*size, figures_.change(share));
                    all.add(*size, figures_.change(share));
                }
            if (sum.shares > 0)
                column.parts.push_back(
                    {name, std::nullopt, group, sum.size, sum.change(), sum.shares});
        };
        std::vector<std::size_t> others;
        for (const std::size_t share : groups.all[sector].shares)
            if (figures_.instrument(share).industry.empty())
                others.push_back(share);
        for (std::size_t i = 0; i < groups.all.size(); ++i)
            if (groups.all[i].sector == sector)
                addPart(groups.all[i].name, i, groups.all[i].shares);
        addPart("no industry", std::nullopt, others);
        add(std::move(column), all);
    }
    Mosaic take()
    {
        std::ranges::stable_sort(mosaic_.columns, std::greater{}, &MosaicColumn::size);
        return std::move(mosaic_);
    }

private:
    void add(MosaicColumn column, const Sum& sum)
    {
        if (column.parts.empty())
            return;
        column.size = sum.size;
        column.change = sum.change();
        std::ranges::stable_sort(column.parts, [](const MosaicPart& a, const MosaicPart& b) {
            if (isMissing(a.change) || isMissing(b.change))
                return !isMissing(a.change) && isMissing(b.change);
            return a.change > b.change;
        });
        mosaic_.columns.push_back(std::move(column));
    }

    const Figures& figures_;
    Mosaic mosaic_;
};

} // namespace

Mosaic marketMosaic(engine::Evaluator& evaluator, const Groups& groups,
                    std::optional<std::size_t> sector, Day day, std::size_t span,
                    const Progress& progress)
{
    require(span >= 1, "mosaic: no such span");
    const Figures figures(evaluator, day, span, progress);
    Builder builder(figures, day, span);
    if (!sector) {
        std::vector<std::size_t> all;
        for (const Group& group : groups.all)
            if (!group.sector)
                all.insert(all.end(), group.shares.begin(), group.shares.end());
        builder.weigh(all);
        for (std::size_t i = 0; i < groups.all.size(); ++i)
            if (!groups.all[i].sector)
                builder.addSector(groups, i);
        return builder.take();
    }
    const Group& asked = groups.all.at(*sector);
    builder.weigh(asked.shares);
    std::vector<std::size_t> others;
    for (const std::size_t share : asked.shares)
        if (figures.instrument(share).industry.empty())
            others.push_back(share);
    for (std::size_t i = 0; i < groups.all.size(); ++i)
        if (groups.all[i].sector == sector)
            builder.addShares(groups.all[i].name, i, groups.all[i].shares);
    builder.addShares("no industry", std::nullopt, others);
    return builder.take();
}

Mosaic sharesMosaic(engine::Evaluator& evaluator, std::span<const std::size_t> shares, Day day,
                    std::size_t span, const Progress& progress)
{
    require(span >= 1, "mosaic: no such span");
    const Figures figures(evaluator, day, span, progress);
    Builder builder(figures, day, span);
    builder.weigh(shares);
    std::map<std::string, std::vector<std::size_t>> sectors;
    for (const std::size_t share : shares)
        sectors[figures.instrument(share).sector].push_back(share);
    for (const auto& [name, members] : sectors)
        builder.addShares(name.empty() ? "no sector" : name, std::nullopt, members);
    return builder.take();
}

double fullChange(const Mosaic& mosaic)
{
    constexpr double least = 0.01;
    std::vector<double> changes;
    for (const MosaicColumn& column : mosaic.columns)
        for (const MosaicPart& part : column.parts)
            if (!isMissing(part.change))
                changes.push_back(std::fabs(part.change));
    if (changes.empty())
        return least;
    const auto ninth = changes.begin() + static_cast<std::ptrdiff_t>(changes.size() * 9 / 10);
    std::nth_element(changes.begin(), ninth, changes.end());
    return std::max(std::ceil(*ninth * 100.0) / 100.0, least);
}

double colourStrength(double change, double fullChange)
{
    return std::min(std::fabs(change) / fullChange, 1.0);
}

std::vector<MosaicCell> layOut(const Mosaic& mosaic, double leastHeight)
{
    double total = 0.0;
    for (const MosaicColumn& column : mosaic.columns)
        total += column.size;
    std::vector<MosaicCell> cells;
    double x = 0.0;
    for (std::size_t at = 0; at < mosaic.columns.size(); ++at) {
        const MosaicColumn& column = mosaic.columns[at];
        const double width = column.size / total;
        double y = 0.0;
        std::size_t together = 0;
        for (std::size_t part = 0; part < column.parts.size(); ++part) {
            const double height = column.parts[part].size / column.size;
            if (height < leastHeight) {
                ++together;
                continue;
            }
            cells.push_back({at, part, 1, x, y, width, height});
            y += height;
        }
        if (together > 0)
            cells.push_back({at, std::nullopt, together, x, y, width, 1.0 - y});
        x += width;
    }
    return cells;
}

} // namespace sieve::conditions
