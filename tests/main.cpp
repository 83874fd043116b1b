#include "tests/catch_runner.h"

int main(int count, char** arguments)
{
    return sieve::test::runTests(count, arguments);
}
