#include "core/intake/filings.h"

#include "core/base/embedded_text.h"
#include "core/intake/fact_rows.h"
#include "core/intake/price_layout.h"
#include "core/intake/rows.h"

#include <algorithm>
#include <array>
#include <cstdlib>
#include <fmt/format.h>
#include <map>
#include <toml++/toml.h>
#include <tuple>
#include <unordered_map>

namespace sieve::intake {

std::span<const EmbeddedText> embeddedTexts();

namespace {

namespace fs = std::filesystem;

using TagTable = std::map<std::string, FilingTag, std::less<>>;

TagTable readTags()
{
    TagTable table;
    const toml::table file = toml::parse(embeddedTexts()[0].text);
    for (const auto& [key, node] : file) {
        const auto item = key.str() == "shares_outstanding" ? std::optional(sharesItem)
                                                            : market::statementItemNamed(key.str());
        require(item.has_value(), "filing_tags.toml names an item that there is not");
        std::uint32_t preference = 0;
        for (const toml::node& tag : *node.as_array())
            table.emplace(tag.value_or(std::string()), FilingTag{*item, preference++});
    }
    return table;
}

const TagTable& tags()
{
    static const TagTable table = readTags();
    return table;
}

/// A submission of a company that has a symbol.
struct Submission {
    std::uint32_t record = 0;
    Day filed = Day::fromSerial(0);
};

/// One figure as filed.
struct Figure {
    std::uint32_t submission = 0;
    FilingTag tag;
    Day end = Day::fromSerial(0);
    int quarters = 0; ///< covered; 0: at the end
    double value = missing;
};

std::optional<Day> dayOf(std::string_view cell)
{
    const auto day = parseDay(cell, DayForm::Digits);
    return day ? day : Day::parse(cell);
}

/// Files of one kind below a folder, in the order of their paths.
std::vector<fs::path> tablesNamed(const fs::path& folder, std::string_view name)
{
    std::vector<fs::path> files;
    std::error_code fault;
    for (auto at = fs::recursive_directory_iterator(folder, fault);
         !fault && at != fs::recursive_directory_iterator(); at.increment(fault))
        if (at->is_regular_file(fault) && isTable(at->path()) && tableName(at->path()) == name)
            files.push_back(at->path());
    std::ranges::sort(files);
    return files;
}

/// The figures of one company, filing by filing, become rows of statements.
class Company {
public:
    Company(std::uint32_t record, std::span<const market::Action> splits,
            FactRows<market::StatementRow>& statements, FactRows<market::ShareCount>& shares)
        : record_(record), splits_(splits), statements_(statements), shares_(shares)
    {
    }

    /// One filing's figures; filings come by day.
    void file(Day filed, std::span<const Figure> figures)
    {
        filed_ = filed;
        std::map<std::tuple<std::uint32_t, Day, int>, Figure> best; // by item, end and length
        for (const Figure& figure : figures) {
            const auto [place, isNew] =
                best.try_emplace({figure.tag.item, figure.end, figure.quarters}, figure);
            if (!isNew && figure.tag.preference < place->second.tag.preference)
                place->second = figure;
        }
        for (const auto& [key, figure] : best)
            take(figure);
        for (const auto& [key, figure] : best)
            if (figure.quarters >= 2)
                derive(figure);
    }

    /// Gives what all filings came to.
    void finish() const
    {
        for (const auto& [key, value] : rows_) {
            const auto& [item, period, end, filed] = key;
            statements_.add(record_, 0,
                            {item, static_cast<market::Period>(period), end, filed, value});
        }
    }

private:
    using Key = std::tuple<std::uint32_t, int, Day>; ///< item, quarters covered, end
    struct Sum {
        double value = missing;
        Day filed = Day::fromSerial(0); ///< on whose footing it is, if it is per share
    };

    void take(const Figure& figure)
    {
        if (figure.tag.item == sharesItem) {
            if (figure.quarters == 0 && figure.value > 0.0)
                shares_.add(record_, 0, {figure.end, filed_, figure.value, missing, missing});
            return;
        }
        const bool isFlow = market::statementItems()[figure.tag.item].isFlow;
        if (isFlow != (figure.quarters > 0))
            return;
        // A figure that stands at the end of a quarter is that quarter's.
        const int quarters = isFlow ? figure.quarters : 1;
        if (quarters == 1)
            state(figure.tag.item, market::Period::Quarter, figure.end, figure.value);
        else if (quarters == 4)
            state(figure.tag.item, market::Period::Year, figure.end, figure.value);
        sums_[{figure.tag.item, quarters, figure.end}] = {figure.value, filed_};
    }

