#include "core/studies/neighbours.h"

#include "core/base/parallel.h"
#include "core/base/quantile.h"
#include "core/base/ties.h"
#include "core/engine/currencies.h"
#include "core/screens/limits.h"
#include "core/studies/match_bars.h"
#include "core/studies/random_picks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace sieve::studies {

namespace {

LocatedError refusal(std::string problem, std::string remedy)
{
    return {{}, std::move(problem), std::move(remedy)};
}

std::string wordOf(engine::Op op)
{
    switch (op) {
    case engine::Op::Greater:
        return ">";
    case engine::Op::Less:
        return "<";
    case engine::Op::LessEqual:
        return "<=";
    default:
        return ">=";
    }
}

bool passes(const screens::Limit& limit, double figure, double bound)
{
    switch (limit.op) {
    case engine::Op::Greater:
        return isGreater(figure, bound);
    case engine::Op::Less:
        return isLess(figure, bound);
    case engine::Op::LessEqual:
        return isAtMost(figure, bound);
    default:
        return isAtLeast(figure, bound);
    }
}

/// The limits of a criterion that have a number as their bound, with their places.
std::vector<screens::Limit> fixedLimits(const screens::Screen& screen, std::size_t criterion,
                                        const language::Names& names, engine::Plan& plan)
{
    if (criterion >= screen.criteria.size() || !screen.criteria[criterion].isOn)
        return {};
    return screens::limitsOf(screen.criteria[criterion].text, names, plan);
}

/// The screen without two of its limits.
screens::Screen withoutLimits(const screens::Screen& screen, const MovedLimit& a,
                              const MovedLimit& b, const language::Names& names)
{
    screens::Screen left = screen;
    left.criteria.clear();
    for (std::size_t i = 0; i < screen.criteria.size(); ++i) {
        if (i != a.criterion && i != b.criterion) {
            left.criteria.push_back(screen.criteria[i]);
            continue;
        }
        engine::Plan plan;
        const auto limits = fixedLimits(screen, i, names, plan);
        for (std::size_t at = 0; at < limits.size(); ++at) {
            const bool isMoved =
                (i == a.criterion && at == a.limit) || (i == b.criterion && at == b.limit);
            if (!isMoved)
                left.criteria.push_back({fmt::format("({}) {} ({})", limits[at].field,
                                                     wordOf(limits[at].op), limits[at].bound)});
        }
    }
    return left;
}

/// A bar on which all else holds.
struct Bar {
    double across = missing;
    double down = missing;
    double change = missing;
    std::uint32_t session = 0;
    int endYear = 0; ///< in which it was known what followed
};

/// What the cases of a cell add up to.
struct CellSum {
    std::size_t cases = 0;
    double change = 0.0;
    double others = 0.0;

    void add(const CellSum& other)
    {
        cases += other.cases;
        change += other.change;
        others += other.others;
    }
    Neighbours::Cell cell() const
    {
        if (cases == 0)
            return {};
        const auto count = static_cast<double>(cases);
        return {cases, change / count, (change - others) / count};
    }
};

/// A sum for each number of bounds that are passed, down and across.
class CellSums {
public:
    CellSums(std::size_t height, std::size_t width)
        : width_(width), height_(height), sums_((width + 1) * (height + 1))
    {
    }
    CellSum& at(std::size_t down, std::size_t across)
    {
        return sums_[down * (width_ + 1) + across];
    }
    void add(const CellSums& other)
    {
        for (std::size_t at = 0; at < sums_.size(); ++at)
            sums_[at].add(other.sums_[at]);
    }
    /// Each bar was counted once, at the outermost cell that it passes; then a cell holds all that
    /// were counted there or further out.
    void gather()
    {
        for (std::size_t row = height_ + 1; row-- > 0;)
            for (std::size_t column = width_; column-- > 0;)
                at(row, column).add(at(row, column + 1));
        for (std::size_t row = height_; row-- > 0;)
            for (std::size_t column = width_ + 1; column-- > 0;)
                at(row, column).add(at(row + 1, column));
    }

private:
    std::size_t width_;
    std::size_t height_;
    std::vector<CellSum> sums_;
};

/// What a block of stocks adds up to, by years.
struct YearSums {
    std::map<int, CellSums> byYear;
    std::map<int, CellSums> byEnd;

