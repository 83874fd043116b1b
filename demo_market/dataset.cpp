#include "demo_market/dataset.h"

#include "demo_market/company.h"
#include "demo_market/isles.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <functional>
#include <map>
#include <set>

namespace sieve::demo_market {

namespace {

using market::InstrumentKind;
using market::InstrumentRecord;

constexpr std::string_view mainExchange = "Carrow Exchange";
constexpr std::string_view youngExchange = "Tarn Bourse";
constexpr std::string_view mainIndex = "CRWX.C";
constexpr std::string_view neighbourCurrency = "dn"; ///< the receipts' : shares of the Dunmark

struct Counts {
    std::size_t mainShares;
    std::size_t youngShares;
    std::size_t trusts;
    std::size_t receipts;
    std::size_t funds;
    std::string_view first;
};

constexpr Counts countsOf(Extent extent)
{
    return extent == Extent::Whole ? Counts{480, 120, 12, 20, 20, "2016-10-03"}
                                   : Counts{136, 44, 0, 0, 6, "2020-10-01"};
}

std::size_t sessionOn(const std::vector<Day>& sessions, std::string_view day)
{
    const auto found = std::ranges::lower_bound(sessions, *Day::parse(day));
    return static_cast<std::size_t>(found - sessions.begin());
}

market::Exchange exchangeOf(std::string_view name, std::string_view zone, Day first, Day last)
{
    market::Exchange exchange{std::string(name), std::string(zone), 9 * 60 + 30, 16 * 60, {}};
    const std::vector<Day> sessions = sessionsBetween(first, last);
    for (Day day = first; day <= last; day = day.plusDays(1)) {
        const bool rests =
            !std::ranges::binary_search(sessions, day) || (name == youngExchange && isTarnDay(day));
        if (!day.isWeekend() && rests)
            exchange.holidays.push_back({day, std::nullopt});
        else if (isShortDay(day) && !day.isWeekend())
            exchange.holidays.push_back({day, 13 * 60});
    }
    return exchange;
}

/// Makes the market, part by part.
class Making {
public:
    Making(std::uint64_t seed, Extent extent)
        : extent_(extent), counts_(countsOf(extent)), dice_(seed),
          sessions_(sessionsBetween(*Day::parse(counts_.first), *Day::parse("2026-09-30"))),
          youngSessions_(sessions_), mainWeather_(makeWeather(sessions_, 0, dice_.fork(1))),
          youngWeather_(makeWeather(sessions_, 70, dice_.fork(2)))
    {
        std::erase_if(youngSessions_, isTarnDay);
        youngWeather_.resize(youngSessions_.size());
    }

    DemoMarket run()
    {
        made_.description = {"Vellan demo market",
                             std::string(generatorVersion),
                             "vl",
                             std::string(mainIndex),
                             {exchangeOf(mainExchange, "Atlantic/Reykjavik", sessions_.front(),
                                         sessions_.back().plusDays(120)),
                              exchangeOf(youngExchange, "Atlantic/Cape_Verde", sessions_.front(),
                                         sessions_.back().plusDays(120))}};
        for (std::size_t number = 0; number < counts_.mainShares; ++number)
            addCompany(false, 100 + number, InstrumentKind::Share);
        for (std::size_t number = 0; number < counts_.youngShares; ++number)
            addCompany(true, 1000 + number, InstrumentKind::Share);
        for (std::size_t number = 0; number < counts_.trusts; ++number)
            addCompany(false, 3000 + number, InstrumentKind::Trust);
        for (std::size_t number = 0; number < counts_.receipts; ++number)
            addCompany(false, 4000 + number, InstrumentKind::Receipt);
        if (counts_.receipts > 0)
            addRates();
        if (extent_ == Extent::Whole) {
            addMergers();
            addSpinOff();
            renameSome();
        }
        addMembers();
        addBaskets();
        for (InstrumentRecord& record : made_.records)
            market::sortRows(record);
        std::ranges::sort(made_.records, {},
                          [](const InstrumentRecord& record) { return record.instrument.symbol; });
        std::ranges::stable_sort(made_.situations, {}, &Situation::what);
        return std::move(made_);
    }

private:
    /// A dn is worth about a third of a vell.
    void addRates()
    {
        Dice dice = dice_.fork(5000);
        market::Currency currency{std::string(neighbourCurrency), {}};
        double rate = 0.32;
        for (const Day session : sessions_) {
            rate *= 1.0 + 0.004 * dice.bell();
            currency.rates.push_back({session, std::floor(rate * 1e5 + 0.5) / 1e5});
        }
        made_.description.currencies.push_back(std::move(currency));
    }

