#include "core/expressions/values.h"

#include "core/base/missing.h"
#include "core/indicators/wide.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace sieve::expressions {

namespace {

using Inputs = std::span<const double* const>;

template <class Of> SIEVE_INLINE void each(Inputs inputs, std::span<double> out, Of of)
{
    const double* const a = inputs[0];
    for (std::size_t i = 0; i < out.size(); ++i)
        out[i] = of(a[i]);
}

template <class Of> SIEVE_INLINE void eachTwo(Inputs inputs, std::span<double> out, Of of)
{
    const double* const a = inputs[0];
    const double* const b = inputs[1];
    double* const to = out.data();
    for (std::size_t i = 0; i < out.size(); ++i)
        to[i] = of(a[i], b[i]);
}

SIEVE_INLINE double finite(double value) // an overflow is no figure to trade on
{
    return std::fabs(value) <= std::numeric_limits<double>::max() ? value : missing;
}

template <class Holds> SIEVE_INLINE void compare(Inputs inputs, std::span<double> out, Holds holds)
{
    eachTwo(inputs, out, [holds](double a, double b) {
        const double answer = holds(a, b) ? 1.0 : 0.0;
        return a == a && b == b ? answer : missing;
    });
}

/// and: no where one is no, else missing where one is missing. or: the same with yes. A few values
/// at a time, so that what is joined stays in the processor's nearest cache.
SIEVE_INLINE void joined(Inputs inputs, std::span<double> out, double decisive)
{
    constexpr std::size_t together = 512;
    for (std::size_t first = 0; first < out.size(); first += together) {
        const std::size_t count = std::min(together, out.size() - first);
        double* const to = out.data() + first;
        if (inputs[0] + first != to) // the first input may be `out` itself
            std::copy_n(inputs[0] + first, count, to);
        for (const double* const input : inputs.subspan(1))
            for (std::size_t i = 0; i < count; ++i) {
                const double a = to[i];
                const double b = input[first + i];
                const double other = b != b ? b : a;
                const double undecided = a != a ? a : other;
                to[i] = a == decisive || b == decisive ? decisive : undecided;
            }
    }
}

SIEVE_INLINE void choose(Inputs inputs, std::span<double> out)
{
    const double* const condition = inputs[0];
    const double* const a = inputs[1];
    const double* const b = inputs[2];
    for (std::size_t i = 0; i < out.size(); ++i) {
        const double chosen = condition[i] == 0.0 ? b[i] : a[i];
        out[i] = condition[i] == condition[i] ? chosen : missing;
    }
}

} // namespace

SIEVE_WIDE void combine(Op op, Inputs inputs, std::span<double> out)
{
    switch (op) {
    case Op::Negate:
        return each(inputs, out, [](double a) { return -a; });
    case Op::Add:
        return eachTwo(inputs, out, [](double a, double b) { return finite(a + b); });
    case Op::Subtract:
        return eachTwo(inputs, out, [](double a, double b) { return finite(a - b); });
    case Op::Multiply:
        return eachTwo(inputs, out, [](double a, double b) { return finite(a * b); });
    case Op::Divide: // by 0: not finite, or 0 / 0
        return eachTwo(inputs, out, [](double a, double b) { return finite(a / b); });
    case Op::Power:
        return eachTwo(inputs, out, [](double a, double b) {
            return isMissing(a) || isMissing(b) ? missing : finite(std::pow(a, b));
        });
    case Op::Less:
        return compare(inputs, out, [](double a, double b) { return a < b; });
    case Op::LessEqual:
        return compare(inputs, out, [](double a, double b) { return a <= b; });
    case Op::Greater:
        return compare(inputs, out, [](double a, double b) { return a > b; });
    case Op::GreaterEqual:
        return compare(inputs, out, [](double a, double b) { return a >= b; });
    case Op::Equal:
        return compare(inputs, out, [](double a, double b) { return a == b; });
    case Op::NotEqual:
        return compare(inputs, out, [](double a, double b) { return a != b; });
    case Op::Not:
        return each(inputs, out, [](double a) { return 1.0 - a; });
    case Op::And:
        return joined(inputs, out, 0.0);
    case Op::Or:
        return joined(inputs, out, 1.0);
    case Op::If:
        return choose(inputs, out);
    case Op::Known:
        return each(inputs, out, [](double a) { return a == a ? 1.0 : 0.0; });
    case Op::OrElse:
        return eachTwo(inputs, out, [](double a, double b) { return a == a ? a : b; });
    case Op::Absolute:
        return each(inputs, out, [](double a) { return std::fabs(a); });
    case Op::Lesser:
        return eachTwo(inputs, out, [](double a, double b) { return b < a || b != b ? b : a; });
    case Op::Greatest:
        return eachTwo(inputs, out, [](double a, double b) { return a < b || b != b ? b : a; });
    case Op::SquareRoot:
        return each(inputs, out, [](double a) { return a < 0.0 ? missing : std::sqrt(a); });
    case Op::Logarithm:
        return each(inputs, out, [](double a) { return a > 0.0 ? std::log(a) : missing; });
    case Op::Floor:
        return each(inputs, out, [](double a) { return std::floor(a); });
    default:
        for (double& value : out)
            value = missing;
    }
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

} // namespace sieve::expressions
