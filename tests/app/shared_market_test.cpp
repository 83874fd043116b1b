#include "tests/app/window_bench.h"

#include <catch2/catch.hpp>

namespace sieve::test {

// Hidden: CTest runs it before the others, which then find the demo market made.
TEST_CASE("Shared market: the demo market is written and taken in for all", "[.shared]")
{
    REQUIRE_FALSE(sharedFolder().empty());
    writeDemoDataset(demoDataset());
    const OwnFolder own;
    const WindowBench bench(own.path() / "library.sqlite");
    CHECK(bench.desk->market().data().size() > 150);
}

} // namespace sieve::test