    static CellSums& of(std::map<int, CellSums>& sums, int year, std::size_t height,
                        std::size_t width)
    {
        return sums.try_emplace(year, height, width).first->second;
    }
};

/// Evenly from where two in a hundred lie to where all but two do, with the own bound among them.
std::vector<double> boundsOf(std::vector<double> figures, double own, std::size_t steps)
{
    std::erase_if(figures, [](double figure) { return !std::isfinite(figure); });
    std::ranges::sort(figures);
    double low = figures.empty() ? own : std::min(own, quantileOf(figures, 0.02));
    double high = figures.empty() ? own : std::max(own, quantileOf(figures, 0.98));
    if (!(high > low)) {
        low -= std::max(1.0, std::fabs(own)) * 0.5;
        high += std::max(1.0, std::fabs(own)) * 0.5;
    }
    std::vector<double> bounds;
    for (std::size_t step = 0; step < steps; ++step)
        bounds.push_back(low +
                         (high - low) * static_cast<double>(step) / static_cast<double>(steps - 1));
    // The nearest one gives way to the own.
    *std::ranges::min_element(bounds, {}, [own](double bound) { return std::fabs(bound - own); }) =
        own;
    return bounds;
}

std::size_t nearest(const std::vector<double>& bounds, double own)
{
    return static_cast<std::size_t>(
        std::ranges::min_element(bounds, {},
                                 [own](double bound) { return std::fabs(bound - own); }) -
        bounds.begin());
}

/// Whether a place among bounds lies on the side on which more and more pass.
struct Side {
    const screens::Limit& limit;
    const std::vector<double>& bounds;

    /// How many of the bounds a figure passes: the first ones where it must be large, else the
    /// last.
    std::size_t passed(double figure) const
    {
        if (isMissing(figure))
            return 0;
        const auto count = std::ranges::count_if(
            bounds, [&](double bound) { return passes(limit, figure, bound); });
        return static_cast<std::size_t>(count);
    }
    /// Place of the outermost bound that a figure passes, counted from the side that all pass.
    std::size_t place(std::size_t bound) const
    {
        return limit.wantsMore() ? bound : bounds.size() - 1 - bound;
    }
};

class NeighbourField {
public:
    NeighbourField(Neighbours& told, const market::Market& market,
                   const std::vector<MatchedStock>& stocks, Day day)
        : told_(told), market_(market), stocks_(stocks), day_(day)
    {
        const FollowingQuestion& of = told.question.of;
        const auto all = market.sessions();
        const auto begin = std::ranges::lower_bound(all, of.from);
        const auto end = std::ranges::upper_bound(all, std::min(of.to, day));
        if (begin < end)
            sessions_ = {begin, end};
        for (const Day session : sessions_)
            yearOf_.push_back(static_cast<int>(session.date().year()));
    }

    void findBars(const Progress& progress)
    {
        constexpr std::size_t together = 64;
        const std::size_t blocks = (stocks_.size() + together - 1) / together;
        std::vector<std::vector<Bar>> bars(blocks);
        std::vector<std::vector<double>> sums(blocks);
        std::vector<std::vector<double>> counts(blocks);
        inParallel(blocks, [&](std::size_t block) {
            sums[block].resize(sessions_.size());
            counts[block].resize(sessions_.size());
            for (std::size_t stock = block * together;
                 stock < std::min(stocks_.size(), (block + 1) * together); ++stock)
                if (!progress.stopRequested())
                    addStock(stock, bars[block], sums[block], counts[block]);
        });
        if (progress.stopRequested())
            throw Stopped{};
        means_.assign(sessions_.size(), missing);
        for (std::size_t session = 0; session < sessions_.size(); ++session) {
            double sum = 0.0;
            double count = 0.0;
            for (std::size_t block = 0; block < blocks; ++block) {
                sum += sums[block][session];
                count += counts[block][session];
            }
            if (count > 0.0)
                means_[session] = sum / count;
        }
        bars_ = std::move(bars);
    }

    std::vector<double> figures(double Bar::*figure) const
    {
        std::vector<double> all;
        for (const auto& block : bars_)
            for (const Bar& bar : block)
                all.push_back(bar.*figure);
        return all;
    }

