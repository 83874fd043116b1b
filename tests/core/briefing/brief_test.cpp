#include "core/briefing/brief_page.h"
#include "core/briefing/evening_mail.h"
#include "core/library/name_books.h"
#include "core/watchlists/alert_watch.h"
#include "tests/core/made_market.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <map>
#include <memory>

namespace sieve::briefing {

namespace {

using test::day;

/// A person's work over a market, and what the brief of it says.
struct Desk {
    std::unique_ptr<engine::Evaluator> evaluator;
    library::Work work;
    std::vector<watchlists::Raised> raised = {};

    explicit Desk(market::MarketPtr market)
        : evaluator(std::make_unique<engine::Evaluator>(std::move(market)))
    {
    }

    Brief brief(Day since, Day to) const
    {
        const auto book = library::NameBooks().of(work);
        const auto reading = conditions::readMarket(*evaluator, book->names(), *work.marketBook);
        const auto groups = conditions::readGroups(*evaluator);
        return makeBrief({work, reading, groups, raised}, *evaluator, book->names(), since, to);
    }
    std::optional<exports::Mail> mail(Day since, Day to) const
    {
        const auto book = library::NameBooks().of(work);
        const auto reading = conditions::readMarket(*evaluator, book->names(), *work.marketBook);
        const auto groups = conditions::readGroups(*evaluator);
        return eveningMail({work, reading, groups, raised}, *evaluator, book->names(), since, to,
                           std::chrono::sys_seconds(std::chrono::seconds(1'700'000'000)));
    }
};

const Part* partOf(const Brief& brief, const std::string& title)
{
    const auto part = std::ranges::find(brief.parts, title, &Part::title);
    return part == brief.parts.end() ? nullptr : &*part;
}

std::vector<std::string> wordsOf(const Brief& brief, const std::string& title)
{
    std::vector<std::string> words;
    if (const Part* part = partOf(brief, title))
        for (const Line& line : part->lines)
            words.push_back(line.subject + ": " + line.words);
    return words;
}
using Words = std::vector<std::string>;

/// Five sessions from Monday 2024-01-01: AAAA runs up to its entry, BBBB falls to its stop, CCCC
/// goes nowhere.
market::MarketPtr smallMarket()
{
    auto first = test::recordOf("AAAA", {40, 40, 40.5, 41.5, 42.5});
    first.calendar = {
        {day("2024-01-09"), market::CalendarKind::Report, market::CalendarTime::AfterClose},
        {day("2024-02-20"), market::CalendarKind::Dividend}};
    return test::marketOf({first, test::recordOf("BBBB", {10, 10, 10, 9.8, 8.9}, "Harbours"),
                           test::recordOf("CCCC", {5, 5, 5, 5, 5}, "Harbours")});
}

Desk smallDesk()
{
    Desk desk(smallMarket());
    watchlists::Watchlist list{3,
                               "Quay",
                               {{"AAAA", day("2024-01-01"), 40.0},
                                {"BBBB", day("2024-01-01"), 10.0},
                                {"CCCC", day("2024-01-01"), 5.0}}};
    list.entries[0].plan = watchlists::TradePlan{day("2024-01-01"), 42.0, 38.0, {60.0}};
    list.entries[1].plan = watchlists::TradePlan{day("2024-01-01"), 10.0, 9.0};
    list.entries[1].page.trades = {{day("2024-01-02"), 10.0, 100.0}};
    list.entries[2].page.reviewOn = day("2024-01-04");
    list.entries[2].reason = "Quiet";
    watchlists::Watchlist dips{4, "Dips now", {}, {}, {.screen = "Under nine"}};
    watchlists::Watchlist old{5, "Old", {{"BBBB", day("2024-01-01"), 10.0}}};
    old.entries[0].plan = watchlists::TradePlan{day("2024-01-01"), 12.0, 9.5};
    old.head.isArchived = true;
    desk.work.lists = {list, dips, old};
    screens::Screen screen;
    screen.name = "Under nine";
    screen.criteria = {{"close < 9"}};
    keepScreen(desk.work, screen, 7);
    screens::Screen still;
    still.name = "Still";
    still.criteria = {{"close < 1000"}};
    keepScreen(desk.work, still, 8);
    return desk;
}

} // namespace

TEST_CASE("Brief: what changed between two days, by hand", "[briefing]")
{
    Desk desk = smallDesk();
    desk.raised = {{1, 9, day("2024-01-04"), "AAAA", "reached 41.00", 41.0},
                   {2, 9, day("2024-01-05"), "", "Quay: came: AAAA", missing},
                   {3, 9, day("2024-01-03"), "AAAA", "was before", missing}};
    const Brief brief = desk.brief(day("2024-01-03"), day("2024-01-07"));
    CHECK(brief.since == day("2024-01-03"));
    CHECK(brief.day == day("2024-01-05")); // the newest session by that Sunday
    CHECK(brief.faults.empty());
    // A line of one point each: (42.5 / 40.5 + 8.9 / 10 + 1) / 3 - 1, day by day.
    REQUIRE(partOf(brief, "Market"));
    CHECK(partOf(brief, "Market")->lines.size() == 1);
    CHECK(wordsOf(brief, "Your stocks") ==
          Words{"BBBB: stop reached at 9.00, close 8.90 (held before) · Quay",
                "AAAA: triggered, close 42.50 (waiting before) · Quay"});
    CHECK(partOf(brief, "Your stocks")->lines[0].lead == Lead{Lead::To::Stock, "BBBB", 3});
    CHECK(partOf(brief, "Your stocks")->lines[0].on == day("2024-01-05"));
    CHECK(wordsOf(brief, "Alerts") == Words{"Market: Quay: came: AAAA", "AAAA: reached 41.00"});
    CHECK(wordsOf(brief, "Coming days") ==
          Words{"CCCC: review, Quiet · Quay", "AAAA: report, after close · Quay"});
    CHECK(wordsOf(brief, "Lists") == Words{"Dips now: 1 came: BBBB"});
    CHECK(wordsOf(brief, "Your screens") == Words{"Under nine: 2 pass, 1 before"});
    CHECK_FALSE(partOf(brief, "Reported"));
    for (const Part& part : brief.parts)
        CHECK_FALSE(part.lines.empty());
}

TEST_CASE("Brief: an alert leads to its stock by the symbol of today", "[briefing]")
{
    auto renamed = test::recordOf("NEWB", {10, 10, 10, 10, 10});
    renamed.instrument.formerSymbols = {{"OLDB", day("2024-01-04")}};
    Desk desk(test::marketOf({test::recordOf("AAAA", {1, 2, 3, 4, 5}), renamed}));
    desk.raised = {{1, 9, day("2024-01-03"), "OLDB", "reached 10.00"},
                   {2, 9, day("2024-01-03"), "GONE", "reached 10.00"}};
    const Brief brief = desk.brief(day("2024-01-02"), day("2024-01-05"));
    REQUIRE(partOf(brief, "Alerts"));
    CHECK(partOf(brief, "Alerts")->lines[0].lead == Lead{Lead::To::Stock, "NEWB"});
    CHECK(partOf(brief, "Alerts")->lines[1].lead == Lead{Lead::To::Alerts});
}

TEST_CASE("Brief: where nothing changed, nothing is told", "[briefing]")
{
    const Desk desk = smallDesk();
    // The archived list, the deeds of the person and what happened before are no news.
    const Brief dull = desk.brief(day("2024-01-02"), day("2024-01-03"));
    CHECK_FALSE(partOf(dull, "Lists"));
    CHECK_FALSE(partOf(dull, "Your screens"));
    CHECK(wordsOf(dull, "Your stocks").empty());
    const Brief same = desk.brief(day("2024-01-03"), day("2024-01-03"));
    CHECK(same.since == same.day);
    CHECK(wordsOf(same, "Market").empty());
    Desk empty(smallMarket());
    const Brief nobody = empty.brief(day("2024-01-05"), day("2024-01-05"));
    CHECK(nobody.parts.empty());
    CHECK_THAT(textOf(nobody), Catch::Contains("Nothing changed since Fri 5 Jan 2024."));
    // Asked of days before the market began, or turned round.
    CHECK(empty.brief(day("2020-01-01"), day("2020-02-01")).parts.empty());
    CHECK(empty.brief(day("2024-01-05"), day("2024-01-02")).since == day("2024-01-02"));
}

TEST_CASE("Brief: a screen that cannot be asked is told, and the rest goes on", "[briefing]")
{
    Desk desk = smallDesk();
    desk.work.editList(4)->head.screen = "Nowhere";
    const Brief brief = desk.brief(day("2024-01-03"), day("2024-01-05"));
    REQUIRE(brief.faults.size() == 1);
    CHECK_THAT(brief.faults[0], Catch::Contains("Dips now"));
    CHECK(wordsOf(brief, "Your stocks").size() == 2);
}

TEST_CASE("Brief: a part is short and says how much is left out", "[briefing]")
{
    Desk desk = smallDesk();
    for (int i = 0; i < 30; ++i)
        desk.raised.push_back({i, 9, day("2024-01-05"), "AAAA", "reached " + std::to_string(i)});
    const Brief brief = desk.brief(day("2024-01-03"), day("2024-01-05"));
    REQUIRE(partOf(brief, "Alerts"));
    CHECK(partOf(brief, "Alerts")->lines.size() == mostLines);
    CHECK(partOf(brief, "Alerts")->more == 30 - mostLines);
    CHECK_THAT(textOf(brief), Catch::Contains("and 18 more"));
}

TEST_CASE("Brief: the same is told when the future is cut off", "[briefing]")
{
    const auto records = test::eventfulRecords();
    const auto whole = test::marketOf(records, "VLX");
    const auto workOver = [&](const market::Market& market) {
        library::Work work;
        watchlists::Watchlist list{3, "Quay", {}};
        for (std::size_t stock = 0; stock < market.size(); ++stock) {
            const Day then = market.sessions()[40];
            if (market.isIndex(stock) || !market.isListed(stock, then))
                continue;
            const double close = watchlists::priceOn(market, stock, then);
            watchlists::Entry entry{market::symbolOn(market.instrument(stock), then), then, close};
            entry.plan = watchlists::TradePlan{then, 1.04 * close, 0.9 * close, {1.3 * close}};
            if (stock % 2 == 0)
                entry.page.trades = {{then, close, 10.0}};
            list.entries.push_back(entry);
        }
        work.lists = {list, watchlists::Watchlist{4, "Low", {}, {}, {.screen = "Low"}}};
        screens::Screen screen;
        screen.name = "Low";
        screen.criteria = {{"rsi(close, 14) < 45"}};
        keepScreen(work, screen, 7);
        return work;
    };
    std::map<std::string, int> parts;
    for (const auto& [at, back] : {std::pair(120U, 7U), {180U, 60U}, {260U, 7U}, {300U, 60U}}) {
        const Day to = whole->sessions()[at];
        const Day since = whole->sessions()[at - back];
        Desk known(whole);
        known.work = workOver(*whole);
        Desk then(test::cutAfter(records, to, "VLX"));
        then.work = known.work;
        const Brief brief = known.brief(since, to);
        INFO(textOf(brief));
        CHECK(textOf(brief) == textOf(then.brief(since, to)));
        for (const Part& part : brief.parts)
            ++parts[part.title];
    }
    // It was not empty.
    CHECK(parts["Market"] == 4);
    CHECK(parts["Your stocks"] >= 1);
    CHECK(parts["Lists"] >= 2);
    CHECK(parts["Reported"] >= 1);
}

TEST_CASE("Brief page: all texts are shown as they are", "[briefing]")
{
    Brief brief{"Vellan <demo>", day("2024-01-04"), day("2024-01-05"), {}};
    brief.parts.push_back({"Your stocks",
                           {{"A&B", "<script>alert(\"x\")</script>", day("2023-12-29")},
                            {"עברית 🐟", "it's", day("2024-01-05"), {Lead::To::Stock, "A"}}},
                           3,
                           {Lead::To::Alerts}});
    brief.faults = {"<b>"};
    const std::string html = pageOf(brief, {{}, true});
    CHECK(html.find("<script") == std::string::npos);
    CHECK_THAT(html, Catch::Contains("&lt;script&gt;alert(&quot;x&quot;)&lt;/script&gt;") &&
                         Catch::Contains("A&amp;B") && Catch::Contains("it&#39;s") &&
                         Catch::Contains("&lt;b&gt;") && Catch::Contains("href=\"line:0.1\"") &&
                         Catch::Contains("href=\"part:0\"") && Catch::Contains("and 3 more") &&
                         Catch::Contains("Fri 29 Dec 2023") && Catch::Contains("Fri 5 Jan<"));
    CHECK(pageOf(brief).find("href") == std::string::npos);
    CHECK(textOf(brief) == "Brief of Fri 5 Jan 2024\n"
                           "Vellan <demo> · what changed since Thu 4 Jan 2024\n"
                           "\nYour stocks\n"
                           "  A&B: <script>alert(\"x\")</script> (Fri 29 Dec 2023)\n"
                           "  עברית 🐟: it's (Fri 5 Jan)\n"
                           "  and 3 more\n"
                           "\nCould not be asked: <b>\n");
    CHECK(exports::toCsv(sheetOf(brief)) ==
          "part,subject,words,day\n"
          "Your stocks,A&B,\"<script>alert(\"\"x\"\")</script>\",2023-12-29\n"
          "Your stocks,עברית 🐟,it's,2024-01-05\n");
}

TEST_CASE("Evening mail: alerts, the brief, and their stocks in a set of columns", "[briefing]")
{
    Desk desk = smallDesk();
    desk.raised = {{1, 9, day("2024-01-04"), "AAAA", "reached 41.00 <now>", 41.0}};
    desk.work.columnSets = std::vector<screens::ColumnSet>{{"Mine", {"close", "change(close, 1)"}}};
    desk.work.mail = watchlists::MailTerms{.to = "ana@example.org", .columns = "Mine"};
    const auto mail = desk.mail(day("2024-01-03"), day("2024-01-05"));
    REQUIRE(mail);
    CHECK(mail->to == "ana@example.org");
    CHECK(mail->subject == "Fri 5 Jan 2024: 1 alert");
    CHECK_THAT(mail->text, Catch::Contains("  AAAA, what happened reached 41.00 <now>, "
                                           "day Thu 4 Jan 2024, late\n") &&
                               Catch::Contains("Brief of Fri 5 Jan 2024") &&
                               Catch::Contains("\nMine\n  AAAA, ") && Catch::Contains("42.5"));
    CHECK_THAT(mail->html, Catch::Contains("reached 41.00 &lt;now&gt;") &&
                               Catch::Contains(">BBBB</td>") && Catch::Contains("-9.2\u00a0%"));
    // The alerts stand once.
    CHECK(mail->text.find("Alerts") == mail->text.rfind("Alerts"));
    desk.work.mail.edit().hasBrief = false;
    const auto alone = desk.mail(day("2024-01-03"), day("2024-01-05"));
    REQUIRE(alone);
    CHECK(alone->text.find("Brief of") == std::string::npos);
    CHECK(alone->html.find("BBBB") == std::string::npos);
    CHECK_FALSE(desk.mail(day("2024-01-04"), day("2024-01-05"))); // nothing was told since
    desk.work.mail = watchlists::MailTerms{.to = "ana@example.org", .hasAlerts = false};
    const auto brief = desk.mail(day("2024-01-03"), day("2024-01-05"));
    REQUIRE(brief);
    CHECK(brief->subject == "Fri 5 Jan 2024: brief");
    CHECK_THAT(brief->text, Catch::Contains("\nAlerts\n  AAAA: reached 41.00 <now>"));
    Desk nobody(smallMarket());
    nobody.work.mail = watchlists::MailTerms{.to = "ana@example.org"};
    CHECK_FALSE(nobody.mail(day("2024-01-05"), day("2024-01-05"))); // there is nothing to tell
}

} // namespace sieve::briefing