    const std::vector<Day>& sessionsOf(bool isYoung) const
    {
        return isYoung ? youngSessions_ : sessions_;
    }

    /// Listings come in waves: when the market has risen for a while.
    std::size_t drawListing(std::size_t sessions)
    {
        if (extent_ == Extent::Small)
            return 60 + dice_.below(sessions - 180);
        constexpr std::array<std::pair<std::string_view, std::string_view>, 3> waves{
            {{"2017-03-01", "2017-11-01"},
             {"2021-02-01", "2021-12-01"},
             {"2024-09-02", "2025-07-01"}}};
        const auto& [from, to] = waves.at(dice_.below(waves.size()));
        const std::size_t first = sessionOn(sessions_, from);
        return first + dice_.below(sessionOn(sessions_, to) - first);
    }

    Birth drawBirth(std::size_t sessions)
    {
        constexpr std::array characters{
            Character::Grower,   Character::Grower,       Character::Grower,
            Character::Steady,   Character::Steady,       Character::Steady,
            Character::Cyclical, Character::Cyclical,     Character::Turnaround,
            Character::Indebted, Character::Unprofitable, Character::Declining};
        const bool isWhole = extent_ == Extent::Whole;
        Birth birth;
        birth.character = characters.at(dice_.below(characters.size()));
        birth.beta = dice_.between(0.5, 1.5);
        const double draw = dice_.share(); // few are large, many are small
        birth.size = 4.0 + 900.0 * draw * draw * draw * draw * draw + 60.0 * dice_.share();
        if (dice_.chance(isWhole ? 0.15 : 0.24))
            birth.firstSession = drawListing(sessions);
        if (dice_.chance(isWhole ? 0.125 : 0.09) && birth.firstSession + 600 < sessions) {
            birth.lastSession =
                birth.firstSession + 400 + dice_.below(sessions - birth.firstSession - 450);
            constexpr std::array endings{Ending::Failed, Ending::Bought, Ending::Bought,
                                         Ending::Moved};
            birth.ending = endings.at(dice_.below(endings.size()));
        }
        birth.newsFrom = sessions_.back().plusDays(-3 * 365);
        return birth;
    }

    /// What this company's life holds that was promised. `place` counts the main exchange's shares.
    void promise(Birth& birth, std::size_t place)
    {
        const auto lasting = [&](double size) {
            birth.lastSession.reset();
            birth.ending = Ending::None;
            birth.firstSession = 0;
            birth.size = std::max(birth.size, size);
        };
        constexpr std::size_t scriptsFrom = 300;
        if (place >= scriptsFrom && place < scriptsFrom + scripts().size()) {
            lasting(60.0);
            birth.script = &scripts()[place - scriptsFrom];
            if (birth.script->what.starts_with("first advance"))
                birth.firstSession =
                    sessions_.size() - 40 - static_cast<std::size_t>(birth.script->sessions());
            return;
        }
        switch (place) {
        case 330:
            lasting(400.0);
            birth.character = Character::Grower;
            birth.neverSplits = true;
            birth.startPrice = 1'200.0;
            break;
        case 331:
        case 332:
            lasting(120.0);
            birth.character = Character::Steady;
            birth.specialDividend = 0.1;
            break;
        case 333:
        case 334:
            lasting(20.0);
            birth.character = Character::Declining;
            birth.reverseSplitAt = sessions_.size() - 420 - place;
            break;
        default:
            break;
        }
    }