    void fill(const Side& across, const Side& down)
    {
        const std::size_t width = across.bounds.size();
        const std::size_t height = down.bounds.size();
        // Added up block by block of stocks: the same with any number of threads.
        std::vector<YearSums> ofBlocks(bars_.size());
        inParallel(bars_.size(), [&](std::size_t block) {
            for (const Bar& bar : bars_[block]) {
                const std::size_t row = down.passed(bar.down);
                const std::size_t column = across.passed(bar.across);
                const CellSum sum{1, bar.change, means_[bar.session]};
                YearSums& sums = ofBlocks[block];
                sums.of(sums.byYear, yearOf_[bar.session], height, width).at(row, column).add(sum);
                sums.of(sums.byEnd, bar.endYear, height, width).at(row, column).add(sum);
            }
        });
        std::map<int, CellSums> byYear; // in which the cases began
        std::map<int, CellSums> byEnd;  // in which it was known what followed
        for (const YearSums& block : ofBlocks) {
            for (const auto& [year, sums] : block.byYear)
                byYear.try_emplace(year, height, width).first->second.add(sums);
            for (const auto& [year, sums] : block.byEnd)
                byEnd.try_emplace(year, height, width).first->second.add(sums);
        }
        CellSums all(height, width);
        for (auto* sums : {&byYear, &byEnd})
            for (auto& [year, each] : *sums)
                each.gather();
        for (const auto& [year, each] : byYear)
            all.add(each);
        told_.cells.assign(width * height, {});
        for (std::size_t row = 0; row < height; ++row)
            for (std::size_t column = 0; column < width; ++column)
                told_.cells[row * width + column] =
                    all.at(down.place(row) + 1, across.place(column) + 1).cell();
        walk(across, down, byYear, byEnd);
    }

private:
    void walk(const Side& across, const Side& down, std::map<int, CellSums>& byYear,
              const std::map<int, CellSums>& byEnd)
    {
        const std::size_t width = across.bounds.size();
        const std::size_t height = down.bounds.size();
        CellSums before(height, width);
        auto known = byEnd.begin();
        for (auto& [year, sums] : byYear) {
            for (; known != byEnd.end() && known->first < year; ++known)
                before.add(known->second);
            const auto cellOf = [&](CellSums& of, std::size_t row, std::size_t column) {
                return of.at(down.place(row) + 1, across.place(column) + 1).cell();
            };
            std::optional<Neighbours::WalkStep> best;
            for (std::size_t row = 0; row < height; ++row)
                for (std::size_t column = 0; column < width; ++column) {
                    const Neighbours::Cell cell = cellOf(before, row, column);
                    if (cell.cases >= fewWalked && (!best || cell.excess > best->before.excess))
                        best = {year, column, row, cell, {}, {}};
                }
            if (!best)
                continue;
            best->after = cellOf(sums, best->down, best->across);
            best->own = cellOf(sums, told_.ownDown, told_.ownAcross);
            told_.walk.push_back(*best);
        }
    }

    void addStock(std::size_t stock, std::vector<Bar>& bars, std::vector<double>& sums,
                  std::vector<double>& counts) const
    {
        const MatchedStock& own = stocks_[stock];
        if (own.firstBar >= own.endBar)
            return;
        const FollowingQuestion& of = told_.question.of;
        const Prices prices = pricesOf(market_, stock, day_, Columns::OpenAndClose, of.dividends);
        std::size_t strength = 0;
        std::size_t session = 0;
        for (std::size_t bar = own.firstBar; bar < std::min(own.endBar, prices.size()); ++bar) {
            while (session < sessions_.size() && sessions_[session] < prices.days[bar])
                ++session;
            if (session == sessions_.size())
                return;
            if (!own.universe.at(bar))
                continue;
            const double change = changeAfter(prices, bar, priceBoughtAt(prices, bar, of.boughtAt),
                                              of.horizons.front());
            if (isMissing(change))
                continue;
            sums[session] += change;
            counts[session] += 1.0;
            if (!own.matches.at(bar))
                continue;
            while (strength < own.strengths.size() && own.strengths.bar(strength) < bar)
                ++strength;
            if (strength == own.strengths.size() || own.strengths.bar(strength) != bar)
                continue;
            const auto figures = own.strengths.figures(strength);
            bars.push_back({figures[0], figures[1], change, static_cast<std::uint32_t>(session),
                            endYearOf(prices, bar)});
        }
    }

    int endYearOf(const Prices& prices, std::size_t bar) const
    {
        const auto bars = static_cast<std::size_t>(told_.question.of.horizons.front());
        return static_cast<int>(prices.days[std::min(bar + bars, prices.size() - 1)].date().year());
    }

    Neighbours& told_;
    const market::Market& market_;
    const std::vector<MatchedStock>& stocks_;
    Day day_;
    std::span<const Day> sessions_;
    std::vector<std::vector<Bar>> bars_; ///< a block of stocks
    std::vector<int> yearOf_;            ///< a session
    std::vector<double> means_;          ///< a session: of all stocks of the universe
};

} // namespace

double Neighbours::steadiness() const
{
    if (!(own().excess > 0.0))
        return missing;
    double sum = 0.0;
    double count = 0.0;
    const std::size_t height = question.down.bounds.size();
    const std::size_t width = question.across.bounds.size();
    for (std::size_t row = ownDown > 0 ? ownDown - 1 : 0; row < std::min(height, ownDown + 2);
         ++row)
        for (std::size_t column = ownAcross > 0 ? ownAcross - 1 : 0;
             column < std::min(width, ownAcross + 2); ++column) {
            if ((row == ownDown && column == ownAcross) || isMissing(at(row, column).excess))
                continue;
            sum += at(row, column).excess;
            count += 1.0;
        }
    return count > 0.0 ? sum / count / own().excess : missing;
}

