#include "core/intake/filings.h"

#include "core/intake/take_in.h"
#include "core/market/as_of.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <algorithm>
#include <catch2/catch.hpp>

namespace sieve::intake {

using test::day;

namespace {

const std::string submissionHead = "adsh\tcik\tname\tform\tperiod\tfy\tfp\tfiled\n";
const std::string numberHead = "adsh\ttag\tversion\tddate\tqtrs\tuom\tvalue\n";

/// One company with one bar, and its number.
void writeCompany(const test::OwnFolder& folder)
{
    folder.write("instruments.csv", "symbol,name\nKELP.C,Ossmere Kelp\n");
    folder.write("bars/daily/KELP.C.csv",
                 "date,open,high,low,close,volume\n2025-06-02,10,11,9,10,100\n");
    folder.write("filings/companies.csv", "company_number,symbol\n4711,KELP.C\n");
}

/// A company that states its quarters at first and later only sums since the year began; an amended
/// report; a second tag of less preference; a segment's figure; a company nobody knows.
void writeFilings(const test::OwnFolder& folder)
{
    writeCompany(folder);
    folder.write("filings/2024/sub.txt",
                 submissionHead + "a-1\t4711\tOSSMERE\t10-Q\t20240331\t2024\tQ1\t20240510\n"
                                  "a-2\t4711\tOSSMERE\t10-Q\t20240630\t2024\tQ2\t20240809\n"
                                  "a-3\t4711\tOSSMERE\t10-Q\t20240930\t2024\tQ3\t20241108\n"
                                  "x-9\t9999\tSTRANGER\t10-Q\t20240930\t2024\tQ3\t20241108\n"
                                  "a-4\t4711\tOSSMERE\t10-K\t20241231\t2024\tFY\t20250228\n"
                                  "a-5\t4711\tOSSMERE\t10-K/A\t20241231\t2024\tFY\t20250415\n");
    folder.write("filings/2024/num.txt",
                 numberHead +
                     "a-1\tRevenues\tus\t20240331\t1\tVL\t100\n"
                     "a-1\tAssets\tus\t20240331\t0\tVL\t900\n"
                     "a-2\tRevenues\tus\t20240630\t2\tVL\t230\n"
                     "a-2\tSalesRevenueNet\tus\t20240630\t2\tVL\t999\n"
                     "a-3\tRevenues\tus\t20240930\t3\tVL\t350\n"
                     "a-3\tRevenues\tus\t20240331\t1\tVL\t100\n"
                     "x-9\tRevenues\tus\t20240930\t1\tVL\t7\n"
                     "a-4\tRevenues\tus\t20241231\t4\tVL\t500\n"
                     "a-4\tEntityCommonStockSharesOutstanding\tdei\t20250131\t0\tshares\t5000\n"
                     "a-4\tEpsilon\tus\t20241231\t4\tVL\t500\n"
                     "a-5\tRevenues\tus\t20241231\t4\tVL\t480\n"
                     "a-5\tRevenues\tus\t2024xx31\t4\tVL\t480\n");
}

} // namespace

TEST_CASE("Filings: quarters come out of year-to-date figures, amendments restate", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    writeFilings(source);
    const Result<Intake> intake = openSource(source.path(), folder.path());
    REQUIRE(intake);
    const market::Statements& statements = intake->market->statements(0);
    const auto revenue = [&](market::Period period, int back, const char* on) {
        const auto figure =
            statements.figure(*market::statementItemNamed("revenue"), period, back, day(on));
        return figure ? figure->value : missing;
    };
    using market::Period;
    CHECK(isMissing(revenue(Period::Quarter, 0, "2024-05-09")));
    CHECK(revenue(Period::Quarter, 0, "2024-05-10") == 100);
    CHECK(revenue(Period::Quarter, 0, "2024-08-09") == 130); // 230 - 100, the preferred tag
    CHECK(revenue(Period::Quarter, 0, "2024-11-08") == 120); // 350 - 230
    CHECK(revenue(Period::Quarter, 0, "2025-02-28") == 150); // 500 - 350
    CHECK(revenue(Period::Year, 0, "2025-02-28") == 500);
    CHECK(revenue(Period::Year, 0, "2025-04-15") == 480); // the amendment
    CHECK(revenue(Period::Quarter, 0, "2025-04-15") == 130);
    CHECK(revenue(Period::Quarter, 3, "2025-04-15") == 100); // repeated, not restated
    CHECK(std::ranges::count_if(statements.rows(), [](const market::StatementRow& row) {
              return row.periodEnd == day("2024-03-31");
          }) == 2); // revenue and assets, once each
    CHECK(statements
              .figure(*market::statementItemNamed("total_assets"), Period::Quarter, 0,
                      day("2024-06-01"))
              ->value == 900);
    CHECK_FALSE(market::sharesOn(*intake->market, 0, day("2025-02-27")));
    CHECK(market::sharesOn(*intake->market, 0, day("2025-02-28"))->outstanding == 5000);

    REQUIRE(intake->report.findings.size() == 2);
    CHECK(intake->report.findings[0].line == 13);
    CHECK(intake->report.findings[1].what == "1 companies, the first is 9999");
}

TEST_CASE("Filings: a quarter that is stated is not made again from sums", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    writeCompany(source);
    source.write("filings/2024/sub.txt",
                 submissionHead + "a-1\t4711\tOSSMERE\t10-Q\t20240331\t2024\tQ1\t20240510\n"
                                  "a-2\t4711\tOSSMERE\t10-Q\t20240630\t2024\tQ2\t20240809\n");
    source.write("filings/2024/num.txt",
                 numberHead + "a-1\tRevenues\tus\t20240331\t1\tVL\t100\n"
                              "a-2\tRevenues\tus\t20240630\t1\tVL\t125\n" // and not 230 - 100
                              "a-2\tRevenues\tus\t20240630\t2\tVL\t230\n");
    const Result<Intake> intake = openSource(source.path(), folder.path());
    REQUIRE(intake);
    const auto figure = intake->market->statements(0).figure(
        *market::statementItemNamed("revenue"), market::Period::Quarter, 0, day("2024-08-09"));
    REQUIRE(figure);
    CHECK(figure->value == 125);
}

TEST_CASE("Filings: several tags may feed one item, in an order", "[intake]")
{
    const auto first = filingTagNamed("RevenueFromContractWithCustomerExcludingAssessedTax");
    const auto second = filingTagNamed("Revenues");
    REQUIRE(first);
    REQUIRE(second);
    CHECK(first->item == second->item);
    CHECK(first->preference < second->preference);
    CHECK(filingTagNamed("EntityCommonStockSharesOutstanding")->item == sharesItem);
    CHECK_FALSE(filingTagNamed("Luck"));
    for (const market::StatementItem& item : market::statementItems()) {
        INFO(item.key);
        bool isFed = false;
        for (const char* tag :
             {"Revenues", "CostOfRevenue", "GrossProfit", "OperatingIncomeLoss", "InterestExpense",
              "NetIncomeLoss", "EarningsPerShareDiluted", "CommonStockDividendsPerShareDeclared",
              "Depreciation", "NetCashProvidedByUsedInOperatingActivities",
              "PaymentsToAcquirePropertyPlantAndEquipment", "Assets", "AssetsCurrent",
              "InventoryNet", "CashAndCashEquivalentsAtCarryingValue", "Liabilities",
              "LiabilitiesCurrent", "LongTermDebt", "StockholdersEquity"})
            isFed = isFed || market::statementItems()[filingTagNamed(tag)->item].key == item.key;
        CHECK(isFed);
    }
}

TEST_CASE("Filings: a fourth quarter per share is made on the footing of the year's report",
          "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    writeFilings(source);
    source.write("actions.csv", "symbol,ex_date,kind,value\nKELP.C,2025-01-15,split,2\n");
    source.write("filings/2024/num.txt",
                 numberHead + "a-1\tEarningsPerShareDiluted\tus\t20240331\t1\tVL\t1\n"
                              "a-2\tEarningsPerShareDiluted\tus\t20240630\t1\tVL\t1\n"
                              "a-3\tEarningsPerShareDiluted\tus\t20240930\t1\tVL\t1\n"
                              "a-3\tRevenues\tus\t20240930\t3\tVL\t300\n"
                              "a-4\tEarningsPerShareDiluted\tus\t20241231\t4\tVL\t2\n"
                              "a-4\tRevenues\tus\t20241231\t4\tVL\t420\n");
    const Result<Intake> intake = openSource(source.path(), folder.path());
    REQUIRE(intake);
    const market::Statements& statements = intake->market->statements(0);
    const auto lastOf = [&](const char* item) {
        return statements.rowsOf(*market::statementItemNamed(item), market::Period::Quarter)
            .back()
            .value;
    };
    CHECK(lastOf("eps") == Approx(0.5)); // 2.00 less three quarters of 0.50 each after the split
    CHECK(lastOf("revenue") == 120.0);   // what is not per share moves with no split
    const auto factor = [&](Day known) { return intake->market->priceFactor(0, known, 1); };
    market::ItemFigures figures(statements, *market::statementItemNamed("eps"),
                                market::Period::Quarter);
    const auto trailing =
        figures.trailingTwelveMonths(0, day("2025-06-02"), std::function<double(Day)>(factor));
    REQUIRE(trailing);
    CHECK(trailing->value == Approx(2.0));
}

TEST_CASE("Filings: of two counts of shares of one day the first is kept", "[intake]")
{
    const test::OwnFolder source;
    const test::OwnFolder folder;
    writeCompany(source);
    source.write("filings/2024/sub.txt",
                 submissionHead + "a-1\t4711\tOSSMERE\t10-K\t20231231\t2023\tFY\t20240301\n"
                                  "a-2\t4711\tOSSMERE\t10-K/A\t20231231\t2023\tFY\t20240301\n");
    source.write("filings/2024/num.txt",
                 numberHead +
                     "a-1\tEntityCommonStockSharesOutstanding\tdei\t20240131\t0\tshares\t5000\n"
                     "a-2\tEntityCommonStockSharesOutstanding\tdei\t20240131\t0\tshares\t6000\n");
    const Result<Intake> intake = openSource(source.path(), folder.path());
    REQUIRE(intake);
    CHECK(market::sharesOn(*intake->market, 0, day("2024-03-01"))->outstanding == 5000);
    CHECK(intake->report.findings.empty()); // filings often say the same again
}

} // namespace sieve::intake
