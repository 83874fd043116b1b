#include "core/engine/operators/values.h"

#include "core/base/ties.h"
#include "core/engine/operators/families.h"
#include "core/indicators/discount.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <vector>

namespace sieve::engine {

namespace {

using Inputs = std::span<const double* const>;

template <class Of> SIEVE_INLINE void each(Inputs inputs, std::span<double> out, Of of)
{
    const double* const a = inputs[0];
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = of(a[i]);
}

/// A second input that is the same for all bars, read like a column of it.
struct Same {
    double number;
    double operator[](std::size_t) const { return number; }
};

template <class B, class Of>
SIEVE_INLINE void eachTwo(const double* a, B b, std::span<double> out, Of of)
{
    double* const to = out.data();
    for (std::size_t i = 0; i < out.size(); ++i)
        to[i] = of(a[i], b[i]);
}

SIEVE_INLINE double finite(double value) // an overflow is no figure to trade on
{
    return std::fabs(value) <= std::numeric_limits<double>::max() ? value : missing;
}

template <class B, class Holds>
SIEVE_INLINE void compare(const double* a, B b, std::span<double> out, Holds holds)
{
    eachTwo(a, b, out, [holds](double left, double right) {
        const double answer = holds(left, right) ? 1.0 : 0.0;
        return left == left && right == right ? answer : missing;
    });
}

/// Those of two inputs; `b` is a column or Same.
template <class B> SIEVE_INLINE void combineTwo(Op op, const double* a, B b, std::span<double> out)
{
    switch (op) {
    case Op::Add:
        return eachTwo(a, b, out, [](double x, double y) { return finite(sumOf(x, y)); });
    case Op::Subtract:
        return eachTwo(a, b, out, [](double x, double y) { return finite(differenceOf(x, y)); });
    case Op::Multiply:
        return eachTwo(a, b, out, [](double x, double y) { return finite(x * y); });
    case Op::Divide: // by 0: not finite, or 0 / 0
        return eachTwo(a, b, out, [](double x, double y) { return finite(x / y); });
    case Op::Less:
        return compare(a, b, out, [](double x, double y) { return isLess(x, y); });
    case Op::LessEqual:
        return compare(a, b, out, [](double x, double y) { return isAtMost(x, y); });
    case Op::Greater:
        return compare(a, b, out, [](double x, double y) { return isGreater(x, y); });
    case Op::GreaterEqual:
        return compare(a, b, out, [](double x, double y) { return isAtLeast(x, y); });
    case Op::Equal:
        return compare(a, b, out, [](double x, double y) { return isTied(x, y); });
    case Op::NotEqual:
        return compare(a, b, out, [](double x, double y) { return !isTied(x, y); });
    case Op::Power:
        return eachTwo(a, b, out, [](double x, double y) {
            return isMissing(x) || isMissing(y) ? missing : finite(std::pow(x, y));
        });
    case Op::OrElse:
        return eachTwo(a, b, out, [](double x, double y) { return x == x ? x : y; });
    case Op::Lesser:
        return eachTwo(a, b, out, [](double x, double y) { return y < x || y != y ? y : x; });
    default: // Op::Greatest
        return eachTwo(a, b, out, [](double x, double y) { return x < y || y != y ? y : x; });
    }
}

/// and: no where one is no, else missing where one is missing; yes times yes is yes, and what is
/// missing stays so.
struct Both {
    static constexpr double decisive = 0.0;
    SIEVE_INLINE static double undecided(double a, double b) { return a * b; }
};

/// or: yes where one is yes, else missing where one is missing.
struct Either {
    static constexpr double decisive = 1.0;
    SIEVE_INLINE static double undecided(double a, double b) { return a + b; }
};

template <class Logic> SIEVE_INLINE double joined(double a, double b)
{
    const double undecided = Logic::undecided(a, b);
    return a == Logic::decisive || b == Logic::decisive ? Logic::decisive : undecided;
}

/// A few values at a time, so that what is joined stays in the processor's nearest cache; and three
/// inputs in one go.
template <class Logic> SIEVE_INLINE void join(Inputs inputs, std::span<double> out)
{
    constexpr std::size_t together = 512;
    for (std::size_t first = 0; first < out.size(); first += together) {
        const std::size_t count = std::min(together, out.size() - first);
        double* const to = out.data() + first;
        const double* a = inputs[0] + first; // may be `out` itself
        std::size_t next = 1;
        for (; next + 1 < inputs.size(); next += 2, a = to) {
            const double* const b = inputs[next] + first;
            const double* const c = inputs[next + 1] + first;
            for (std::size_t i = 0; i < count; ++i)
                to[i] = joined<Logic>(joined<Logic>(a[i], b[i]), c[i]);
        }
        if (next < inputs.size()) {
            const double* const b = inputs[next] + first;
            for (std::size_t i = 0; i < count; ++i)
                to[i] = joined<Logic>(a[i], b[i]);
        } else if (inputs.size() == 1 && a != to) {
            std::copy_n(a, count, to);
        }
    }
}

SIEVE_INLINE void choose(Inputs inputs, std::span<double> out)
{
    const double* const condition = inputs[0];
    const double* const a = inputs[1];
    const double* const b = inputs[2];
    for (std::size_t i = 0; i < out.size(); ++i) {
        const double yes = a[i]; // both are there to be read
        const double no = b[i];
        const double chosen = condition[i] == 0.0 ? no : yes;
        out[i] = condition[i] == condition[i] ? chosen : missing;
    }
}

constexpr std::array twoOfAnything{Parameter{"x", Accepts::Anything},
                                   Parameter{"y", Accepts::Anything}};
constexpr std::array twoFigures{Parameter{"a"}, Parameter{"b"}};
constexpr std::array ifParameters{Parameter{"condition", Accepts::Condition},
                                  Parameter{"a", Accepts::Anything},
                                  Parameter{"b", Accepts::Anything}};

/// Said by a sign or a word between its inputs.
constexpr Operator sign(Op op)
{
    return {.op = op, .family = Family::ValueByValue};
}

constexpr std::array discountParameters{Parameter{"multiple"}, Parameter{"years"},
                                        Parameter{"discount"}, Parameter{"lasting"}};

constexpr std::array valueRows{
    sign(Op::Negate),
    sign(Op::Add),
    sign(Op::Subtract),
    sign(Op::Multiply),
    sign(Op::Divide),
    sign(Op::Power),
    sign(Op::Less),
    sign(Op::LessEqual),
    sign(Op::Greater),
    sign(Op::GreaterEqual),
    sign(Op::Equal),
    sign(Op::NotEqual),
    sign(Op::Not),
    sign(Op::And),
    sign(Op::Or),
    Operator{.op = Op::If,
             .family = Family::ValueByValue,
             .name = "if",
             .help = "a where the condition holds, else b",
             .parameters = ifParameters,
             .typed = Typed::AsEither},
    Operator{.op = Op::Known,
             .family = Family::ValueByValue,
             .name = "known",
             .help = "Whether there is a value at all",
             .parameters = anything,
             .kind = Kind::YesNo},
    Operator{.op = Op::OrElse,
             .family = Family::ValueByValue,
             .name = "or_else",
             .help = "x, or y where x is not known",
             .parameters = twoOfAnything,
             .typed = Typed::AsEither},
    Operator{.op = Op::Absolute,
             .family = Family::ValueByValue,
             .name = "abs",
             .help = "x without its sign",
             .parameters = oneFigure,
             .typed = Typed::AsInput},
    Operator{.op = Op::Lesser,
             .family = Family::ValueByValue,
             .name = "min",
             .help = "The lesser of two",
             .parameters = twoFigures,
             .typed = Typed::UnitOfBoth},
    Operator{.op = Op::Greatest,
             .family = Family::ValueByValue,
             .name = "max",
             .help = "The greater of two",
             .parameters = twoFigures,
             .typed = Typed::UnitOfBoth},
    Operator{.op = Op::SquareRoot,
             .family = Family::ValueByValue,
             .name = "sqrt",
             .help = "Square root",
             .parameters = oneFigure},
    Operator{.op = Op::Logarithm,
             .family = Family::ValueByValue,
             .name = "log",
             .help = "Natural logarithm",
             .parameters = oneFigure},
    Operator{.op = Op::Floor,
             .family = Family::ValueByValue,
             .name = "floor",
             .help = "The whole number at or below x",
             .parameters = oneFigure,
             .typed = Typed::AsInput},
    Operator{.op = Op::ImpliedGrowth,
             .family = Family::ValueByValue,
             .name = "implied_growth",
             .help =
                 "Growth a year that a multiple assumes: for so many years, then a lasting one, "
                 "all discounted",
             .parameters = discountParameters,
             .unit = Unit::Percent},
};

} // namespace

std::span<const Operator> valueOperators()
{
    return valueRows;
}

Op mirrored(Op comparison)
{
    switch (comparison) {
    case Op::Less:
        return Op::Greater;
    case Op::LessEqual:
        return Op::GreaterEqual;
    case Op::Greater:
        return Op::Less;
    case Op::GreaterEqual:
        return Op::LessEqual;
    default:
        return comparison;
    }
}

bool isOfTwo(Op op)
{
    return (op >= Op::Add && op <= Op::NotEqual) || op == Op::OrElse || op == Op::Lesser ||
           op == Op::Greatest;
}

SIEVE_WIDE void combine(Op op, Inputs inputs, std::span<double> out)
{
    if (isOfTwo(op))
        return combineTwo(op, inputs[0], inputs[1], out);
    switch (op) {
    case Op::Negate:
        return each(inputs, out, [](double a) { return -a; });
    case Op::Not:
        return each(inputs, out, [](double a) { return 1.0 - a; });
    case Op::And:
        return join<Both>(inputs, out);
    case Op::Or:
        return join<Either>(inputs, out);
    case Op::If:
        return choose(inputs, out);
    case Op::Known:
        return each(inputs, out, [](double a) { return a == a ? 1.0 : 0.0; });
    case Op::Absolute:
        return each(inputs, out, [](double a) { return std::fabs(a); });
    case Op::SquareRoot:
        return each(inputs, out, [](double a) { return a < 0.0 ? missing : std::sqrt(a); });
    case Op::Logarithm:
        return each(inputs, out, [](double a) { return a > 0.0 ? std::log(a) : missing; });
    case Op::Floor:
        return each(inputs, out, [](double a) { return std::floor(a); });
    case Op::ImpliedGrowth:
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] =
                indicators::impliedGrowth(inputs[0][i], inputs[1][i], inputs[2][i], inputs[3][i]);
        return;
    default:
        for (double& value : out)
            value = missing;
    }
}

SIEVE_WIDE void combineWith(Op op, const double* values, double number, std::span<double> out)
{
    combineTwo(op, values, Same{number}, out);
}

double combine(Op op, std::span<const double> inputs)
{
    std::vector<const double*> pointers;
    for (const double& input : inputs)
        pointers.push_back(&input);
    double value = missing;
    combine(op, pointers, std::span(&value, 1));
    return value;
}

} // namespace sieve::engine