    InstrumentRecord& addCompany(bool isYoung, std::size_t number, InstrumentKind kind)
    {
        constexpr Industry property{"Finance", "Property trusts", "Property"};
        const Industry& industry =
            kind == InstrumentKind::Trust
                ? property
                : industries()[(number * 7 + (isYoung ? 3 : 0)) % industries().size()];
        Birth birth = drawBirth(sessionsOf(isYoung).size());
        if (extent_ == Extent::Whole && kind == InstrumentKind::Share && !isYoung)
            promise(birth, number - 100);
        if (isYoung) {
            birth.size *= 0.4;
            birth.beta += 0.2;
        }
        if (kind == InstrumentKind::Trust) {
            birth.character = Character::Steady;
            birth.beta = 0.5;
        }
        return addBorn(isYoung, number, kind, industry, birth);
    }

    InstrumentRecord& addBorn(bool isYoung, std::size_t number, InstrumentKind kind,
                              const Industry& industry, const Birth& birth)
    {
        const Register::Entry entry = names_.enter(dice_, industry.trade);
        InstrumentRecord record;
        market::Instrument& instrument = record.instrument;
        instrument.symbol = entry.symbol + (isYoung ? ".T" : ".C");
        instrument.name = entry.name;
        instrument.exchange = isYoung ? youngExchange : mainExchange;
        instrument.kind = kind;
        instrument.sector = industry.sector;
        instrument.industry = industry.name;
        instrument.currency = kind == InstrumentKind::Receipt ? neighbourCurrency : "vl";
        instrument.optionable = birth.size > 60.0;
        instrument.shortable = birth.size > 15.0;
        instrument.about = fmt::format("{} of the Vellan Isles: {}.", entry.name, industry.name);
        const auto notes = live(record, birth, sessionsOf(isYoung),
                                isYoung ? youngWeather_ : mainWeather_, dice_.fork(number));
        for (const auto& [what, day] : notes)
            note(what, record, day);
        if (birth.neverSplits)
            note("a price in the thousands, never split", record, sessions_.back());
        made_.records.push_back(std::move(record));
        return made_.records.back();
    }

    void note(std::string what, const InstrumentRecord& record, Day day)
    {
        made_.situations.push_back({std::move(what), record.instrument.symbol, day});
    }

    /// Three times two companies become one, which is listed on the day on which they are not.
    void addMergers()
    {
        for (std::size_t number = 0; number < 3; ++number) {
            const std::size_t day = sessionOn(sessions_, "2022-10-03") + number * 260;
            const Industry& industry = industries()[number * 5 + 2];
            Birth birth;
            birth.size = 140.0;
            birth.newsFrom = sessions_.back().plusDays(-3 * 365);
            birth.firstSession = day;
            birth.isListing = false;
            const std::string joined =
                addBorn(false, 5000 + number, InstrumentKind::Share, industry, birth)
                    .instrument.symbol;
            note("a listing by merger of two companies", made_.records.back(), sessions_[day]);
            for (std::size_t part = 0; part < 2; ++part) {
                Birth parent;
                parent.size = 60.0;
                parent.newsFrom = birth.newsFrom;
                parent.lastSession = day - 1;
                parent.ending = Ending::Merged;
                parent.whyDelisted = "merged into " + joined;
                addBorn(false, 5100 + number * 2 + part, InstrumentKind::Share, industry, parent);
            }
        }
    }

