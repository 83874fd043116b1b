#include "core/base/found_store.h"

#include <catch2/catch.hpp>
#include <string>

namespace sieve {

TEST_CASE("Found store: what was used last is kept within the budget", "[base]")
{
    FoundStore store(10'000);
    CHECK_FALSE(store.find<std::string>("a"));
    store.keep("a", std::make_shared<const std::string>("first"), 3'000);
    store.keep("b", std::make_shared<const std::string>("second"), 3'000);
    REQUIRE(store.find<std::string>("a"));
    CHECK(*store.find<std::string>("a") == "first");
    store.keep("c", std::make_shared<const std::string>("third"), 3'500);
    CHECK_FALSE(store.find<std::string>("b")); // not used for longest
    CHECK(store.find<std::string>("a"));
    CHECK(store.find<std::string>("c"));
    CHECK(store.bytes() <= 10'000);

    store.keep("a", std::make_shared<const std::string>("another"), 1'000);
    CHECK(*store.find<std::string>("a") == "another");
    CHECK(store.bytes() < 6'000);
}

TEST_CASE("Found store: what is larger than the budget is not kept, and drops nothing else",
          "[base]")
{
    FoundStore store(10'000);
    store.keep("a", std::make_shared<const std::string>("first"), 3'000);
    store.keep("large", std::make_shared<const std::string>("large"), 20'000);
    CHECK_FALSE(store.find<std::string>("large"));
    const auto held = store.find<std::string>("a");
    REQUIRE(held);
    store.keep("a", std::make_shared<const std::string>("larger"), 20'000);
    CHECK_FALSE(store.find<std::string>("a")); // what it stood for is not true any more
    CHECK(*held == "first");                   // who has it keeps it
    CHECK(store.bytes() == 0);
}

} // namespace sieve
