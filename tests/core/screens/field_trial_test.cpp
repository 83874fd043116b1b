#include "core/screens/field_trial.h"
#include "tests/core/made_market.h"

#include <catch2/catch.hpp>

namespace sieve::screens {

namespace {

using test::ownField;

/// Five stocks with closes 1 to 5, the last without a volume.
market::MarketPtr five()
{
    std::vector<market::InstrumentRecord> records;
    for (int i = 1; i <= 5; ++i) {
        records.push_back(test::recordOf(std::to_string(1000 + i), {50.0, 1.0 * i}));
        records.back().bars.volume[1] = i == 5 ? missing : 100.0 * i;
    }
    return test::marketOf(std::move(records));
}

} // namespace

TEST_CASE("Field trial: how it is spread, and every part for one stock", "[screens]")
{
    const auto market = five();
    engine::Evaluator evaluator(market);
    const Day day = market->sessions().back();
    NameBook book;
    const FieldTrial trial =
        tryField(ownField("dear", "close * volume / 100"), "", book, evaluator, 1, day);
    REQUIRE_FALSE(trial.error);
    CHECK(trial.kind == Kind::Number);
    CHECK(trial.stocks == 5);
    CHECK(trial.known == 4);
    CHECK(trial.median == 6.5); // of 1, 4, 9 and 16
    REQUIRE(trial.parts);
    CHECK(trial.parts->value == 4.0);
    REQUIRE(trial.parts->parts.size() == 1); // what is divided; 100 explains itself
    CHECK(trial.parts->parts[0].parts.size() == 2);
    CHECK_FALSE(tryField(ownField("dear", "close"), "", book, evaluator, {}, day).parts);
}

TEST_CASE("Field trial: in the place of one that others use, by another name too", "[screens]")
{
    const auto market = five();
    engine::Evaluator evaluator(market);
    const Day day = market->sessions().back();
    language::OwnFields fields;
    REQUIRE_FALSE(fields.put(ownField("half", "close / 2")));
    REQUIRE_FALSE(fields.put(ownField("fourth", "half / 2")));
    NameBook book;
    book.fields = std::make_shared<const language::OwnFields>(fields);
    CHECK(tryField(ownField("half", "open / 2"), "half", book, evaluator, {}, day).known == 5);
    CHECK(tryField(ownField("other_half", "open / 2"), "half", book, evaluator, {}, day).known ==
          5);

    const auto error = [&](const char* name, const char* formula, const char* former) {
        const auto trial = tryField(ownField(name, formula), former, book, evaluator, 0, day);
        REQUIRE(trial.error);
        CHECK(trial.known == 0);
        CHECK_FALSE(trial.parts);
        return trial.error->problem;
    };
    CHECK(error("half", "fourth", "half").find("half") != std::string::npos);   // a cycle
    CHECK(error("half", "sector", "half").find("fourth") != std::string::npos); // breaks its user
    CHECK(error("close", "open", "").find("taken") != std::string::npos);
    CHECK(error("Half", "open", "").find("no name") != std::string::npos);
    CHECK(error("new_one", "close >", "").size() > 0);
    CHECK(error("fourth", "close", "half").find("taken") != std::string::npos);
    CHECK(book.fields->fields().size() == 2); // the book is as it was
}

} // namespace sieve::screens
