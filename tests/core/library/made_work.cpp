#include "tests/core/library/made_work.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::test {

using library::KeptScreen;
using library::Work;

screens::Screen screenNamed(const std::string& name, const std::string& criterion)
{
    screens::Screen screen;
    screen.name = name;
    screen.criteria = {{criterion}};
    return screen;
}

watchlists::Watchlist listNamed(std::int64_t id, const std::string& name)
{
    return {id,
            name,
            {{"AAAA.C", day("2024-05-02"), 12.5, "at \"support\"; wait", "Pullback"},
             {"BBBB.T", day("2024-05-03"), missing, "", ""}},
            {{{"CCCC.C", day("2024-01-02"), 3.5, "", ""}, day("2024-04-02"), 4.25, "sold\nhalf"},
             {{"CCCC.C", day("2024-05-02"), missing, "", ""}, day("2024-05-02"), missing, ""}}};
}

Shared<drawings::Drawing> levelAt(std::int64_t id, double price)
{
    drawings::Drawing level;
    level.id = id;
    level.tool = drawings::Tool::Level;
    level.symbol = "AAAA.C";
    level.drawnOn = day("2024-05-02");
    level.anchors = {{level.drawnOn, price}};
    level.name = "pivot";
    return level;
}

Shared<watchlists::Verdict> judged(std::int64_t id, const std::string& symbol,
                                   std::optional<bool> isLiked)
{
    return watchlists::Verdict{
        id,    symbol, day("2024-05-02"), "Mine", {{"Cheap?", false}, {"Liked?", isLiked, true}},
        "Wait"};
}

watchlists::TradePlan plannedAt(double entry)
{
    return {day("2024-05-02"), entry, entry - 1.0, {entry + 2.0}};
}

watchlists::EntryPage writtenPage()
{
    watchlists::EntryPage page{"base", {"harbour", "second \"base\""}, watchlists::Sign::Square};
    page.reviewOn = day("2024-08-01");
    page.notes = {{day("2024-05-03"), "Tight.\nDry."}};
    page.trades = {{day("2024-05-06"), 12.25, 100.0, "pivot"}};
    page.formerPlans = {plannedAt(11.5)};
    return page;
}

Shared<watchlists::Alert> levelAlert(std::int64_t id, double level)
{
    watchlists::Alert alert;
    alert.id = id;
    alert.what = watchlists::Alert::What::Level;
    alert.about.symbol = "AAAA.C";
    alert.since = day("2024-05-02");
    alert.level = level;
    return alert;
}

Shared<studies::KeptRun> keptRun(std::int64_t id, const std::string& name)
{
    studies::KeptRun run;
    run.id = id;
    run.name = name;
    run.kind = studies::KeptRun::Kind::Portfolio;
    run.question = "[[step]]\ncriteria = [\"close > 1\"]\n";
    run.day = day("2024-06-03");
    run.askedOn = day("2024-06-04");
    run.market = "Test \"market\"";
    run.data = "0123456789abcdef";
    run.program = "1.0";
    run.answer = "fedcba9876543210";
    run.sentence = "100 k became 120 k.";
    run.figures = {{"return a year", Unit::Percent, 0.1 + 0.2}, {"trades", Unit::Plain, missing}};
    run.cautions = {"Few trades."};
    run.curve = {{day("2024-05-02"), 1.0}, {day("2024-05-03"), 1.0 / 3.0}};
    run.notes = "first\nsecond = \"3\"";
    return run;
}

Work richWork()
{
    Work work;
    work.tray = watchlists::Tray(
        {{"AAAA.C", day("2024-05-02"), watchlists::Mark::Kept, "Pullback", "cheap"},
         {"BBBB.T", day("2024-05-02"), watchlists::Mark::Later, "", "", plannedAt(12.5)}});
    work.lists = {listNamed(5, "Harbour names"), listNamed(3, "Quay")};
    work.lists[1].edit().head = {"Trading/Long", "Dips", "Prices", true};
    work.lists[0].edit().entries[0].page = writtenPage();
    work.lists[0].edit().former[0].entry.page.category = "failed base";
    work.terms = watchlists::TradingTerms{{25'000.0, 0.02}, 0.04, 0.06, "Breadth \"first\""};
    work.screen = screenNamed("In hand");
    work.drafts = {screenNamed("Begun"), screenNamed("Left")};
    work.screens = {KeptScreen{9, screenNamed("Dips")}, KeptScreen{8, screenNamed("Jumps")}};
    language::OwnFields fields;
    REQUIRE_FALSE(fields.put(ownField("half", "close / 2")));
    REQUIRE_FALSE(fields.put(ownField("quarter_of_it", "half / 2")));
    work.fields = fields;
    work.columnSets = std::vector<screens::ColumnSet>{{"Prices", {"close", "open"}, {}}};
    work.chartSetUps =
        std::vector<charts::SetUp>{charts::readySetUps()[1], charts::standardSetUp()};
    work.chartSetUps.edit()[1].name = "Own \"one\"";
    work.weighing = watchlists::Weighing{{"too \"dear\"", "thin"},
                                         {{"AAAA.C", day("2024-05-02"), {"BBBB.T", "CCCC.C"}}}};
    work.weighing.edit().followed = {{"AAAA.C", day("2024-05-02"), day("2024-06-03")}};
    work.checklists = std::vector<watchlists::Checklist>{
        {"Mine", {{"Cheap?", "half < 10"}, {"Liked?"}}}, watchlists::standardChecklist()};
    work.verdicts = std::vector{judged(21, "AAAA.C", true), judged(22, "BBBB.T", std::nullopt)};
    work.alerts = std::vector{levelAlert(31, 12.5), levelAlert(33, 13.5)};
    work.mail = watchlists::MailTerms{.to = "ana@example.org", .columns = "Prices"};
    work.marketBook.edit().rules.pop_back();
    work.runs = std::vector{keptRun(41, "Mine"), keptRun(42, "")};
    work.drawings = std::vector{levelAt(11, 12.5), levelAt(14, 13.0), levelAt(15, 0.1)};
    return work;
}

} // namespace sieve::test
