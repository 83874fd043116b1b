#include "core/screens/screen_files.h"
#include "core/screens/starter.h"
#include "core/storage/file_aside.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>

namespace sieve::screens {

namespace fs = std::filesystem;
using test::OwnFolder;

TEST_CASE("Screen files: several go out and come back, comments and all", "[screens]")
{
    const OwnFolder own;
    const auto files = writeScreens(own.path(), starterScreens());
    REQUIRE(files.size() == starterScreens().size());
    const ReadScreens read = readScreens(files);
    CHECK(read.problems.empty());
    CHECK(read.screens == starterScreens());
}

TEST_CASE("Screen files: no file is written over, and any name makes a file", "[screens]")
{
    const OwnFolder own;
    std::vector<Screen> screens(4);
    screens[0].name = screens[1].name = "Dips / rises: 5 %";
    screens[2].name = "\xD7\xA9\xD7\x9C\xD7\x95\xD7\x9D"; // right to left
    screens[3].name = std::string(400, 'n');
    const auto files = writeScreens(own.path(), screens);
    CHECK(files[0].filename() == "dips_rises_5.toml");
    CHECK(files[1].filename() == "dips_rises_5_2.toml");
    CHECK(files[2].filename() == "screen.toml");
    CHECK(files[3].filename().string().size() < 120);
    const ReadScreens read = readScreens(files);
    CHECK(read.screens == screens);
}

TEST_CASE("Screen files: one that is damaged keeps none of the others back", "[screens]")
{
    const OwnFolder own;
    Screen good;
    good.name = "Good";
    const fs::path whole = writeScreens(own.path(), std::span(&good, 1)).front();
    storage::writeWhole(own.path() / "newer.toml", "name = \"New\"\nlunar_phase = 3\n");
    storage::writeWhole(own.path() / "cut.toml", "name = \"Cut\"\n[[criteria]]\ntext = \"clo");
    storage::writeWhole(own.path() / "novel.toml", std::string(2 << 20, 'x'));
    const fs::path folder = own.path();
    const std::vector<fs::path> files{folder / "newer.toml",
                                      folder / "cut.toml",
                                      folder / "novel.toml",
                                      folder / "gone.toml",
                                      folder,
                                      whole};
    const ReadScreens read = readScreens(files);
    REQUIRE(read.screens.size() == 1);
    CHECK(read.screens[0] == good);
    REQUIRE(read.problems.size() == 5);
    CHECK(read.problems[0].find("newer.toml: Line 2") != std::string::npos);
    CHECK(read.problems[0].find("lunar_phase") != std::string::npos);
    CHECK(read.problems[1].find("cut.toml: Line 3") != std::string::npos);
    CHECK(read.problems[2].find("too large") != std::string::npos);
    CHECK(read.problems[3].find("gone.toml") != std::string::npos);
}

TEST_CASE("Screen files: a free name is found", "[screens]")
{
    std::vector<Screen> taken(2);
    taken[0].name = "Dips";
    taken[1].name = "Dips 2";
    CHECK(freeName("Dips", taken) == "Dips 3");
    CHECK(freeName("Rises", taken) == "Rises");
}

} // namespace sieve::screens
