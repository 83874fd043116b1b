#include "core/intake/byte_source.h"

#include "tests/own_folder.h"

#include <array>
#include <catch2/catch.hpp>
#include <chrono>
#include <fstream>
#include <string_view>
#include <sys/stat.h>
#include <thread>
#include <unistd.h>

namespace sieve::intake {

TEST_CASE("Bytes: what comes in pieces is put together", "[intake]")
{
    const test::OwnFolder own;
    const auto pipe = own.path() / "pipe";
    REQUIRE(::mkfifo(pipe.c_str(), 0600) == 0);
    std::thread writer([&pipe] {
        std::ofstream out(pipe, std::ios::binary);
        for (const std::string_view piece : {"Date", ",Cl", "ose\n2025"}) {
            out << piece << std::flush;
            std::this_thread::sleep_for(std::chrono::milliseconds(20));
        }
    });
    const auto bytes = openBytes(pipe);
    std::array<char, 11> first{};
    CHECK(bytes->read(first) == 11);
    CHECK(std::string_view(first.data(), first.size()) == "Date,Close\n");
    std::array<char, 100> rest{};
    CHECK(bytes->read(rest) == 4);
    CHECK(bytes->read(rest) == 0);
    writer.join();
}

} // namespace sieve::intake
