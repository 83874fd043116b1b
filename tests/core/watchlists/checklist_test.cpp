#include "core/watchlists/checklist.h"

#include "core/engine/evaluator.h"
#include "core/screens/name_book.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::watchlists {

namespace {

using test::day;

Shared<Verdict> verdict(std::int64_t id, const std::string& symbol, const char* on,
                        std::optional<bool> answer)
{
    return Verdict{id, symbol, day(on), "Mine", {{"Do I like it?", answer, true}}, {}};
}

/// What an expression says of each stock on a day.
std::vector<double> answers(const market::MarketPtr& market, const screens::NameBook& book,
                            const std::string& expression, const char* on)
{
    engine::Evaluator evaluator(market);
    engine::Plan plan;
    const auto checked = language::check(expression, book.names(), plan);
    REQUIRE(checked);
    const engine::NodeId targets[] = {checked->node};
    return *evaluator.columns(plan, targets, day(on))[0];
}

} // namespace

TEST_CASE("Checklist: comes back from TOML, what is wrong is located", "[watchlists]")
{
    const std::vector<Checklist> lists{standardChecklist(),
                                       {"Second", {{"say \"no\"?"}, {"back\\slash", "close > 5"}}}};
    const auto again = checklistsFromToml(toToml(lists));
    REQUIRE(again);
    CHECK(*again == lists);
    CHECK(checklistsFromToml("")->empty());
    const auto refused = [](const char* toml) {
        const auto read = checklistsFromToml(toml);
        REQUIRE_FALSE(read);
        return read.error().where.line;
    };
    CHECK(refused("[[checklists]]\nname = 'a'\nowner = 'b'") == 3);
    CHECK(refused("[[checklists]]\n") == 1);
    CHECK(refused("\n[[checklists]]\nname = 'with \"quotes\"'\n") == 2);
    CHECK(refused("[[checklists]]\nname = 'a'\n[[checklists]]\nname = 'a'\n") == 3);
    CHECK(refused("[[checklists]]\nname = 'a'\n[[checklists.questions]]\nrule = 'close > 1'") == 3);
    CHECK(refused("[[checklists]]\nname = 'a'\n[[checklists.questions]]\nwords = 'b'\n"
                  "[[checklists.questions]]\nwords = 'b'\n") == 5);
    const Verdict judged{7,
                         "KELP.C",
                         day("2025-03-14"),
                         "Mine",
                         {{"a", true, true}, {"b", false, false}, {"c", std::nullopt, true}},
                         "Wait for\nthe \"report\""};
    auto read = verdictFromToml(toToml(judged));
    REQUIRE(read);
    read->id = 7;
    CHECK(*read == judged);
    CHECK(judged.met() == 1);
    CHECK_FALSE(verdictFromToml("of = 'KELP.C'"));
    CHECK_FALSE(verdictFromToml("of = 'KELP.C'\non = '2025-03-14'\nmood = 1"));
}

TEST_CASE("Checklist: every rule of the standard one is a condition", "[watchlists]")
{
    const screens::NameBook book;
    for (const Question& question : standardChecklist().questions) {
        INFO(question.words);
        engine::Plan plan;
        if (!question.rule.empty())
            CHECK(language::checkCondition(question.rule, book.names(), plan));
    }
}

TEST_CASE(
    "Checklist: as a figure it counts what is answered by yes, each day by what was said then",
    "[watchlists]")
{
    auto records = std::vector{test::recordOf("NEWER", std::vector<double>(300, 5.0)),
                               test::recordOf("OTHER", std::vector<double>(300, 50.0))};
    records[0].instrument.formerSymbols = {{"OLDER", day("2024-06-03")}};
    const auto market = test::marketOf(records);
    const std::size_t stock = *market->find("NEWER");
    const std::vector<Shared<Verdict>> verdicts{
        verdict(1, "OLDER", "2024-02-01", true), verdict(2, "NEWER", "2024-08-01", false),
        verdict(3, "OTHER", "2024-03-01", true), verdict(4, "OTHER", "2024-05-01", std::nullopt)};
    const Checklist mine{"Mine",
                         {{"Cheap?", "close < 10"},
                          {"Dear?", "close > 10"},
                          {"Unknown?", "price_to_earnings < 10"}, // nothing is filed
                          {"Do I like it?"}}};
    screens::NameBook book;
    book.checklists["Mine"] = meaningOf(mine, verdicts);
    const auto of = [&](const char* on, std::size_t which) {
        return answers(market, book, "checklist(\"Mine\")", on)[which];
    };
    const std::size_t other = *market->find("OTHER");
    CHECK(of("2024-01-31", stock) == 1.0); // nothing was said yet
    CHECK(of("2024-02-01", stock) == 2.0);
    CHECK(of("2024-07-31", stock) == 2.0); // under its new name
    CHECK(of("2024-08-01", stock) == 1.0);
    CHECK(of("2024-02-29", other) == 1.0);
    CHECK(of("2024-04-30", other) == 2.0);
    CHECK(of("2024-05-01", other) == 1.0); // taken back
    CHECK(answers(market, book, "checklist(\"Mine\") >= 2", "2024-04-30")[other] == 1.0);

    CHECK(verdictOf(verdicts, *market, stock, "Mine", day("2024-02-01")) == &*verdicts[0]);
    CHECK(verdictOf(verdicts, *market, stock, "Mine", day("2024-02-02")) == nullptr);
    CHECK(newestVerdict(verdicts, *market, stock, "Mine", day("2024-07-31")) == &*verdicts[0]);
    CHECK(newestVerdict(verdicts, *market, stock, "Mine", day("2024-12-31")) == &*verdicts[1]);
    CHECK(newestVerdict(verdicts, *market, stock, "Else", day("2024-12-31")) == nullptr);
    CHECK(newestVerdict(verdicts, *market, stock, "Mine", day("2024-01-01")) == nullptr);
}

TEST_CASE("Checklist: one that is unknown, wrong or asks for itself is told", "[watchlists]")
{
    screens::NameBook book;
    book.checklists["Round"] = meaningOf({"Round", {{"a", "checklist(\"Round\") > 1"}}}, {});
    book.checklists["Wrong"] = meaningOf({"Wrong", {{"a", "close >"}}}, {});
    book.checklists["Empty"] = meaningOf({"Empty", {}}, {});
    engine::Plan plan;
    const auto problem = [&](const std::string& text) {
        const auto checked = language::check(text, book.names(), plan);
        return checked ? std::string() : checked.error().problem;
    };
    CHECK(problem("checklist(\"None\")") == "no checklist 'None'");
    CHECK_THAT(problem("checklist(\"Wrong\")"), Catch::StartsWith("in checklist \"Wrong\": "));
    CHECK_FALSE(problem("checklist(\"Round\")").empty());
    CHECK(problem("checklist(\"Empty\")").empty());
    CHECK_FALSE(problem("checklist(close)").empty());
    CHECK_FALSE(problem("checklist(\"Empty\") and close > 1").empty()); // a number, no condition
}

} // namespace sieve::watchlists