WalkTold walkToldOf(std::span<const Neighbours::WalkStep> walk)
{
    const auto meanOf = [walk](Neighbours::Cell Neighbours::WalkStep::*cell) {
        double sum = 0.0;
        double cases = 0.0;
        for (const Neighbours::WalkStep& step : walk)
            if ((step.*cell).cases > 0) {
                const auto count = static_cast<double>((step.*cell).cases);
                sum += count * (step.*cell).excess;
                cases += count;
            }
        return cases > 0.0 ? sum / cases : missing;
    };
    using Step = Neighbours::WalkStep;
    return {meanOf(&Step::before), meanOf(&Step::after), meanOf(&Step::own)};
}

std::vector<MovedLimit> movableLimits(const screens::Screen& screen, const language::Names& names)
{
    std::vector<MovedLimit> found;
    for (std::size_t i = 0; i < screen.criteria.size(); ++i) {
        engine::Plan plan;
        const auto limits = fixedLimits(screen, i, names, plan);
        for (std::size_t at = 0; at < limits.size(); ++at)
            if (limits[at].fixed)
                found.push_back({i, at});
    }
    return found;
}

Result<Neighbours> neighboursOf(const NeighbourQuestion& question, const language::Names& names,
                                engine::Evaluator& evaluator, Day day, const Progress& progress)
{
    const screens::Screen& screen = question.of.screen;
    if (const auto fault = screens::faultOf(screen, names))
        return *fault;
    if (question.of.horizons.empty() || question.of.horizons.front() < 1 ||
        question.of.horizons.front() > longestHorizon)
        return refusal("there is no horizon", "give a number of bars");
    if (question.steps < 2 || question.steps > mostBounds)
        return refusal(fmt::format("{} steps cannot be told", question.steps),
                       fmt::format("give 2 to {}", mostBounds));
    for (const MovedLimit* moved : {&question.across, &question.down})
        if (moved->bounds.size() > mostBounds || !std::ranges::is_sorted(moved->bounds))
            return refusal("the bounds are not ascending, or too many",
                           fmt::format("give up to {}", mostBounds));
    engine::Plan plan;
    const auto limitAt = [&](const MovedLimit& moved) -> std::optional<screens::Limit> {
        const auto limits = fixedLimits(screen, moved.criterion, names, plan);
        if (moved.limit >= limits.size() || !limits[moved.limit].fixed)
            return std::nullopt;
        return limits[moved.limit];
    };
    const auto across = limitAt(question.across);
    const auto down = limitAt(question.down);
    const bool isSame = question.across.criterion == question.down.criterion &&
                        question.across.limit == question.down.limit;
    if (!across || !down || isSame)
        return refusal("two limits that are numbers are needed",
                       "move limits such as that of rsi(close, 14) < 30");
    Neighbours told;
    told.question = question;
    told.across = across->field;
    told.down = down->field;
    told.acrossUnit = across->unit;
    told.downUnit = down->unit;
    const auto nodes =
        screens::nodesOf(withoutLimits(screen, question.across, question.down, names), names,
                         evaluator.market(), plan);
    // Money is compared with a number in the market's currency.
    const auto figureOf = [&](const screens::Limit& limit) {
        const bool isMoney = plan[limit.fieldNode].unit == Unit::Money;
        return isMoney && evaluator.market().hasOtherCurrencies()
                   ? engine::inMarketCurrency(plan, limit.fieldNode)
                   : limit.fieldNode;
    };
    const engine::NodeId figures[] = {figureOf(*across), figureOf(*down)};
    std::vector<MatchedStock> stocks;
    try {
        stocks = matchedStocks(plan, nodes, figures, true, evaluator, question.of.from,
                               std::min(question.of.to, day), progress, mostNeighbourBars);
    } catch (const TooManyBars&) {
        return refusal(fmt::format("all else holds on more than {} bars", mostNeighbourBars),
                       "ask for fewer days, or for a narrower universe");
    }
    NeighbourField field(told, evaluator.market(), stocks, day);
    field.findBars(progress);
    const auto complete = [&](MovedLimit& moved, double own, double Bar::*figure) {
        if (moved.bounds.empty())
            moved.bounds = boundsOf(field.figures(figure), own, question.steps);
    };
    complete(told.question.across, *across->fixed, &Bar::across);
    complete(told.question.down, *down->fixed, &Bar::down);
    told.ownAcross = nearest(told.question.across.bounds, *across->fixed);
    told.ownDown = nearest(told.question.down.bounds, *down->fixed);
    field.fill({*across, told.question.across.bounds}, {*down, told.question.down.bounds});
    return told;
}

} // namespace sieve::studies