    /// The last quarter of a sum over several, when the sum up to the quarter before it is known
    /// and nobody states the quarter itself.
    void derive(const Figure& sum)
    {
        const std::uint32_t item = sum.tag.item;
        if (item == sharesItem || stated(item, market::Period::Quarter, sum.end))
            return;
        const Day before = sum.end.plusMonths(-3);
        std::optional<double> rest = sumOf(item, sum.quarters - 1, before);
        if (!rest && sum.quarters == 4) { // the three quarters one by one
            rest = 0.0;
            for (int back = 1; back <= 3 && rest; ++back) {
                const auto quarter = sumOf(item, 1, sum.end.plusMonths(-3 * back));
                rest = quarter ? std::optional(*rest + *quarter) : std::nullopt;
            }
        }
        if (!rest)
            return;
        const double quarter = sum.value - *rest;
        state(item, market::Period::Quarter, sum.end, quarter, true);
        sums_.try_emplace({item, 1, sum.end}, Sum{quarter, filed_});
    }

    /// On today's footing. Ends drift by some days where a fiscal year has 52 weeks.
    std::optional<double> sumOf(std::uint32_t item, int quarters, Day end) const
    {
        constexpr int slack = 20;
        const auto from = sums_.lower_bound({item, quarters, end.plusDays(-slack)});
        if (from == sums_.end())
            return std::nullopt;
        const auto& [foundItem, foundQuarters, foundEnd] = from->first;
        const bool fits =
            foundItem == item && foundQuarters == quarters && foundEnd <= end.plusDays(slack);
        return fits ? std::optional(onFooting(item, from->second)) : std::nullopt;
    }

    /// What a sum that was filed before comes to after the splits since then.
    double onFooting(std::uint32_t item, const Sum& sum) const
    {
        double value = sum.value;
        if (market::statementItems()[item].isPerShare)
            for (const market::Action& split : splits_)
                if (sum.filed < split.exDate && split.exDate <= filed_)
                    value /= split.value;
        return value;
    }

    bool stated(std::uint32_t item, market::Period period, Day end) const
    {
        const auto known = known_.find({item, static_cast<int>(period), end});
        return known != known_.end() && !known->second.isDerived;
    }

    void state(std::uint32_t item, market::Period period, Day end, double value,
               bool isDerived = false)
    {
        if (end > filed_)
            return; // an expectation, or a slip of the pen
        auto& known = known_[{item, static_cast<int>(period), end}];
        const bool isNews = known.value != value; // nothing is known at first: NaN differs
        known = {value, isDerived};
        if (isNews) // of two filings of one day the later counts
            rows_.insert_or_assign({item, static_cast<int>(period), end, filed_}, value);
    }

    struct Known {
        double value = missing;
        bool isDerived = false;
    };
    std::map<std::tuple<std::uint32_t, int, Day, Day>, double> rows_; ///< the last is the day filed
    std::uint32_t record_;
    std::span<const market::Action> splits_;
    FactRows<market::StatementRow>& statements_;
    FactRows<market::ShareCount>& shares_;
    Day filed_ = Day::fromSerial(0);
    std::map<Key, Sum> sums_;
    std::map<Key, Known> known_; ///< by item, period and end
};

class Filings {
public:
    Filings(fs::path folder, Records& records,
            const std::vector<std::vector<market::Action>>& splits, IntakeReport& report,
            const Progress& progress)
        : folder_(std::move(folder)), records_(records), splits_(splits), report_(report),
          progress_(progress)
    {
    }

    void read()
    {
        const std::vector<fs::path> submissions = tablesNamed(folder_, "sub");
        if (submissions.empty())
            return;
        readCompanies();
        for (const fs::path& path : submissions)
            readSubmissions(path);
        if (!strangers_.empty())
            report_.add({"filings/companies.csv", 0, "company_number",
                         fmt::format("{} companies, the first is {}", strangers_.size(),
                                     strangers_.begin()->first),
                         "companies.csv gives them no symbol", "their figures passed over"});
        for (const fs::path& path : tablesNamed(folder_, "num"))
            readNumbers(path);
        bringIn();
    }

private:
    std::string nameOf(const fs::path& path) const
    {
        return "filings/" + fs::relative(path, folder_).string();
    }

    template <class Take> void readTable(const fs::path& path, char separator,
                                         std::initializer_list<std::string_view> required,
                                         Take take)
    {
        Rows rows(nameOf(path), CsvReader(openBytes(path), separator), std::span(required),
                  report_);
        constexpr std::size_t looksEvery = 4096;
        for (std::size_t row = 0; rows.next(); ++row) {
            if (row % looksEvery == 0 && progress_.stopRequested())
                throw Stopped{};
            take(rows);
        }
    }

    void readCompanies()
    {
        const fs::path path = folder_ / "companies.csv";
        if (!fs::exists(path)) {
            report_.add({"filings/companies.csv", 0, "", "", "the file is not there",
                         "no filing can be given to a symbol"});
            return;
        }
        readTable(path, ',', {"company_number", "symbol"}, [this](Rows& rows) {
            const auto record = records_.find(rows.cell("symbol"));
            if (!record)
                return rows.leaveOut("symbol", "no instrument has this symbol");
            companies_.emplace(rows.text("company_number"), *record);
        });
    }

