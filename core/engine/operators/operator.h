#pragma once

#include "core/engine/operators/op.h"
#include "core/engine/operators/series.h"

#include <optional>
#include <span>
#include <string_view>

// What an operator is. Each one is a row in the table of its family's file: how it is called, what
// it reads, how it fills bars. To add one: a name in op.h, a row and its functions in the family's
// file; the language, its reference, explanations and all ways to evaluate read the row.

namespace sieve {
class FetchAhead;
}

namespace sieve::engine {

/// What a part's values are made of, and so how it is evaluated.
enum class Family {
    Constant,     ///< the same for all bars
    Data,         ///< what stands in the data: bars, facts as known on the bar's day
    ValueByValue, ///< the values of its inputs on the same bar
    AlongBars,    ///< the values of its inputs on bars of the same instrument
    OtherScale,   ///< its input, evaluated on weekly, monthly or minute bars
    OtherLine,    ///< its input, evaluated on another instrument or line
    AcrossStocks, ///< the values of all instruments on one day
};

/// What an argument may be.
enum class Accepts {
    Figure,    ///< a number
    Condition, ///< yes/no
    Anything,  ///< any kind
    Text,      ///< a text
    Whole,     ///< a whole number known before anything runs
    Factor,    ///< a number known before anything runs
    Item,      ///< an item of the statements, by its name
    Measure,   ///< what analysts expect: eps, revenue, dividends_per_share
    Owner,     ///< a kind of owner, such as insiders
    Within,    ///< all, universe, sector, industry, exchange or on_list("…")
    Group,     ///< sector, industry or exchange
    Weight,    ///< equal or cap
    Stocks,    ///< all or traded
    Quoted,    ///< a text in quotes
    Day,       ///< a day such as 2025-03-14
    OtherBars, ///< anything, evaluated on other bars
};

struct Parameter {
    std::string_view name;
    Accepts accepts = Accepts::Figure;
    std::optional<double> initial = std::nullopt; ///< of one that may be left out
    double least = 0;
    double most = 5000;
};

/// Where the kind and unit of a value come from.
enum class Typed {
    AsStated,     ///< `kind` and `unit` of the row
    AsInput,      ///< those of the first input
    AsEither,     ///< those that the last two inputs share
    UnitOfBoth,   ///< a number in the unit that both inputs share
    AsItem,       ///< in the unit of the item of the statements
    AsSummedItem, ///< the same; the item must be one that is summed over time
    AsTraded,     ///< in the unit of the input, which must be a price or a volume
    AsMoney,      ///< money, as the input must be
};

/// The dates of a value: the bar that it is of, the end of the period that it is about, and since
/// when it is known.
struct ValueDates {
    std::optional<Day> day;
    std::optional<Day> periodEnd;
    std::optional<Day> knownOn;
};

/// Sum and number of the figures of a day that are known.
struct KnownSum {
    double sum = 0.0;
    double count = 0.0;

    void add(double figure)
    {
        const bool isKnown = !isMissing(figure);
        sum += isKnown ? figure : 0.0;
        count += isKnown ? 1.0 : 0.0;
    }
    void add(const KnownSum& block)
    {
        sum += block.sum;
        count += block.count;
    }
};

/// How a part across stocks makes the values of one day, in one of two ways. `figures` has one an
/// instrument, missing where it is out of the question; `members` are the instruments of a group.
struct AcrossWays {
    /// Gives each member its own value: writes out[member]; the others stay as they are.
    void (*eachMember)(const Node& part, std::span<const double> figures,
                       std::span<const std::uint32_t> members, std::span<double> out) = nullptr;
    /// The value of the whole group; missing where no member has a figure. `near`: that of a day
    /// nearby, or missing.
    double (*ofGroup)(const Node& part, std::span<const double> figures,
                      std::span<const std::uint32_t> members, double near) = nullptr;
    /// What is made of the values of all groups, where they are set against each other.
    void (*amongGroups)(std::span<double> values) = nullptr;
    /// Whether a member without a figure has none of the group's value either.
    bool isOfKnownMembers = false;
    /// Whether it is one figure of the day where it is asked for all stocks; and its value, where a
    /// sum and a number tell it.
    bool isOneFigure = false;
    double (*ofSum)(const KnownSum& all) = nullptr;
};

struct Operator {
    Op op = Op::Constant;
    Family family = Family::Constant;

    // How it is called. Without a name: by a sign, by a field of the dictionary, or not at all.
    std::string_view name = {};
    std::string_view help = {};
    std::span<const Parameter> parameters = {};
    Typed typed = Typed::AsStated;
    Kind kind = Kind::Number;
    Unit unit = Unit::Plain;
    /// Columns of the bars that are its inputs without being named.
    std::span<const market::BarField> barInputs = {};
    /// Of one that reads a record: the operator that makes it, and which of its columns. The
    /// arguments are the record's.
    std::optional<Op> record = std::nullopt;
    std::size_t column = 0;

    // What it reads of its inputs for bars [from, to): the same bars, unless one of these is there.
    Lookback (*lookback)(const Node& node) = nullptr;
    /// Bars that do not lie at a fixed distance.
    Bars (*namedBars)(const Node& node, const BarFrame& frame, Bars asked) = nullptr;
    bool mayReadMore = false; ///< `fill` may answer false: then it is asked again with more bars
    bool knowsDays = false;   ///< of the calendar: has no place on bars of another scale

    // How it fills bars. Required of every family but ValueByValue, whose parts are combined block
    // by block (values.h).
    /// Writes the values of bars [from, to) of what is needed; a lookback's bars lie in the inputs.
    /// What it writes must not depend on `from`: one more bar is a stretch of one.
    FillBars fill = nullptr;
    std::size_t columns = 1;  ///< more of a record, which only other operators read
    bool liesInPlace = false; ///< its values may be another's, to which it only points
    bool isSteady = false;    ///< no day changes it
    double cost = 1.0;        ///< a bar, in comparisons: decides about the order only
    /// What it keeps for the whole pass, if anything.
    std::unique_ptr<Memory> (*memory)(const Context& context, const Plan& plan, const Node& node,
                                      Depth depth) = nullptr;
    /// Has the processor fetch what it will read of the instrument `next`, when it is asked for
    /// bars as many before the newest as of the one in hand. Changes no value.
    void (*fetch)(const Series& series, const Run& run, const market::Market& market,
                  std::size_t next, FetchAhead& ahead) = nullptr;

    /// The dates of its value on a day on which the instrument has a bar, where there is more to
    /// tell than that day.
    ValueDates (*dates)(const Node& node, const market::Market& market, std::size_t instrument,
                        Day day) = nullptr;
    AcrossWays across = {};
};

/// All operators, in the order of their names in op.h.
std::span<const Operator> operators();
const Operator& operatorOf(Op op);

bool isValueByValue(Op op);
bool isAcross(Op op);
/// Whether its input lives on other bars than its users: another scale or another instrument.
bool changesBars(Op op);

} // namespace sieve::engine