    /// A company hands one of its own to its shareholders: the price falls by what it was worth.
    void addSpinOff()
    {
        const std::size_t session = sessionOn(sessions_, "2025-05-12");
        Birth birth;
        birth.size = 35.0;
        birth.newsFrom = sessions_.back().plusDays(-3 * 365);
        birth.firstSession = session;
        birth.isListing = false;
        const Industry& industry = industries()[8];
        InstrumentRecord& child = addBorn(false, 5200, InstrumentKind::Share, industry, birth);
        const double worth = child.bars.close.front();
        const std::string childSymbol = child.instrument.symbol;
        const std::size_t childPlace = made_.records.size() - 1;
        for (InstrumentRecord& parent : made_.records) {
            const bool fits =
                parent.instrument.industry == industry.name && !parent.instrument.delistedOn &&
                parent.bars.size() == sessions_.size() && parent.bars.close[session] > worth &&
                parent.instrument.symbol != childSymbol;
            if (!fits)
                continue;
            made_.records[childPlace].instrument.about +=
                " Spun off from " + parent.instrument.name + ".";
            const double value = std::floor(worth * 25.0) / 100.0; // one share for four
            parent.actions.push_back({sessions_[session], market::ActionKind::SpinOff, value});
            for (std::size_t bar = session; bar < parent.bars.size(); ++bar) {
                const double factor = 1.0 - value / parent.bars.close[session - 1];
                for (auto* column :
                     {&parent.bars.open, &parent.bars.high, &parent.bars.low, &parent.bars.close})
                    (*column)[bar] = std::floor((*column)[bar] * factor * 100.0 + 0.5) / 100.0;
            }
            note("a spin-off, handed to the shareholders of its parent", parent,
                 sessions_[session]);
            note("the spun-off company", made_.records[childPlace], sessions_[session]);
            return;
        }
    }

    /// A company in eighty changes its name's symbol at some time.
    void renameSome()
    {
        for (std::size_t place = 40; place < counts_.mainShares; place += 60) {
            InstrumentRecord& record = made_.records[place];
            if (record.bars.size() < 1200)
                continue;
            const Day day = record.bars.days[record.bars.size() - 500 - place];
            std::string former = names_.symbol(dice_, record.instrument.symbol) + ".C";
            note("a new symbol, formerly " + former, record, day);
            record.instrument.formerSymbols.push_back({std::move(former), day});
        }
    }

    /// The two hundred largest shares of the main exchange, chosen anew each January.
    void addMembers()
    {
        const std::string index(mainIndex);
        std::map<std::size_t, Day> inside; // record, since
        for (std::size_t session = 0; session < sessions_.size(); ++session) {
            const bool isFirstOfYear = session == 0 || sessions_[session].date().year() !=
                                                           sessions_[session - 1].date().year();
            if (!isFirstOfYear)
                continue;
            const Day day = sessions_[session];
            const std::set<std::size_t> chosen = largestOn(day);
            for (auto member = inside.begin(); member != inside.end();) {
                if (chosen.contains(member->first)) {
                    ++member;
                    continue;
                }
                leave(member->first, index, member->second, day);
                member = inside.erase(member);
            }
            for (const std::size_t each : chosen)
                inside.try_emplace(each, day);
        }
        for (const auto& [each, since] : inside)
            leave(each, index, since, std::nullopt);
    }

    void leave(std::size_t place, const std::string& index, Day since, std::optional<Day> until)
    {
        market::Instrument& instrument = made_.records[place].instrument;
        if (instrument.delistedOn && (!until || *instrument.delistedOn < *until))
            until = instrument.delistedOn;
        if (!until || *until > since)
            instrument.memberships.push_back({index, since, until});
    }

