// The test library itself, compiled once for all test programs.
#define CATCH_CONFIG_RUNNER
#include "tests/catch_runner.h"

#include <catch2/catch.hpp>

namespace sieve::test {

int runTests(int count, char** arguments)
{
    return Catch::Session().run(count, arguments);
}

} // namespace sieve::test
