#include "core/engine/operators/values.h"

#include "core/base/missing.h"
#include "tests/core/same_bits.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <limits>

namespace sieve::engine {

using test::sameBits;

namespace {

/// What goes wrong first, and enough of it that vectors have whole steps and a rest.
std::vector<double> oddFigures()
{
    const double all[] = {0.0,  -0.0,  1.0,    -1.0,   missing, 0.5,  3.0,
                          -2.5, 1e308, -1e308, 5e-324, 100.0,   1e-9, 7.0};
    std::vector<double> figures;
    for (int turn = 0; turn < 3; ++turn)
        figures.insert(figures.end(), std::begin(all), std::end(all));
    return figures;
}

} // namespace

TEST_CASE("Values: with a number as with a column of it, alone as in a row", "[engine]")
{
    const std::vector<double> figures = oddFigures();
    for (auto op = Op::Negate; op <= Op::Floor; op = static_cast<Op>(static_cast<int>(op) + 1)) {
        if (!isOfTwo(op))
            continue;
        for (const double number : {0.0, -0.0, 2.0, -0.5, 1e308, missing}) {
            INFO("op " << static_cast<int>(op) << ", number " << number);
            const std::vector<double> column(figures.size(), number);
            const double* const inputs[] = {figures.data(), column.data()};
            std::vector<double> asColumn(figures.size());
            std::vector<double> asNumber(figures.size());
            combine(op, inputs, asColumn);
            combineWith(op, figures.data(), number, asNumber);
            for (std::size_t i = 0; i < figures.size(); ++i) {
                INFO("figure " << figures[i]);
                CHECK(sameBits(asColumn[i], asNumber[i]));
                CHECK(sameBits(asColumn[i], combine(op, std::array{figures[i], number})));
            }
        }
    }
}

TEST_CASE("Values: all and any of several, also in place", "[engine]")
{
    // All triples, quadruples and so on of no, unknown and yes.
    const double values[] = {0.0, missing, 1.0};
    for (std::size_t inputs = 1; inputs <= 6; ++inputs) {
        const auto rows = static_cast<std::size_t>(std::pow(3, inputs));
        std::vector<std::vector<double>> columns(inputs, std::vector<double>(rows));
        for (std::size_t row = 0; row < rows; ++row)
            for (std::size_t i = 0, left = row; i < inputs; ++i, left /= 3)
                columns[i][row] = values[left % 3];
        for (const Op op : {Op::And, Op::Or}) {
            std::vector<const double*> pointers;
            for (const auto& column : columns)
                pointers.push_back(column.data());
            std::vector<double> out(rows);
            combine(op, pointers, out);
            std::vector<double> inPlace = columns[0];
            pointers[0] = inPlace.data();
            combine(op, pointers, inPlace);
            for (std::size_t row = 0; row < rows; ++row) {
                std::size_t number = op == Op::And ? 2 : 0; // no, unknown, yes: least or most
                for (const auto& column : columns) {
                    const std::size_t own = isMissing(column[row]) ? 1 : column[row] == 1.0 ? 2 : 0;
                    number = op == Op::And ? std::min(number, own) : std::max(number, own);
                }
                REQUIRE(sameBits(out[row], values[number]));
                REQUIRE(sameBits(inPlace[row], values[number]));
            }
        }
    }
}

} // namespace sieve::engine
