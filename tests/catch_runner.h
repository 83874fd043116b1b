#pragma once

namespace sieve::test {

/// Runs the tests of this program as its arguments say, and gives its exit status.
int runTests(int count, char** arguments);

} // namespace sieve::test
