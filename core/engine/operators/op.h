#pragma once

namespace sieve::engine {

/// The names of the operators, family by family. What each one does stands in its family's file of
/// this folder; `operatorOf` gives its row.
enum class Op {
    // constants.cpp
    Constant,     ///< `number`
    TextConstant, ///< `text`; its number is the market's, found when evaluated
    // bars.cpp: what the bars of the instrument hold
    BarColumn,   ///< `barField`, on the footing asked for
    TotalReturn, ///< the worth of a share with its dividends put back into it
    BarDay,      ///< the day of the bar
    BarNumber,   ///< bars since the first, from 1
    LiveOnly,    ///< has a value only while a session runs
    // listing.cpp: who the instrument is
    TextField, ///< `textField`
    Symbol,    ///< that it bore on the bar's day
    ListedOn,
    OfferPrice,
    Optionable,
    Shortable,
    InIndex,  ///< member of the index `text` on the bar's day
    OnList,   ///< on `list` on the bar's day
    Answered, ///< what the person said of it among `answers` by the bar's day
    Drawing,  ///< price of the one among `drawings` that is the instrument's, at share `number`
    // statements.cpp: `item` of the statements, as known on the bar's day
    Quarter, ///< `count` quarters back
    Year,    ///< `count` years back
    TrailingTwelveMonths,
    Stability, ///< how straight the trailing sums of `item` ran over `count` years
    ReportDay, ///< on which the newest statements became known
    // shares.cpp: as of the bar's day, on the footing asked for
    SharesOutstanding,
    FreeFloat,
    ShortInterest,
    Held,    ///< share that owners of kind `item` held, `count` reports back
    Holders, ///< how many they were
    // estimates.cpp: of measure `item`
    Estimate,        ///< for the `count`-th year ahead
    EstimateQuarter, ///< for the `count`-th quarter ahead
    Revision,        ///< how that of this year changed over `count` days
    Surprise,        ///< of the figure reported `count` quarters back
    // notices.cpp
    NextReport,    ///< day of the next report that the calendar tells
    NewsWithin,    ///< whether a notice of `count` days names `text`
    PriceTarget,   ///< mean of the houses' targets given in `count` days
    DividendsPaid, ///< a share, over `count` days
    // values.cpp: value by value, from inputs of the same bar
    Negate,
    Add,
    Subtract,
    Multiply,
    Divide,
    Power,
    Less,
    LessEqual,
    Greater,
    GreaterEqual,
    Equal,
    NotEqual,
    Not,
    And,
    Or,
    If,     ///< condition, then, else
    Known,  ///< yes where its input is not missing
    OrElse, ///< the first input, or the second where it is missing
    Absolute,
    Lesser,
    Greatest,
    SquareRoot,
    Logarithm,
    Floor,
    ImpliedGrowth, ///< of a multiple, over years, by a discount rate and a lasting growth
    // along_bars.cpp: from bars of the same instrument
    Prior,     ///< `count` bars back
    Indicator, ///< `indicator` with `settings`
    OnBar,     ///< on bar `count`, from 1
    OnDay,     ///< on the newest bar by the day `number`
    AtYearEnd, ///< on the last bar of the calendar year before the bar's
    AsTraded,  ///< on the footing of the bar itself
    Converted, ///< money, in the market's currency
    Contains,  ///< whether a text has `text` in it
    // patterns.cpp: records of several values a bar, and what is read of them
    BarShape,
    InsideDay,
    OutsideDay,
    // other_bars.cpp: the input lies on bars of another scale, or of another instrument or line
    Weekly,
    Monthly,
    Minutes,    ///< of `count` minutes
    Benchmark,  ///< on the market's benchmark, on its newest bar by the day
    OtherStock, ///< on the instrument `text`, likewise
    Composite,  ///< on all shares together, weighed as `item` says
    GroupLine,  ///< on the shares of the sector, industry or exchange `text` together, likewise
    ListLine,   ///< on the stocks of `list` together, each while it was on it, likewise
    // across_stocks.cpp: all instruments on one day; a second input, if there, groups them; `item`
    // 1: only those that traded on the day
    Percentile,
    Rank,
    Median,
    Mean,
    ZScore,
    ShareOf,
    CountOf,
    TotalOf,
    GroupRank,
    LeastPlaced, ///< the least figure whose place keeps to the limit `number`; `place` says which
};

} // namespace sieve::engine
