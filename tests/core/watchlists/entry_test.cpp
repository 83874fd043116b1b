#include "core/watchlists/entry.h"

#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::watchlists {

namespace {

using test::day;

TradePlan planOn(const char* on, double entry)
{
    return {day(on), entry, entry - 2.0, {entry + 4.0}};
}

EntryPage fullPage()
{
    EntryPage page;
    page.category = "base \"on\" base";
    page.tags = {"harbour", "späte Basis"};
    page.sign = Sign::Diamond;
    page.reviewOn = day("2024-06-03");
    page.notes = {{day("2024-05-02"), "*Tight* at 41\n\n- volume dry\n<b>not bold</b> \\ 'q'"},
                  {day("2024-05-09"), "\u202Eright to left\u202C \U0001F600"}};
    page.links = {"https://example.org/a?b=c&d=e"};
    page.trades = {{day("2024-05-03"), 41.25, 200.0, "pivot"}, {day("2024-05-20"), 47.5, -80.5}};
    page.formerPlans = {planOn("2024-05-02", 41.0), planOn("2024-05-08", 43.0)};
    page.formerPlans[0].entryRule = "drawing(\"pivot\")";
    page.picture = "ab12.png";
    return page;
}

} // namespace

TEST_CASE("Entry: its page goes into a text and comes back", "[watchlists]")
{
    CHECK(toToml(EntryPage{}).empty());
    CHECK(*entryPageFromToml("") == EntryPage{});
    const EntryPage page = fullPage();
    const auto read = entryPageFromToml(toToml(page));
    REQUIRE(read);
    CHECK(*read == page);
    for (const Sign sign : signs)
        CHECK(signNamed(signName(sign)) == sign);
    CHECK_FALSE(signNamed("flag"));
}

TEST_CASE("Entry: a page that cannot be read tells where and why", "[watchlists]")
{
    const struct {
        const char* toml;
        const char* problem;
        std::size_t line;
    } wrong[] = {
        {"category = 5", "'category' is of another type", 1},
        {"colour = \"red\"", "'colour' is no key of an entry", 1},
        {"sign = \"flag\"", "no sign of that name", 1},
        {"tags = [1]", "'tags' holds something that is no text", 1},
        {"category = \"a\"\nreview_on = \"3 June\"", "'review_on' is no day", 1},
        {"[[notes]]\ntext = \"a\"", "'on' is no day", 1},
        {"[[trades]]\non = \"2024-05-02\"\nprice = \"dear\"\nshares = 3", "'price' is no number",
         3},
        {"[[trades]]\non = \"2024-05-02\"\nprice = 3", "'shares' is no number", 1},
        {"[[former_plans]]\non = \"2024-05-02\"\nentry = 3\nstop = 4",
         "The stop must be a price below the entry", 1},
        {"[notes", "", 1},
    };
    for (const auto& each : wrong) {
        INFO(each.toml);
        const auto read = entryPageFromToml(each.toml);
        REQUIRE_FALSE(read);
        CHECK(read.error().problem.find(each.problem) != std::string::npos);
        CHECK(read.error().where.line >= each.line);
    }
}

TEST_CASE("Entry: another plan leaves the one before among the former ones", "[watchlists]")
{
    Entry entry{"AAAA", day("2024-05-01")};
    CHECK_FALSE(isWrittenTo(entry));
    setPlan(entry, planOn("2024-05-02", 41.0));
    CHECK(isWrittenTo(entry));
    setPlan(entry, planOn("2024-05-02", 42.0)); // of the same day: in its place
    CHECK(entry.page.formerPlans.empty());
    setPlan(entry, planOn("2024-05-08", 43.0));
    CHECK(entry.page.formerPlans == std::vector{planOn("2024-05-02", 42.0)});
    setPlan(entry, planOn("2024-05-10", 44.0));
    CHECK(entry.page.formerPlans.size() == 2);
    CHECK(planInForce(entry, day("2024-05-09")) == planOn("2024-05-08", 43.0));
    CHECK(planInForce(entry, day("2024-05-02")) == planOn("2024-05-02", 42.0));
    CHECK(planInForce(entry, day("2024-06-01")) == planOn("2024-05-10", 44.0));
    CHECK_FALSE(planInForce(entry, day("2024-05-01")));
    SECTION("as seen from an earlier day, the later ones are taken back")
    {
        setPlan(entry, planOn("2024-05-08", 50.0));
        CHECK(entry.page.formerPlans == std::vector{planOn("2024-05-02", 42.0)});
        CHECK(entry.plan == planOn("2024-05-08", 50.0));
    }
    SECTION("one that is removed stays among them")
    {
        setPlan(entry, std::nullopt);
        CHECK_FALSE(entry.plan);
        CHECK(entry.page.formerPlans.size() == 3);
    }
}

TEST_CASE("Entry: nothing is sold that is not held", "[watchlists]")
{
    Entry entry{"AAAA", day("2024-05-01")};
    CHECK(addTrade(entry, {day("2024-05-02"), 10.0, -5.0}) == "More would be sold than is held.");
    CHECK(addTrade(entry, {day("2024-05-02"), 0.0, 5.0}) == "A trade needs a price above zero.");
    CHECK(addTrade(entry, {day("2024-05-02"), missing, 5.0}) ==
          "A trade needs a price above zero.");
    CHECK(addTrade(entry, {day("2024-05-02"), 10.0, 0.0}) == "A trade needs a number of shares.");
    CHECK(entry.page.trades.empty());
    CHECK(addTrade(entry, {day("2024-05-06"), 11.0, 20.0}).empty());
    CHECK(addTrade(entry, {day("2024-05-02"), 10.0, 5.0}).empty()); // told later, it comes before
    CHECK(addTrade(entry, {day("2024-05-10"), 12.0, -25.0}).empty());
    CHECK(entry.page.trades.front().on == day("2024-05-02"));
    CHECK(entry.page.trades.size() == 3);
    // These twenty were not there yet on that day, though they are by now.
    CHECK(addTrade(entry, {day("2024-05-03"), 12.0, -6.0}) == "More would be sold than is held.");
}

TEST_CASE("Entry: tags and links as they are typed", "[watchlists]")
{
    CHECK(tagsIn(" a, b ,,a,  c d ,") == std::vector<std::string>{"a", "b", "c d"});
    CHECK(tagsIn("").empty());
    CHECK(faultOfLink("https://example.org/x").empty());
    CHECK(faultOfLink("mailto:a@example.org").empty());
    for (const char* wrong : {"", "https://", "example.org", "file:///etc/passwd",
                              "javascript:alert(1)", "https://a b", "https://a\nb"})
        CHECK_FALSE(faultOfLink(wrong).empty());
}

} // namespace sieve::watchlists
