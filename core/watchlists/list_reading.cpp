#include "core/watchlists/list_reading.h"

#include "core/base/lower_case.h"
#include "core/base/trimmed.h"
#include "core/intake/csv.h"
#include "core/market/as_of.h"
#include "core/market/symbol_picking.h"
#include "core/watchlists/stocks.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <map>
#include <set>

namespace sieve::watchlists {

namespace {

/// What a column may hold.
enum class Holds {
    Symbol,
    AddedOn,
    PriceThen,
    Reason,
    Source,
    Category,
    Tags,
    Sign,
    ReviewOn,
    PlanOn,
    PlanEntry,
    PlanStop,
    Target1,
    Target2,
    Target3,
    Target4,
    EntryRule,
    StopRule,
    ExitRule,
    Notes,
    Links,
    Computed, ///< by this program
};

struct HeadName {
    std::string_view name;
    Holds holds;
};

constexpr std::array headNames{
    HeadName{"symbol", Holds::Symbol},
    HeadName{"ticker", Holds::Symbol},
    HeadName{"stock", Holds::Symbol},
    HeadName{"code", Holds::Symbol},
    HeadName{"added_on", Holds::AddedOn},
    HeadName{"added", Holds::AddedOn},
    HeadName{"date", Holds::AddedOn},
    HeadName{"day", Holds::AddedOn},
    HeadName{"since", Holds::AddedOn},
    HeadName{"price_then", Holds::PriceThen},
    HeadName{"price", Holds::PriceThen},
    HeadName{"reason", Holds::Reason},
    HeadName{"why", Holds::Reason},
    HeadName{"comment", Holds::Reason},
    HeadName{"source", Holds::Source},
    HeadName{"category", Holds::Category},
    HeadName{"tags", Holds::Tags},
    HeadName{"sign", Holds::Sign},
    HeadName{"review_on", Holds::ReviewOn},
    HeadName{"review", Holds::ReviewOn},
    HeadName{"plan_on", Holds::PlanOn},
    HeadName{"entry", Holds::PlanEntry},
    HeadName{"stop", Holds::PlanStop},
    HeadName{"target", Holds::Target1},
    HeadName{"target_1", Holds::Target1},
    HeadName{"target_2", Holds::Target2},
    HeadName{"target_3", Holds::Target3},
    HeadName{"target_4", Holds::Target4},
    HeadName{"entry_rule", Holds::EntryRule},
    HeadName{"stop_rule", Holds::StopRule},
    HeadName{"exit_rule", Holds::ExitRule},
    HeadName{"notes", Holds::Notes},
    HeadName{"note", Holds::Notes},
    HeadName{"links", Holds::Links},
    HeadName{"link", Holds::Links},
    HeadName{"name", Holds::Computed},
    HeadName{"state", Holds::Computed},
    HeadName{"state_since", Holds::Computed},
    HeadName{"close", Holds::Computed},
    HeadName{"gain", Holds::Computed},
    HeadName{"highest", Holds::Computed},
    HeadName{"lowest", Holds::Computed},
    HeadName{"sessions", Holds::Computed},
    HeadName{"shares", Holds::Computed},
    HeadName{"paid", Holds::Computed},
    HeadName{"worth", Holds::Computed},
    HeadName{"realized", Holds::Computed},
    HeadName{"lost_at_stop", Holds::Computed},
    HeadName{"next_report", Holds::Computed},
    HeadName{"checked", Holds::Computed},
};

std::optional<Holds> heldUnder(std::string_view head)
{
    std::string name = lowerCase(trimmed(head));
    std::ranges::replace(name, ' ', '_');
    const auto found = std::ranges::find(headNames, name, &HeadName::name);
    return found == headNames.end() ? std::nullopt : std::optional(found->holds);
}

std::vector<std::string> lines(std::string_view text, char between)
{
    std::vector<std::string> parts;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find(between), text.size());
        if (const std::string_view part = trimmed(text.substr(0, end)); !part.empty())
            parts.emplace_back(part);
        text.remove_prefix(std::min(end + 1, text.size()));
    }
    return parts;
}

/// "12,50" as "12.50"; "1,250" may mean two things and stays.
std::string withPoint(std::string_view price)
{
    std::string pointed(price);
    const std::size_t comma = pointed.find(',');
    const std::size_t behind = comma == pointed.npos ? 0 : pointed.size() - comma - 1;
    if (behind == 1 || behind == 2)
        pointed[comma] = '.';
    return pointed;
}