    void readSubmissions(const fs::path& path)
    {
        readTable(path, '\t', {"adsh", "cik", "filed"}, [this](Rows& rows) {
            const std::string number = rows.text("cik");
            const auto company = companies_.find(number);
            if (company == companies_.end()) {
                ++strangers_[number];
                return;
            }
            const auto filed = dayOf(rows.cell("filed"));
            if (!filed)
                return rows.leaveOut("filed", "not a day such as 20250314");
            const auto [place, isNew] = byAccession_.emplace(
                rows.text("adsh"), static_cast<std::uint32_t>(submissions_.size()));
            if (!isNew)
                return rows.leaveOut("adsh", "an earlier row has the same accession number");
            submissions_.push_back({company->second, *filed});
        });
    }

    void readNumbers(const fs::path& path)
    {
        readTable(path, '\t', {"adsh", "tag", "ddate", "qtrs", "value"}, [this](Rows& rows) {
            const auto submission = byAccession_.find(std::string(rows.cell("adsh")));
            if (submission == byAccession_.end())
                return;
            const auto tag = filingTagNamed(rows.cell("tag"));
            if (!tag || !rows.cell("coreg").empty() || !rows.cell("segments").empty() ||
                rows.cell("value").empty())
                return;
            const auto end = dayOf(rows.cell("ddate"));
            if (!end)
                return rows.leaveOut("ddate", "not a day such as 20250314");
            const double quarters = rows.figure("qtrs", Cell::Required);
            const double value = rows.figure("value", Cell::Required);
            if (!rows.isTaken())
                return;
            if (quarters != 0 && quarters != 1 && quarters != 2 && quarters != 3 && quarters != 4)
                return; // several years at once: nothing of ours
            figures_.push_back({submission->second, *tag, *end, static_cast<int>(quarters), value});
        });
    }

    /// All figures, by company and day of filing.
    void bringIn()
    {
        std::ranges::stable_sort(figures_, {}, [this](const Figure& figure) {
            const Submission& from = submissions_[figure.submission];
            return std::tuple(from.record, from.filed, figure.submission);
        });
        FactRows<market::StatementRow> statements;
        FactRows<market::ShareCount> shares;
        for (std::size_t begin = 0; begin < figures_.size();) {
            const std::uint32_t record = submissions_[figures_[begin].submission].record;
            Company company(record, splits_.at(record), statements, shares);
            while (begin < figures_.size() &&
                   submissions_[figures_[begin].submission].record == record) {
                const std::uint32_t filing = figures_[begin].submission;
                std::size_t end = begin;
                while (end < figures_.size() && figures_[end].submission == filing)
                    ++end;
                company.file(submissions_[filing].filed,
                             std::span(figures_).subspan(begin, end - begin));
                begin = end;
            }
            company.finish();
        }
        IntakeReport unneeded; // two counts of shares filed on one day: the first is as good
        statements.finish(
            records_, "filings", unneeded, [](auto& record) -> auto& { return record.statements; },
            [](const market::StatementRow& row) {
                return std::tuple(row.item, row.period, row.periodEnd, row.knownOn);
            });
        shares.finish(
            records_, "filings", unneeded, [](auto& record) -> auto& { return record.shares; },
            [](const market::ShareCount& row) { return std::tuple(row.date, row.knownOn); });
    }

    fs::path folder_;
    Records& records_;
    const std::vector<std::vector<market::Action>>& splits_;
    IntakeReport& report_;
    const Progress& progress_;
    std::map<std::string, std::uint32_t> companies_; ///< record by company number
    std::map<std::string, std::size_t> strangers_;
    std::vector<Submission> submissions_;
    std::unordered_map<std::string, std::uint32_t> byAccession_;
    std::vector<Figure> figures_;
};

} // namespace

std::optional<FilingTag> filingTagNamed(std::string_view tag)
{
    const auto found = tags().find(tag);
    return found == tags().end() ? std::nullopt : std::optional(found->second);
}

void readFilings(const fs::path& folder, Records& records,
                 const std::vector<std::vector<market::Action>>& splits, IntakeReport& report,
                 const Progress& progress)
{
    if (fs::is_directory(folder / "filings"))
        Filings(folder / "filings", records, splits, report, progress).read();
}

std::vector<std::vector<market::Action>> splitsOf(const Records& records)
{
    std::vector<std::vector<market::Action>> splits(records.size());
    for (std::size_t record = 0; record < records.size(); ++record)
        for (const market::Action& action : records[record].actions)
            if (action.kind == market::ActionKind::Split)
                splits[record].push_back(action);
    return splits;
}

} // namespace sieve::intake