    std::set<std::size_t> largestOn(Day day) const
    {
        std::vector<std::pair<double, std::size_t>> sizes;
        for (std::size_t i = 0; i < made_.records.size(); ++i) {
            const InstrumentRecord& record = made_.records[i];
            const auto next = std::ranges::upper_bound(record.bars.days, day);
            const auto count =
                std::ranges::upper_bound(record.shares, day, {}, &market::ShareCount::date);
            const bool isIn =
                record.instrument.kind == InstrumentKind::Share &&
                record.instrument.exchange == mainExchange && next != record.bars.days.begin() &&
                count != record.shares.begin() &&
                (!record.instrument.delistedOn || *record.instrument.delistedOn > day);
            if (isIn)
                sizes.emplace_back(
                    -record.bars
                            .close[static_cast<std::size_t>(next - record.bars.days.begin()) - 1] *
                        (count - 1)->outstanding,
                    i);
        }
        std::ranges::sort(sizes);
        std::set<std::size_t> chosen;
        for (std::size_t i = 0; i < std::min<std::size_t>(200, sizes.size()); ++i)
            chosen.insert(sizes[i].second);
        return chosen;
    }

    using IsMember = std::function<bool(const InstrumentRecord&, Day)>;

    void addBaskets()
    {
        const std::vector<InstrumentRecord> shares = made_.records;
        constexpr std::array<std::pair<std::string_view, std::string_view>, 12> sectorFunds{
            {{"FTEC.C", "Technology"},
             {"FENG.C", "Energy"},
             {"FSHP.C", "Shipping"},
             {"FHLT.C", "Health"},
             {"FMCH.C", "Machines"},
             {"FFIN.C", "Finance"},
             {"FFOO.C", "Food and sea"},
             {"FMAT.C", "Materials"},
             {"FWAT.C", "Water"},
             {"FLEI.C", "Leisure"},
             {"FGDS.C", "Goods and shops"},
             {"FMED.C", "Media and post"}}};
        std::uint64_t stream = 9000;
        for (std::size_t i = 0; i < std::min(sectorFunds.size(), counts_.funds); ++i) {
            const auto& [symbol, sector] = sectorFunds.at(i);
            addBasket(instrument(symbol, fmt::format("Isles {} Fund", sector), InstrumentKind::Fund,
                                 sector),
                      shares, 40.0, ++stream,
                      [sector = sector](const InstrumentRecord& share, Day) {
                          return share.instrument.sector == sector;
                      });
        }
        const std::array<std::tuple<std::string_view, std::string_view, IsMember>, 8> others{
            {{"FALL.C", "Isles All Shares Fund", [](const InstrumentRecord&, Day) { return true; }},
             {"FTWO.C", "Carrow 200 Fund", inIndex},
             {"FTRN.C", "Tarn Fund",
              [](const InstrumentRecord& share, Day) {
                  return share.instrument.exchange == youngExchange;
              }},
             {"FSML.C", "Isles Small Companies Fund",
              [](const InstrumentRecord& share, Day day) { return !inIndex(share, day); }},
             {"FDIV.C", "Isles Dividend Fund",
              [](const InstrumentRecord& share, Day) {
                  return std::ranges::count(share.actions, market::ActionKind::Dividend,
                                            &market::Action::kind) > 8;
              }},
             {"FSEA.C", "Sea Trades Fund",
              [](const InstrumentRecord& share, Day) {
                  return share.instrument.sector == "Shipping" ||
                         share.instrument.sector == "Food and sea";
              }},
             {"FOPT.C", "Isles Large Companies Fund",
              [](const InstrumentRecord& share, Day) { return share.instrument.optionable; }},
             {"FPRP.C", "Isles Property Fund", [](const InstrumentRecord& share, Day) {
                  return share.instrument.kind == InstrumentKind::Trust;
              }}}};
        for (std::size_t i = 0; i + sectorFunds.size() < counts_.funds; ++i) {
            const auto& [symbol, name, isMember] = others.at(i);
            addBasket(instrument(symbol, std::string(name), InstrumentKind::Fund, ""), shares, 40.0,
                      ++stream, isMember);
        }
        addBasket(instrument(mainIndex, "Carrow 200", InstrumentKind::Index, ""), shares, 2000.0,
                  ++stream, inIndex);
    }