/// One file on its way to entries.
class ListReader {
public:
    ListReader(const imports::Table& table, const market::Market* market, Day asOf)
        : table_(table), market_(market), asOf_(asOf)
    {
    }

    ListRead read()
    {
        std::size_t first = readHeads() ? 1 : 0;
        pickShortened(first);
        for (; first < table_.rows.size(); ++first)
            readRow(table_.rows[first], table_.lines[first]);
        if (table_.isCut)
            note(fmt::format("rows behind the first {} are left out", imports::mostRows), true);
        return std::move(made_);
    }

private:
    /// Whether the first row are heads; then where each column stands.
    bool readHeads()
    {
        if (table_.rows.empty())
            return false;
        line_ = table_.lines[0];
        const auto& heads = table_.rows[0];
        if (!hasListHeads(table_)) {
            places_[Holds::Symbol] = 0;
            return false;
        }
        for (std::size_t column = 0; column < heads.size(); ++column) {
            const auto holds = heldUnder(heads[column]);
            if (!holds && !trimmed(heads[column]).empty())
                note(fmt::format("the column “{}” is not known and is passed over",
                                 trimmed(heads[column])));
            if (holds && *holds != Holds::Computed && !places_.emplace(*holds, column).second)
                note(fmt::format("the column “{}” comes twice; the first one counts",
                                 trimmed(heads[column])));
        }
        return true;
    }

    void readRow(const std::vector<std::string>& row, std::size_t line)
    {
        row_ = &row;
        line_ = line;
        Entry entry;
        entry.symbol = symbolInRow();
        if (entry.symbol.empty())
            return note("no symbol stands in this row", true);
        if (entry.symbol.size() > longestSymbol ||
            entry.symbol.find_first_of("\"\n\t,;") != std::string::npos)
            return note("this is no symbol", true);
        entry.addedOn = day(Holds::AddedOn).value_or(asOf_);
        const auto stock = stockMeant(entry);
        if (!seen_.insert(stock ? fmt::format("#{}", *stock) : entry.symbol).second)
            return note(fmt::format("{} stands in the file already", entry.symbol), true);
        if (market_ && !stock) {
            ++made_.unknown;
            note(fmt::format("{} is not in this market; it is kept", entry.symbol));
        }
        entry.priceThen = price(Holds::PriceThen);
        if (isMissing(entry.priceThen) && stock)
            entry.priceThen = priceOn(*market_, *stock, entry.addedOn);
        entry.reason = std::string(cell(Holds::Reason));
        entry.source = std::string(cell(Holds::Source));
        readPage(entry.page, entry.addedOn);
        entry.plan = plan(entry, stock);
        made_.entries.push_back(std::move(entry));
    }

    /// By the symbol that it bears on the day of the file, which people write down; else by that of
    /// the day on which it was added. The entry gets the latter.
    std::optional<std::size_t> stockMeant(Entry& entry) const
    {
        if (!market_)
            return std::nullopt;
        auto stock = market_->find(entry.symbol, asOf_);
        if (!stock)
            stock = stockOf(entry, *market_);
        if (const auto picked = picked_.find(entry.symbol); !stock && picked != picked_.end())
            stock = picked->second;
        if (stock)
            entry.symbol = market::symbolOn(market_->instrument(*stock), entry.addedOn);
        return stock;
    }

    /// What people write for a symbol, such as "VRRA" for VRRA.C, of all rows at once.
    void pickShortened(std::size_t first)
    {
        if (!market_)
            return;
        std::string text;
        for (std::size_t row = first; row < table_.rows.size(); ++row) {
            row_ = &table_.rows[row];
            if (const std::string symbol = symbolInRow(); !market_->find(symbol))
                text += symbol + "\n";
        }
        for (const market::PickedSymbol& each : market::pickSymbols(*market_, text))
            if (each.instruments.size() == 1)
                picked_.emplace(each.typed, each.instruments.front());
    }

    std::string symbolInRow() const
    {
        std::string_view symbol = cell(Holds::Symbol);
        while (symbol.starts_with('$') || symbol.starts_with('#'))
            symbol.remove_prefix(1);
        return std::string(symbol);
    }

    void readPage(EntryPage& page, Day addedOn)
    {
        page.category = std::string(cell(Holds::Category));
        page.tags = tagsIn(cell(Holds::Tags));
        page.reviewOn = day(Holds::ReviewOn);
        if (const std::string_view sign = cell(Holds::Sign); !sign.empty()) {
            if (const auto known = signNamed(lowerCase(sign)))
                page.sign = *known;
            else
                note(fmt::format("“{}” is no sign", sign));
        }
        for (const std::string& link : lines(cell(Holds::Links), ' '))
            if (faultOfLink(link).empty())
                page.links.push_back(link);
            else
                note(fmt::format("“{}” is no link that may be opened", link));
        page.notes = notesIn(cell(Holds::Notes), addedOn);
    }

