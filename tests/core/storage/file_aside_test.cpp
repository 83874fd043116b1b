#include "core/storage/file_aside.h"
#include "tests/own_folder.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <system_error>
#include <vector>

namespace sieve::storage {

namespace fs = std::filesystem;

namespace {

std::vector<std::string> filesOf(const fs::path& folder)
{
    std::vector<std::string> names;
    for (const auto& entry : fs::directory_iterator(folder))
        names.push_back(entry.path().filename().string());
    std::ranges::sort(names);
    return names;
}

std::span<const std::byte> bytesOf(std::string_view text)
{
    return std::as_bytes(std::span(text));
}

/// What an error says, with the path; empty where there is none.
template <class Act> std::string errorOf(Act act)
{
    try {
        act();
    } catch (const std::system_error& error) {
        return error.what();
    }
    return {};
}

} // namespace

TEST_CASE("File aside: takes its place when it is whole, and not before", "[storage]")
{
    const test::OwnFolder folder;
    const fs::path place = folder.path() / "list.txt";
    writeWhole(place, "former");
    {
        FileAside file(place);
        file.write("new ");
        file.write("one");
        CHECK(file.size() == 7);
        CHECK(readWhole(place) == "former");
        file.takePlace();
    }
    CHECK(readWhole(place) == "new one");
    CHECK(filesOf(folder.path()) == std::vector<std::string>{"list.txt"});
}

TEST_CASE("File aside: one that is given up leaves the former and nothing beside it", "[storage]")
{
    const test::OwnFolder folder;
    const fs::path place = folder.path() / "list.txt";
    {
        FileAside file(place);
        file.write("half of i");
    }
    CHECK(filesOf(folder.path()).empty());
    writeWhole(place, "former");
    try {
        FileAside file(place);
        file.write("half of i");
        throw std::runtime_error("something else went wrong");
    } catch (const std::runtime_error&) {
    }
    CHECK(readWhole(place) == "former");
    CHECK(filesOf(folder.path()) == std::vector<std::string>{"list.txt"});
}

TEST_CASE("File aside: small and large pieces stand in the order in which they came", "[storage]")
{
    const test::OwnFolder folder;
    const fs::path place = folder.path() / "pieces";
    std::string all;
    FileAside file(place);
    for (const std::size_t size : {3U, 1'000'000U, 200'000U, 0U, 2'500'000U, 1U, 1'048'576U, 5U}) {
        const std::string piece(size, static_cast<char>('a' + all.size() % 26));
        file.write(piece);
        all += piece;
        REQUIRE(file.size() == all.size());
    }
    file.takePlace();
    CHECK(readWhole(place) == all);
}

TEST_CASE("File aside: fills up with zeros, and its begin can be told last", "[storage]")
{
    const test::OwnFolder folder;
    const fs::path place = folder.path() / "aligned";
    FileAside file(place);
    file.write("????body");
    file.align(8);
    CHECK(file.size() == 8); // nothing to fill
    file.write("tail");
    file.align(16);
    CHECK(file.size() == 16);
    file.writeFirst(bytesOf("head"));
    file.write("end");
    file.takePlace();
    CHECK(readWhole(place) == std::string("headbodytail\0\0\0\0end", 19));
}

TEST_CASE("File aside: what cannot be written is told with its path", "[storage]")
{
    const test::OwnFolder folder;
    const fs::path absent = folder.path() / "no folder" / "list.txt";
    CHECK(errorOf([&] { writeWhole(absent, "x"); }).find("no folder") != std::string::npos);
    CHECK(errorOf([&] { readWhole(absent); }).find("no folder") != std::string::npos);

    const fs::path taken = folder.path() / "taken"; // a folder stands where the file should
    fs::create_directories(taken / "full");
    CHECK(errorOf([&] { writeWhole(taken, "x"); }).find("taken") != std::string::npos);
    CHECK(filesOf(folder.path()) == std::vector<std::string>{"taken"});
}

TEST_CASE("File aside: a full disk is told, and the former file stays", "[storage]")
{
    if (!fs::exists("/dev/full"))
        return;
    const test::OwnFolder folder;
    const fs::path place = folder.path() / "list.txt";
    writeWhole(place, "former");
    for (const std::size_t size : {std::size_t{7}, std::size_t{3'000'000}}) {
        fs::create_symlink("/dev/full", folder.path() / "list.txt.part"); // no write to it succeeds
        const std::string error = errorOf([&] { writeWhole(place, std::string(size, 'x')); });
        CHECK(error.find("list.txt.part") != std::string::npos);
        CHECK(readWhole(place) == "former");
        CHECK(filesOf(folder.path()) == std::vector<std::string>{"list.txt"});
    }
}

} // namespace sieve::storage
