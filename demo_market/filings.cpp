#include "demo_market/filings.h"

#include "demo_market/text_file.h"

#include <algorithm>
#include <array>
#include <map>
#include <optional>
#include <string>

namespace sieve::demo_market {

namespace {

using market::Period;
using market::StatementRow;

struct Tag {
    std::string_view item;
    std::string_view tag;
    bool isSinceYearBegan = false;
};

constexpr std::array tags{
    Tag{"revenue", "Revenues"},
    Tag{"cost_of_sales", "CostOfRevenue"},
    Tag{"gross_profit", "GrossProfit"},
    Tag{"operating_income", "OperatingIncomeLoss"},
    Tag{"interest_expense", "InterestExpense"},
    Tag{"net_income", "NetIncomeLoss"},
    Tag{"eps", "EarningsPerShareDiluted"},
    Tag{"dividends_per_share", "CommonStockDividendsPerShareDeclared"},
    Tag{"depreciation", "DepreciationDepletionAndAmortization", true},
    Tag{"operating_cash_flow", "NetCashProvidedByUsedInOperatingActivities", true},
    Tag{"capital_expenditure", "PaymentsToAcquirePropertyPlantAndEquipment", true},
    Tag{"total_assets", "Assets"},
    Tag{"current_assets", "AssetsCurrent"},
    Tag{"inventory", "InventoryNet"},
    Tag{"cash", "CashAndCashEquivalentsAtCarryingValue"},
    Tag{"total_liabilities", "Liabilities"},
    Tag{"current_liabilities", "LiabilitiesCurrent"},
    Tag{"debt", "LongTermDebt"},
    Tag{"equity", "StockholdersEquity"},
};

const Tag& tagOf(const StatementRow& row)
{
    for (const Tag& tag : tags)
        if (tag.item == market::statementItems()[row.item].key)
            return tag;
    return tags.front();
}

std::string digits(Day day)
{
    std::string text = day.iso();
    std::erase(text, '-');
    return text;
}

class Company {
public:
    Company(const market::InstrumentRecord& record, std::string number, TextFile& submissions,
            TextFile& numbers)
        : record_(record), number_(std::move(number)), submissions_(submissions), numbers_(numbers)
    {
        for (const StatementRow& row : record.statements) {
            if (row.period == Period::Quarter)
                quarters_.try_emplace({row.item, row.periodEnd}, row.value);
            else
                yearEnd_ = row.periodEnd;
            filings_[row.knownOn].push_back(&row);
        }
    }

    void write()
    {
        int count = 0;
        for (const auto& [filed, rows] : filings_) {
            const std::string accession = fmt::format("{}-{:04}", number_, ++count);
            const Day end = rows.back()->periodEnd;
            const bool isAmended = rows.size() == 1;
            const bool isYear = std::ranges::any_of(
                rows, [](const StatementRow* row) { return row->period == Period::Year; });
            submissions_.line("{}\t{}\t{}\t{}{}\t{}\t{}\t{}\t{}", accession, number_,
                              record_.instrument.name, isYear ? "10-K" : "10-Q",
                              isAmended ? "/A" : "", digits(end), int(end.date().year()),
                              isYear ? "FY" : fmt::format("Q{}", quarterOf(end)), digits(filed));
            for (const StatementRow* row : rows)
                add(accession, *row);
        }
    }

private:
    /// From 1 to 4 in its fiscal year.
    int quarterOf(Day end) const
    {
        if (!yearEnd_)
            return 1;
        const int months =
            (static_cast<int>(static_cast<unsigned>(end.date().month())) -
             static_cast<int>(static_cast<unsigned>(yearEnd_->date().month())) + 12) %
            12;
        return months == 0 ? 4 : months / 3;
    }

    void add(const std::string& accession, const StatementRow& row)
    {
        const Tag& tag = tagOf(row);
        const bool isFlow = market::statementItems()[row.item].isFlow;
        int covered = !isFlow ? 0 : row.period == Period::Year ? 4 : 1;
        double value = row.value;
        if (row.period == Period::Quarter && tag.isSinceYearBegan) {
            if (quarterOf(row.periodEnd) == 4)
                return; // the year tells it
            if (const auto sum = sinceYearBegan(row)) {
                covered = quarterOf(row.periodEnd);
                value = *sum;
            }
        }
        const bool isPerShare = market::statementItems()[row.item].isPerShare;
        numbers_.line("{}\t{}\tisles/2016\t{}\t{}\t{}\t{}", accession, tag.tag,
                      digits(row.periodEnd), covered, isPerShare ? "VL/shares" : "VL",
                      figureText(value));
    }

    std::optional<double> sinceYearBegan(const StatementRow& row) const
    {
        double sum = 0.0;
        for (int back = 0; back < quarterOf(row.periodEnd); ++back) {
            const Day near = row.periodEnd.plusMonths(-3 * back);
            const Day end = *Day::of(near.date().year() / near.date().month() / std::chrono::last);
            const auto found = quarters_.find({row.item, end});
            if (found == quarters_.end())
                return std::nullopt;
            sum += found->second;
        }
        return sum;
    }

    const market::InstrumentRecord& record_;
    std::string number_;
    TextFile& submissions_;
    TextFile& numbers_;
    std::map<std::pair<std::uint32_t, Day>, double> quarters_;
    std::map<Day, std::vector<const StatementRow*>> filings_;
    std::optional<Day> yearEnd_;
};

} // namespace

void writeFilings(std::span<const market::InstrumentRecord* const> companies,
                  const std::filesystem::path& folder)
{
    std::filesystem::create_directories(folder);
    TextFile names;
    TextFile submissions;
    TextFile numbers;
    names.line("company_number,symbol");
    submissions.line("adsh\tcik\tname\tform\tperiod\tfy\tfp\tfiled");
    numbers.line("adsh\ttag\tversion\tddate\tqtrs\tuom\tvalue");
    int number = 70'000;
    for (const market::InstrumentRecord* company : companies) {
        const std::string text = std::to_string(++number);
        names.line("{},{}", text, company->instrument.symbol);
        Company(*company, text, submissions, numbers).write();
    }
    names.write(folder / "companies.csv");
    submissions.write(folder / "sub.tsv");
    numbers.write(folder / "num.tsv");
}

} // namespace sieve::demo_market