    /// Notes as this program writes them: "2025-03-14: words", further lines belonging to them.
    static std::vector<Note> notesIn(std::string_view text, Day addedOn)
    {
        constexpr std::size_t dayLength = 10;
        std::vector<Note> notes;
        while (!text.empty()) {
            const std::size_t end = std::min(text.find('\n'), text.size());
            const std::string_view line = text.substr(0, end);
            const auto on = line.size() > dayLength && line[dayLength] == ':'
                                ? Day::parse(line.substr(0, dayLength))
                                : std::nullopt;
            if (on)
                notes.push_back({*on, std::string(trimmed(line.substr(dayLength + 1)))});
            else if (notes.empty())
                notes.push_back({addedOn, std::string(line)});
            else
                notes.back().text += "\n" + std::string(line);
            text.remove_prefix(std::min(end + 1, text.size()));
        }
        return notes;
    }

    std::optional<TradePlan> plan(const Entry& entry, std::optional<std::size_t> stock)
    {
        TradePlan plan{day(Holds::PlanOn).value_or(entry.addedOn), price(Holds::PlanEntry),
                       price(Holds::PlanStop)};
        for (const Holds each : {Holds::Target1, Holds::Target2, Holds::Target3, Holds::Target4})
            if (const double target = price(each); !isMissing(target))
                plan.targets.push_back(target);
        plan.entryRule = std::string(cell(Holds::EntryRule));
        plan.stopRule = std::string(cell(Holds::StopRule));
        plan.exitRule = std::string(cell(Holds::ExitRule));
        const bool isThere = !isMissing(plan.entry) || !isMissing(plan.stop) ||
                             !plan.targets.empty() || !plan.entryRule.empty() ||
                             !plan.stopRule.empty() || !plan.exitRule.empty();
        if (!isThere)
            return std::nullopt;
        if (const std::string fault = faultOf(plan); !fault.empty()) {
            note("the plan is left out: " + fault);
            return std::nullopt;
        }
        const auto bar =
            stock ? market::lastBarBy(*market_, *stock, asOf_) : std::optional<std::size_t>();
        if (bar) {
            const double since =
                market_->priceFactor(*stock, plan.on, market_->footing(*stock, *bar));
            plan.entry /= since;
            plan.stop /= since;
            for (double& target : plan.targets)
                target /= since;
        }
        return plan;
    }

    std::string_view cell(Holds holds) const
    {
        const auto place = places_.find(holds);
        return place == places_.end() || place->second >= row_->size()
                   ? std::string_view()
                   : trimmed((*row_)[place->second]);
    }

    std::optional<Day> day(Holds holds)
    {
        const std::string_view text = cell(holds);
        if (text.empty())
            return std::nullopt;
        auto day = Day::parse(text.substr(0, std::min<std::size_t>(text.size(), 10)));
        if (!day)
            note(fmt::format("“{}” is no day such as 2025-03-14", text));
        return day;
    }

    double price(Holds holds)
    {
        const std::string_view text = cell(holds);
        if (text.empty())
            return missing;
        auto number = intake::parseFigure(text);
        if (!number)
            number = intake::parseFigure(withPoint(text));
        if (!number || !(*number > 0.0)) {
            note(fmt::format("“{}” is no price", text));
            return missing;
        }
        return *number;
    }

    void note(std::string words, bool isLeftOut = false)
    {
        made_.notes.push_back({line_, std::move(words), isLeftOut});
    }

    static constexpr std::size_t longestSymbol = 60;

    const imports::Table& table_;
    const market::Market* market_;
    Day asOf_;
    std::map<Holds, std::size_t> places_; ///< the column of each
    const std::vector<std::string>* row_ = nullptr;
    std::size_t line_ = 0;
    std::set<std::string> seen_;
    std::map<std::string, std::size_t> picked_; ///< the stock of what is no symbol as it stands
    ListRead made_;
};

} // namespace

bool hasListHeads(const imports::Table& table)
{
    return !table.rows.empty() && std::ranges::any_of(table.rows[0], [](const std::string& head) {
        return heldUnder(head) == Holds::Symbol;
    });
}

ListRead readList(const imports::Table& table, const market::Market* market, Day asOf)
{
    return ListReader(table, market, asOf).read();
}

} // namespace sieve::watchlists
