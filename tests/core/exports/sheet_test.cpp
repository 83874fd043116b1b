#include "core/exports/sheet.h"

#include "core/base/missing.h"
#include "core/storage/file_aside.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>

namespace sieve::exports {

namespace {

Sheet sample()
{
    return {{"symbol", "gain", "note", "on", "next"},
            {{std::string("KELP.C"), 0.125, std::string("a\t\"b\",\nc"), true,
              *Day::parse("2026-03-31")},
             {std::string("TIDE.T"), Cell(), std::string(), false, Cell()}},
            {Unit::Plain, Unit::Percent}};
}

} // namespace

TEST_CASE("Sheet: CSV, tabs and JSON hold the same cells", "[exports]")
{
    CHECK(toCsv(sample()) == "symbol,gain,note,on,next\n"
                             "KELP.C,0.125,\"a\t\"\"b\"\",\nc\",yes,2026-03-31\n"
                             "TIDE.T,,,no,\n");
    CHECK(toTabs(sample()) == "symbol\tgain\tnote\ton\tnext\n"
                              "KELP.C\t0.125\ta \"b\", c\tyes\t2026-03-31\n"
                              "TIDE.T\t\t\tno\t\n");
    CHECK(toJson(sample()).find("{\"symbol\": \"TIDE.T\", \"gain\": null, \"note\": \"\", \"on\": "
                                "false, \"next\": null}") != std::string::npos);
    CHECK(toCsv(Sheet{{"a"}, {}}) == "a\n");
}

TEST_CASE("Workbook: is written whole or not at all", "[exports]")
{
    const test::OwnFolder own;
    const auto file = own.path() / "results.xlsx";
    writeWorkbook(file, sample());
    const std::string bytes = storage::readWhole(file);
    CHECK(bytes.starts_with("PK")); // an archive
    CHECK(bytes.find("xl/worksheets/sheet1.xml") != std::string::npos);
    CHECK_FALSE(std::filesystem::exists(own.path() / "results.xlsx.part"));
    CHECK_THROWS_AS(writeWorkbook(own.path() / "no folder" / "results.xlsx", sample()),
                    std::system_error);
    CHECK(storage::readWhole(file) == bytes);
    writeWorkbook(file, Sheet{{"symbol"}, {}}); // over it, and without a row
    CHECK(storage::readWhole(file) != bytes);
}

} // namespace sieve::exports
