#include "core/library/alert_log.h"

#include "core/library/kept_work.h"
#include "core/library/library.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>

namespace sieve::library {

namespace {

using test::day;
using watchlists::Raised;

Raised raisedOn(const char* on, std::int64_t alert = 7, const char* symbol = "AAAA")
{
    return {0, alert, day(on), symbol, "reached 41.25", 41.3};
}

} // namespace

TEST_CASE("Alert log: what was told is told once, and stays", "[library]")
{
    const test::OwnFolder own;
    const auto file = own.path() / "library.sqlite";
    {
        const auto opened = Library::open(file);
        Library& library = *opened.library;
        CHECK_FALSE(alertsCheckedTo(library, "Vellan"));
        const std::vector<Raised> first{raisedOn("2024-05-02"), raisedOn("2024-05-03")};
        const auto written = addRaised(library, first, "Vellan", day("2024-05-03"));
        REQUIRE(written.size() == 2);
        CHECK(written[0].id != written[1].id);
        const std::vector<Raised> second{raisedOn("2024-05-03"), raisedOn("2024-05-03", 8),
                                         raisedOn("2024-05-03", 7, "BBBB")};
        CHECK(addRaised(library, second, "Vellan", day("2024-05-06")).size() == 2);
        CHECK(alertsCheckedTo(library, "Vellan") == day("2024-05-06"));
        CHECK_FALSE(alertsCheckedTo(library, "Hollow"));
        const std::int64_t ids[] = {written[1].id, 99};
        setSeen(library, ids);
        // An edit of the person's work, and its undo, leave it alone.
        const Work before = loadWork(library).work;
        Work after = before;
        watchlists::Alert alert;
        alert.id = 7;
        alert.rule = "close > 5";
        keepAlert(after, alert);
        saveWork(library, before, after);
        saveWork(library, after, before);
    }
    const auto again = Library::open(file);
    const AlertLog log = alertLog(*again.library);
    CHECK(log.problems.empty());
    REQUIRE(log.raised.size() == 4);
    CHECK_FALSE(log.raised[0].isSeen);
    CHECK(log.raised[1].isSeen);
    CHECK(log.raised[3].symbol == "BBBB");
}

TEST_CASE("Alert log: a row that cannot be read stays, and the others are told", "[library]")
{
    const auto library = Library::inMemory();
    const std::vector<Raised> told{raisedOn("2024-05-02"), raisedOn("2024-05-03")};
    (void)addRaised(*library, told, "Vellan", day("2024-05-03"));
    library->database().exec("UPDATE raised SET toml = 'of a later version' WHERE id = 1");
    const AlertLog log = alertLog(*library);
    CHECK(log.raised.size() == 1);
    CHECK(log.problems.size() == 1);
    const std::int64_t broken[] = {1};
    setSeen(*library, broken);
    CHECK(library->database().execAndGet("SELECT toml FROM raised WHERE id = 1").getString() ==
          "of a later version");
}

} // namespace sieve::library
