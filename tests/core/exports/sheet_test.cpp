#include "core/exports/sheet.h"

#include "core/base/missing.h"
#include "core/storage/file_aside.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>
#include <zlib.h>

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

/// A file of a ZIP archive, unpacked.
std::string partOf(const std::string& archive, const std::string& name)
{
    const auto number = [&](std::size_t at, std::size_t bytes) {
        std::size_t value = 0;
        for (std::size_t i = bytes; i-- > 0;)
            value = 256 * value + static_cast<unsigned char>(archive.at(at + i));
        return value;
    };
    const std::size_t entry = archive.rfind(name) - 46; // in the directory at the end
    const std::size_t header = number(entry + 42, 4);
    const std::size_t begin = header + 30 + number(header + 26, 2) + number(header + 28, 2);
    std::string text(number(entry + 24, 4), '\0');
    z_stream stream{};
    REQUIRE(inflateInit2(&stream, -MAX_WBITS) == Z_OK);
    std::string packed = archive.substr(begin, number(entry + 20, 4));
    stream.next_in = reinterpret_cast<Bytef*>(packed.data());
    stream.avail_in = static_cast<uInt>(packed.size());
    stream.next_out = reinterpret_cast<Bytef*>(text.data());
    stream.avail_out = static_cast<uInt>(text.size());
    CHECK(inflate(&stream, Z_FINISH) == Z_STREAM_END);
    inflateEnd(&stream);
    return text;
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

TEST_CASE("Workbook: a share is shown in percent, any other figure as it is", "[exports]")
{
    const test::OwnFolder own;
    const auto file = own.path() / "results.xlsx";
    Sheet sheet{{"price", "gain"}, {{12.5, 0.25}}};
    sheet.units = {Unit::Money, Unit::Percent};
    writeWorkbook(file, sheet);
    const std::string page = partOf(storage::readWhole(file), "xl/worksheets/sheet1.xml");
    const std::string styles = partOf(storage::readWhole(file), "xl/styles.xml");
    const auto formatOf = [&](const std::string& cell) {
        const std::size_t style = std::stoul(page.substr(page.find("s=\"", page.find(cell)) + 3));
        std::size_t at = styles.find("<cellXfs");
        for (std::size_t i = 0; i <= style; ++i)
            at = styles.find("numFmtId=\"", at + 1);
        const std::string id = styles.substr(at, styles.find('"', at + 10) + 1 - at);
        const std::size_t code = styles.find("formatCode=\"", styles.find("<numFmt " + id)) + 12;
        return styles.substr(code, styles.find('"', code) - code);
    };
    CHECK(formatOf("<c r=\"B2\"") == "0.0%");
    CHECK(formatOf("<c r=\"A2\"") == "#,##0.00##");
}

TEST_CASE("Workbook: columns are as wide as what stands in them", "[exports]")
{
    const test::OwnFolder own;
    const auto file = own.path() / "results.xlsx";
    writeWorkbook(file, Sheet{{"y", "n", "d", "t"},
                              {{true, 1.5, *Day::parse("2026-03-31"), std::string(30, 'a')}}});
    const std::string page = partOf(storage::readWhole(file), "xl/worksheets/sheet1.xml");
    const auto widthOf = [&](int column) {
        const std::size_t at =
            page.find("width=\"", page.find("<col min=\"" + std::to_string(column))) + 7;
        return std::stod(page.substr(at));
    };
    CHECK(widthOf(2) - widthOf(1) == Approx(12 - 6));
    CHECK(widthOf(3) - widthOf(1) == Approx(11 - 6));
    CHECK(widthOf(4) - widthOf(1) == Approx(30 - 6));
}

TEST_CASE("Workbook: a day is that day", "[exports]")
{
    const test::OwnFolder own;
    const auto file = own.path() / "results.xlsx";
    writeWorkbook(file, Sheet{{"on"}, {{*Day::parse("2026-03-31")}, {*Day::parse("2024-12-01")}}});
    const std::string page = partOf(storage::readWhole(file), "xl/worksheets/sheet1.xml");
    const auto valueOf = [&](const std::string& cell) {
        const std::size_t at = page.find("<v>", page.find("<c r=\"" + cell)) + 3;
        return page.substr(at, page.find("</v>", at) - at);
    };
    // Days since 1899-12-30, as all sheets count: 45292 is the first of 2024.
    CHECK(valueOf("A2") == std::to_string(45292 + 366 + 365 + 31 + 28 + 30));
    CHECK(valueOf("A3") == std::to_string(45292 + 335));
}

TEST_CASE("Sheet: a text that a spreadsheet would run is harmless", "[exports]")
{
    const Sheet sheet{{"note"},
                      {{std::string("=1+1")},
                       {std::string("@SUM(A1)")},
                       {std::string("-cmd")},
                       {std::string("a=b")},
                       {-2.5}}};
    CHECK(toCsv(sheet) == "note\n'=1+1\n'@SUM(A1)\n'-cmd\na=b\n-2.5\n");
    CHECK(toTabs(sheet) == toCsv(sheet));
}

} // namespace sieve::exports
