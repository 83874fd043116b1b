#include "core/screens/offers.h"

#include "core/screens/run.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::screens {

namespace {

NameBook book()
{
    NameBook book;
    book.screens["Harbour leaders"] = {};
    book.checklists["My questions"].rules = {"close > 1", "close > 2", "close > 3"};
    book.lists["Quay"] = std::make_shared<const engine::ListMembers>();
    book.lists["said \"so\""] = std::make_shared<const engine::ListMembers>();
    return book;
}

std::string first(std::string_view words, const std::vector<std::string>& recent = {})
{
    const auto offers = offersFor(words, book(), recent);
    return offers.empty() ? std::string() : offers.front().text;
}

bool offers(std::string_view words, std::string_view text)
{
    const auto all = offersFor(words, book());
    return std::ranges::find(all, text, &Offer::text) != all.end();
}

} // namespace

TEST_CASE("Offers: found by words, beginnings and slips of the finger", "[screens]")
{
    CHECK(first("rsi 14") == "rsi_14");
    CHECK(first("turned up") == "close > prior(close) and prior(close) < prior(close, 2)");
    CHECK(offers("gros marg", "gross_margin"));
    CHECK(offers("margni", "gross_margin")); // two letters swapped
    CHECK(offers("earnigns yield", "earnings_yield"));
    CHECK(first("harbour") == "passes(\"Harbour leaders\")");
    CHECK(first("quay") == "on_list(\"Quay\")");
    CHECK(first("my questions") == "checklist(\"My questions\") >= 2");
    CHECK_FALSE(offers("said so", "on_list(\"said \"so\"\")")); // cannot be said
    CHECK(offersFor("xqzvw", book()).empty());
    CHECK(offersFor(std::string(5000, 'x'), book()).empty());
    CHECK(offersFor("e", book(), {}, 7).size() == 7);
}

TEST_CASE("Offers: a condition as typed comes first, what was used lately is near", "[screens]")
{
    CHECK(first("close > 5") == "close > 5");
    CHECK(offersFor("close > 5", book()).front().what == Offer::What::Condition);
    CHECK(offersFor("close >", book()).front().what != Offer::What::Condition);
    CHECK(first("", {"net_margin"}) == "net_margin");
    CHECK(offersFor("", book()).front().what == Offer::What::Phrase);
    const std::string usual = first("margin");
    CHECK(usual != "operating_margin");
    CHECK(first("margin", {"operating_margin"}) == "operating_margin");
}

TEST_CASE("Offers: every phrase is a condition of the language without a warning", "[screens]")
{
    const auto all = offersFor("", book(), {}, 1000);
    CHECK(all.size() >= 35);
    const language::Names names{language::Vocabulary::builtIn()};
    for (const Offer& offer : all) {
        INFO(offer.text);
        engine::Plan plan;
        const auto checked = checkCondition(offer.text, names, plan);
        REQUIRE(checked);
        CHECK(checked->warnings.empty());
        CHECK(first(offer.title) == offer.text); // and is found by its own words
    }
}

TEST_CASE("Field today: spread, coverage and a criterion that cuts to a part", "[screens]")
{
    std::vector<market::InstrumentRecord> records;
    for (int i = 1; i <= 100; ++i) {
        records.push_back(test::recordOf(std::to_string(1000 + i), {50.0, 1.0 * i},
                                         i <= 60 ? "Water" : "Energy"));
        if (i > 90)
            records.back().bars.volume[1] = missing;
    }
    const auto market = test::marketOf(std::move(records));
    engine::Evaluator evaluator(market);
    const language::Names names{language::Vocabulary::builtIn()};
    const Day day = market->sessions().back();
    Screen screen;
    const auto today = [&](const std::string& field) {
        return fieldToday(field, screen, names, evaluator, day);
    };
    CHECK_FALSE(today("closs"));
    const auto close = today("close");
    REQUIRE(close);
    CHECK(close->stocks == 100);
    CHECK(close->known == 100);
    CHECK(close->median == 50.5);
    CHECK(close->criterion == "close >= 70");
    CHECK(today("volume")->known == 90);
    CHECK(today("sector")->criterion == "sector == \"Water\"");
    CHECK(today("optionable")->criterion == "optionable");
    screen.criteria = {{"close > 200"}};
    CHECK(today("close")->criterion.empty());
    CHECK(today("volume")->criterion.empty());
    screen.criteria = {{"close <= 10"}};
    CHECK(today("close")->stocks == 10);
    for (const language::Field& field : names.vocabulary.fields()) { // each can be begun with
        INFO(field.name);
        const auto any = fieldToday(field.name, Screen(), names, evaluator, day);
        REQUIRE(any);
        engine::Plan plan;
        if (!any->criterion.empty())
            CHECK(checkCondition(any->criterion, names, plan));
    }
}

} // namespace sieve::screens