    static bool inIndex(const InstrumentRecord& share, Day day)
    {
        return market::isMember(share.instrument, mainIndex, day);
    }

    static market::Instrument instrument(std::string_view symbol, std::string name,
                                         InstrumentKind kind, std::string_view sector)
    {
        market::Instrument each;
        each.symbol = symbol;
        each.name = std::move(name);
        each.exchange = mainExchange;
        each.kind = kind;
        each.sector = sector;
        each.currency = "vl";
        return each;
    }

    /// A fund or index whose level follows the mean of its members' changes.
    void addBasket(market::Instrument instrument, const std::vector<InstrumentRecord>& shares,
                   double start, std::uint64_t stream, const IsMember& isMember)
    {
        Dice dice = dice_.fork(stream);
        std::vector<double> changes(sessions_.size());
        std::vector<double> members(sessions_.size());
        for (const InstrumentRecord& share : shares)
            addChanges(share, isMember, changes, members);
        InstrumentRecord basket;
        double level = start;
        const auto rounded = [](double price) { return std::floor(price * 100.0 + 0.5) / 100.0; };
        for (std::size_t session = 0; session < sessions_.size(); ++session) {
            const double before = level;
            level *= 1.0 + (members[session] > 0.0 ? changes[session] / members[session] : 0.0);
            const double open = rounded(before + (level - before) * 0.3 * dice.share());
            const double close = rounded(level);
            const double reach = level * 0.002;
            const double high = rounded(std::max(open, close) + reach * dice.share());
            const double low = rounded(std::min(open, close) - reach * dice.share());
            const double volume = instrument.kind == InstrumentKind::Index
                                      ? 0.0
                                      : std::floor(dice.between(20'000, 90'000));
            basket.bars.add({sessions_[session], open, high, low, close, volume});
        }
        basket.instrument = std::move(instrument);
        made_.records.push_back(std::move(basket));
    }

    void addChanges(const InstrumentRecord& share, const IsMember& isMember,
                    std::vector<double>& changes, std::vector<double>& members) const
    {
        const market::Bars& bars = share.bars;
        std::size_t session = 0;
        for (std::size_t bar = 1; bar < bars.size(); ++bar) {
            if (!isMember(share, bars.days[bar]))
                continue;
            while (sessions_[session] < bars.days[bar])
                ++session;
            double before = bars.close[bar - 1];
            for (const market::Action& action : share.actions)
                if (action.exDate > bars.days[bar - 1] && action.exDate <= bars.days[bar]) {
                    if (action.kind == market::ActionKind::Split)
                        before /= action.value;
                    else if (action.kind == market::ActionKind::SpinOff)
                        before -= action.value;
                }
            changes[session] += bars.close[bar] / before - 1.0;
            members[session] += 1.0;
        }
    }

    Extent extent_;
    Counts counts_;
    Dice dice_;
    std::vector<Day> sessions_;
    std::vector<Day> youngSessions_;
    std::vector<Weather> mainWeather_;
    std::vector<Weather> youngWeather_;
    Register names_;
    DemoMarket made_;
};

} // namespace

DemoMarket makeMarket(std::uint64_t seed, Extent extent)
{
    return Making(seed, extent).run();
}

std::string mapOf(const DemoMarket& market)
{
    std::string page =
        "# The demo market: what can be found where\n\n"
        "Made by `wise-sieve-demo-market --map`; a test holds this page to the market. All names "
        "are "
        "invented.\nThe phases of the whole market stand in `demo_market/climate.cpp`.\n\n"
        "| what | symbol | day |\n|---|---|---|\n";
    for (const Situation& situation : market.situations)
        page += fmt::format("| {} | {} | {} |\n", situation.what, situation.symbol,
                            situation.day.iso());
    return page;
}

} // namespace sieve::demo_market
