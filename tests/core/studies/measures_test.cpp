#include "core/studies/measures.h"
#include "core/studies/return_series.h"

#include "tests/core/indicators/reference_vectors.h"

#include <catch2/catch.hpp>
#include <cmath>
#include <variant>

namespace sieve::studies {

namespace {

imports::Table referenceReturns(const std::string& name)
{
    const auto table =
        imports::readTable(std::string(SIEVE_TEST_FOLDER) + "/reference/inputs/" + name + ".csv");
    REQUIRE(table);
    return *table;
}

std::string textOf(const exports::Cell& cell)
{
    if (const auto* day = std::get_if<Day>(&cell))
        return day->iso();
    const auto* text = std::get_if<std::string>(&cell);
    return text ? *text : "";
}

double numberOf(const exports::Cell& cell)
{
    const auto* number = std::get_if<double>(&cell);
    return number ? *number : missing;
}

std::string faultOf(const std::string& csv, Told told = Told::Returns)
{
    const auto table = imports::tableOfText(csv);
    REQUIRE(table);
    const auto read = readReturns(*table, told);
    return read ? "none" : sentence(read.error());
}

} // namespace

TEST_CASE("Measures: every one of the reference agrees", "[studies][reference]")
{
    const test::ReferenceTable expected("expected/portfolio_metrics.csv");
    std::size_t held = 0;
    for (const std::string file : {"returns_a", "returns_b", "returns_c"}) {
        const auto series = readReturns(referenceReturns(file));
        REQUIRE(series);
        const exports::Sheet sheet = measuresSheet(*series, "benchmark");
        for (std::size_t i = 0; i < expected["value"].size(); ++i) {
            if (expected.texts("file")[i] != file)
                continue;
            INFO(file << " " << expected.texts("column")[i] << " " << expected.texts("metric")[i]);
            const auto row = std::ranges::find_if(sheet.rows, [&](const auto& cells) {
                return textOf(cells[0]) == expected.texts("column")[i] &&
                       textOf(cells[1]) == expected.texts("metric")[i];
            });
            REQUIRE(row != sheet.rows.end());
            ++held;
            const double wanted = expected["value"][i];
            if (isMissing(wanted)) {
                CHECK(textOf((*row)[2]) == expected.texts("value")[i]);
                continue;
            }
            CHECK(std::abs(numberOf((*row)[2]) - wanted) <=
                  1e-10 * std::max(1.0, std::abs(wanted)));
        }
    }
    CHECK(held == expected["value"].size());
}

TEST_CASE("Measures: worth and fall of the reference, day by day", "[studies][reference]")
{
    for (const std::string file : {"returns_a", "returns_b", "returns_c"}) {
        const test::ReferenceTable expected("expected/" + file + "_curves.csv");
        const auto series = readReturns(referenceReturns(file));
        REQUIRE(series);
        for (const ReturnSeries& each : *series) {
            const Curve curve = curveOf(each.returns);
            REQUIRE(curve.equity.size() == expected[each.name + "_equity"].size());
            for (std::size_t day = 0; day < curve.equity.size(); ++day) {
                CHECK(std::abs(curve.equity[day] - expected[each.name + "_equity"][day]) < 1e-10);
                CHECK(std::abs(curve.drawdown[day] - expected[each.name + "_drawdown"][day]) <
                      1e-10);
            }
        }
    }
}

TEST_CASE("Measures: by hand, and where nothing can be said", "[studies]")
{
    const std::vector<double> up_and_down{0.10, -0.50, 0.25, 0.70};
    const Curve curve = curveOf(up_and_down);
    CHECK(curve.equity[1] == Approx(0.55));
    CHECK(curve.drawdown[1] == Approx(-0.5));
    const auto fall = deepestFall(up_and_down);
    REQUIRE(fall);
    CHECK(fall->depth == Approx(-0.5));
    CHECK(fall->peak == 0U);
    CHECK(fall->trough == 1U);
    CHECK(fall->recovery == 3U); // 0.55 * 1.25 * 1.7 = 1.16875
    CHECK(fall->days(4) == 3);
    const Measures told = measuresOf(up_and_down);
    CHECK(told.totalReturn == Approx(0.16875));
    CHECK(told.worstFall == Approx(-0.5));
    CHECK(told.shareUp == Approx(0.75));
    CHECK(told.annualArithmetic == Approx(252.0 * 0.55 / 4.0));
    CHECK(told.ulcerIndex == Approx(std::sqrt((2500.0 + 37.5 * 37.5) / 4.0)));

    CHECK_FALSE(deepestFall(std::vector<double>{0.0, 0.1}));
    CHECK(isMissing(measuresOf({}).totalReturn));
    const Measures still = measuresOf(std::vector<double>(10, 0.01));
    CHECK(isMissing(still.sharpe)); // it never varied, however its mean is rounded
    CHECK(isMissing(still.calmar));
    CHECK(isMissing(still.sortino));
    const Measures lost = measuresOf(std::vector<double>{0.1, -1.0, 0.5});
    CHECK(lost.totalReturn == -1.0);
    CHECK(lost.annualReturn == -1.0);
    CHECK(lost.worstFall == -1.0);
    const auto one = measuresOf(std::vector<double>{0.02});
    CHECK(isMissing(one.volatility));
    CHECK(one.totalReturn == Approx(0.02));
    const std::vector<double> same{0.01, -0.02, 0.03};
    const BesideBenchmark beside = besideBenchmark(same, same);
    CHECK(beside.beta == Approx(1.0));
    CHECK(beside.alpha == Approx(0.0).margin(1e-12));
    CHECK(beside.trackingError == 0.0);
    CHECK(isMissing(beside.informationRatio));
}

TEST_CASE("Measures: a file with a fault is told with its line", "[studies]")
{
    CHECK(faultOf("date,own\n2025-01-02,0.01\n2025-01-03,\n2025-01-06,-0.02\n") == "none");
    CHECK(faultOf("date,own\n2025-01-03,0.01\n2025-01-02,0.02\n").starts_with("Line 3"));
    CHECK(faultOf("date,own\n2025-01-03,0.01\n2025-01-03,0.02\n").starts_with("Line 3"));
    CHECK(faultOf("date,own\nyesterday,0.01\n").find("'yesterday' is no day") != std::string::npos);
    CHECK(faultOf("date,own\n2025-01-02,much\n").find("'much' is no number") != std::string::npos);
    CHECK(faultOf("date,own\n2025-01-02,-1.2\n").find("below -1") != std::string::npos);
    CHECK(faultOf("date,own\n2025-01-02,0\n", Told::Worths).find("not above 0") !=
          std::string::npos);
    CHECK(faultOf("alone\n2025-01-02\n").find("no head") != std::string::npos);

    const auto table = imports::tableOfText("date,own,other\n2025-01-02,100,50\n2025-01-03,110,\n"
                                            "2025-01-06,99,55\n");
    REQUIRE(table);
    const auto worths = readReturns(*table, Told::Worths);
    REQUIRE(worths);
    REQUIRE(worths->size() == 2);
    CHECK((*worths)[0].returns[0] == Approx(0.10));
    CHECK((*worths)[0].returns[1] == Approx(-0.10));
    REQUIRE((*worths)[1].returns.size() == 1); // over the day without a figure
    CHECK((*worths)[1].returns[0] == Approx(0.10));
    CHECK((*worths)[1].days[0] == *Day::parse("2025-01-06"));
    const exports::Sheet curves = curvesSheet(*worths);
    REQUIRE(curves.rows.size() == 2);
    CHECK(isMissing(numberOf(curves.rows[0][3])));
    CHECK(numberOf(curves.rows[1][3]) == Approx(1.1));
}

} // namespace sieve::studies
