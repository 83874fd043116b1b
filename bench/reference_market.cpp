#include "core/base/day.h"
#include "demo_market/dice.h"

#include <algorithm>
#include <array>
#include <cerrno>
#include <charconv>
#include <cstdio>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <string>
#include <system_error>
#include <tbb/parallel_for.h>
#include <vector>

// wise-sieve-reference-market FOLDER [SHARE-OF-INSTRUMENTS]
// Writes the market on which speed is judged (docs/performance.md) as an open dataset: 10,000
// instruments of 11 sectors and 99 industries over 5,000 sessions, listed at different times, a
// tenth delisted, about 35 million daily bars, quarterly statements of the shares. The second
// argument (as 0.1) makes a part of it, to show how work grows. The same on every machine.

namespace {

using namespace sieve;
using demo_market::Dice;
namespace fs = std::filesystem;

constexpr std::size_t allInstruments = 10'000;
constexpr std::size_t allSessions = 5'000;
constexpr std::size_t sectors = 11;
constexpr std::size_t industriesASector = 9;

struct Listing {
    std::string symbol;
    std::string kind;
    std::size_t sector = 0;
    std::size_t industry = 0;
    std::size_t first = 0; ///< session
    std::size_t end = 0;   ///< past the last session
    double shares = 0;     ///< outstanding
};

/// A file written whole; false only when the disk is full.
void write(const fs::path& path, const std::string& text)
{
    std::ofstream file(path, std::ios::binary);
    file << text;
    file.close();
    if (!file)
        throw std::system_error(errno, std::generic_category(), path.string());
}

void add(std::string& text, std::int64_t number)
{
    std::array<char, 24> digits{};
    const auto [end, fault] = std::to_chars(digits.data(), digits.data() + digits.size(), number);
    text.append(digits.data(), end);
}

/// A price in hundredths with its point.
void addPrice(std::string& text, std::int64_t hundredths)
{
    add(text, hundredths / 100);
    const std::int64_t rest = hundredths % 100;
    text += '.';
    text += static_cast<char>('0' + rest / 10);
    text += static_cast<char>('0' + rest % 10);
}

std::vector<Day> sessionDays()
{
    std::vector<Day> days;
    for (Day day = *Day::parse("2026-09-30"); days.size() < allSessions; day = day.plusDays(-1))
        if (!day.isWeekend())
            days.push_back(day);
    std::ranges::reverse(days);
    return days;
}

std::vector<Listing> listings(std::size_t count)
{
    std::vector<Listing> all;
    Dice dice(1);
    for (std::size_t number = 0; number < count; ++number) {
        Listing each;
        each.symbol = fmt::format("R{:05}", number);
        each.kind = number % 25 == 7 ? "fund" : number % 50 == 11 ? "trust" : "share";
        each.sector = dice.below(sectors);
        each.industry = dice.below(industriesASector);
        // Three in ten have been there all along; the others came evenly over the years.
        each.first = dice.chance(0.37) ? 0 : dice.below(allSessions - 300);
        const bool isGone = dice.chance(0.1);
        const std::size_t stay = 250 + dice.below(allSessions);
        each.end = isGone ? std::min(each.first + stay, allSessions) : allSessions;
        each.shares = 1e6 * static_cast<double>(2 + dice.below(400));
        all.push_back(std::move(each));
    }
    return all;
}

std::string barsOf(const Listing& listing, const std::vector<std::string>& isoDays, Dice dice)
{
    std::string text = "date,open,high,low,close,volume\n";
    text.reserve((listing.end - listing.first) * 52);
    double price = dice.between(3.0, 200.0);
    const double noise = dice.between(0.008, 0.035);
    const double drift = dice.between(-0.0003, 0.0008);
    const double usual = dice.between(2e4, 4e6);
    for (std::size_t session = listing.first; session < listing.end; ++session) {
        const double before = price;
        price = std::clamp(price * (1.0 + drift + noise * dice.bell()), 0.5, 5000.0);
        const auto close = static_cast<std::int64_t>(price * 100.0 + 0.5);
        const auto open =
            static_cast<std::int64_t>((before + (price - before) * dice.share()) * 100.0 + 0.5);
        const auto reach = static_cast<std::int64_t>(price * noise * 50.0 * dice.share());
        const std::int64_t high = std::max(open, close) + reach;
        const std::int64_t low = std::max<std::int64_t>(std::min(open, close) - reach, 1);
        text += isoDays[session];
        for (const std::int64_t figure : {open, high, low, close}) {
            text += ',';
            addPrice(text, figure);
        }
        text += ',';
        add(text, static_cast<std::int64_t>(usual * dice.between(0.4, 1.8)));
        text += '\n';
    }
    return text;
}

std::string statementsOf(const Listing& listing, const std::vector<Day>& days, Dice dice)
{
    std::string text;
    double revenue = dice.between(1e7, 5e9);
    double margin = dice.between(-0.05, 0.25);
    const Day last = days[listing.end - 1];
    for (Day end = days[listing.first].plusMonths(-15); end < last; end = end.plusMonths(3)) {
        const Day known = end.plusDays(25 + static_cast<int>(dice.below(20)));
        if (known > last)
            break;
        revenue *= dice.between(0.96, 1.07);
        margin += dice.between(-0.01, 0.01);
        const double income = revenue * margin;
        const std::array<std::pair<const char*, double>, 5> items{{{"revenue", revenue},
                                                                   {"net_income", income},
                                                                   {"eps", income / listing.shares},
                                                                   {"equity", revenue * 1.5},
                                                                   {"debt", revenue * 0.6}}};
        for (const auto& [item, value] : items)
            text += fmt::format("{},{},quarter,{},{},{:.4f}\n", listing.symbol, end.iso(),
                                known.iso(), item, value);
    }
    return text;
}

void writeMarket(const fs::path& folder, double part)
{
    const auto count = static_cast<std::size_t>(static_cast<double>(allInstruments) * part);
    fs::remove_all(folder / "bars");
    fs::create_directories(folder / "bars" / "daily");
    const std::vector<Day> days = sessionDays();
    std::vector<std::string> isoDays;
    for (const Day day : days)
        isoDays.push_back(day.iso());
    const std::vector<Listing> all = listings(count);
    std::vector<std::string> statements(count);
    tbb::parallel_for(std::size_t{0}, count, [&](std::size_t i) {
        write(folder / "bars" / "daily" / (all[i].symbol + ".csv"),
              barsOf(all[i], isoDays, Dice(1000 + i)));
        if (all[i].kind == "share")
            statements[i] = statementsOf(all[i], days, Dice(100'000 + i));
    });
    std::string instruments =
        "symbol,name,exchange,kind,sector,industry,currency,listed_on,delisted_on\n";
    std::string shares = "symbol,date,outstanding,free_float,short_interest\n";
    std::size_t bars = 0;
    for (const Listing& each : all) {
        instruments += fmt::format(
            "{},{} Works,Reference Exchange,{},Sector {},Industry {}-{},vl,{},{}\n", each.symbol,
            each.symbol, each.kind, each.sector, each.sector, each.industry, isoDays[each.first],
            each.end < allSessions ? isoDays[each.end] : "");
        shares += fmt::format("{},{},{:.0f},{:.0f},\n", each.symbol, isoDays[each.first],
                              each.shares, each.shares * 0.6);
        bars += each.end - each.first;
    }
    write(folder / "instruments.csv", instruments);
    write(folder / "shares.csv", shares);
    std::ofstream file(folder / "statements.csv", std::ios::binary);
    file << "symbol,period_end,period,known_on,item,value\n";
    for (const std::string& each : statements)
        file << each;
    file.close();
    write(folder / "dataset.toml",
          "name = \"Reference market\"\nversion = \"1\"\ncurrency = \"vl\"\n");
    fmt::print("{} instruments, {} bars\n", count, bars);
}

} // namespace

int main(int count, char** arguments)
{
    if (count < 2) {
        std::fputs("Use: wise-sieve-reference-market FOLDER [PART]\n", stderr);
        return 2;
    }
    try {
        writeMarket(arguments[1], count > 2 ? std::stod(arguments[2]) : 1.0);
    } catch (const std::exception& fault) {
        std::fprintf(stderr, "%s\n", fault.what());
        return 1;
    }
    return 0;
}
