#include "core/imports/table_file.h"

#include "core/base/day.h"
#include "core/exports/sheet.h"
#include "tests/own_folder.h"

#include <catch2/catch.hpp>
#include <fstream>
#include <random>
#include <zip.h>

namespace sieve::imports {

namespace {

using Rows = std::vector<std::vector<std::string>>;
using test::OwnFolder;

const char* const bookXml =
    "<workbook xmlns:r=\"x\"><workbookPr/><sheets>"
    "<sheet name=\"Quay\" sheetId=\"1\" r:id=\"rId7\"/><sheet name=\"b\" r:id=\"rId8\"/>"
    "</sheets></workbook>";
const char* const linksXml =
    "<Relationships><Relationship Id=\"rId8\" Target=\"worksheets/none.xml\"/>"
    "<Relationship Id=\"rId7\" Target=\"/xl/worksheets/mine.xml\"/></Relationships>";

/// A workbook made of these parts.
std::string zipped(const std::vector<std::pair<std::string, std::string>>& parts)
{
    const OwnFolder own;
    const auto path = own.path() / "made.xlsx";
    int fault = 0;
    zip_t* zip = zip_open(path.c_str(), ZIP_CREATE, &fault);
    REQUIRE(zip);
    for (const auto& [name, text] : parts)
        REQUIRE(zip_file_add(zip, name.c_str(), zip_source_buffer(zip, text.data(), text.size(), 0),
                             0) >= 0);
    REQUIRE(zip_close(zip) == 0);
    return own.read("made.xlsx");
}

std::string bookWith(const std::string& sheet, const std::string& book = bookXml)
{
    return zipped(
        {{"xl/workbook.xml", book},
         {"xl/_rels/workbook.xml.rels", linksXml},
         {"xl/sharedStrings.xml",
          "<sst><si><t>VRRA</t></si><si><r><t>two </t></r><r><rPr/><t>runs</t></r>"
          "<rPh><t>spoken</t></rPh></si></sst>"},
         {"xl/styles.xml", "<styleSheet><numFmts><numFmt numFmtId=\"170\" "
                           "formatCode=\"yyyy\\-mm\\-dd\"/><numFmt numFmtId=\"171\" "
                           "formatCode=\"0.0 &quot;days&quot;[Red]\"/></numFmts><cellXfs><xf "
                           "numFmtId=\"0\"/><xf numFmtId=\"14\"/><xf numFmtId=\"170\"/><xf "
                           "numFmtId=\"171\"/></cellXfs></styleSheet>"},
         {"xl/worksheets/mine.xml",
          "<worksheet><sheetData>" + sheet + "</sheetData></worksheet>"}});
}

} // namespace

TEST_CASE("Table: text with commas, semicolons or tabs", "[imports]")
{
    CHECK(tableOfText("a,b\r\n1,\"x, \"\"y\"\"\nz\"\n\n,\n2,\n")->rows ==
          Rows{{"a", "b"}, {"1", "x, \"y\"\nz"}, {"2", ""}});
    CHECK(tableOfText("a,b\n\n1,2\n")->lines == std::vector<std::size_t>{1, 3});
    CHECK(tableOfText("a;b\n1;2,5\n")->rows == Rows{{"a", "b"}, {"1", "2,5"}});
    CHECK(tableOfText("a\tb\n1\t2\n")->rows == Rows{{"a", "b"}, {"1", "2"}});
    CHECK(tableOfText("AAAA\nBBBB")->rows == Rows{{"AAAA"}, {"BBBB"}});
    CHECK(tableOfText("")->rows.empty());
    CHECK(tableOfText("'=1+1,'-x,'tis\n")->rows == Rows{{"=1+1", "-x", "'tis"}});
    const auto open = tableOfText("a,b\n1,\"never closed\n2,3\n");
    REQUIRE_FALSE(open);
    CHECK(open.error().where.line == 2);
    std::string many;
    for (std::size_t row = 0; row < mostRows + 5; ++row)
        many += "A\n";
    CHECK(tableOfText(many)->rows.size() == mostRows);
    CHECK(tableOfText(many)->isCut);
}

TEST_CASE("Table: JSON", "[imports]")
{
    CHECK(tableOfJson("[{\"symbol\":\"A\",\"price\":1.5},{\"price\":null,\"ok\":true}]")->rows ==
          Rows{{"symbol", "price", "ok"}, {"A", "1.5", ""}, {"", "", "true"}});
    CHECK_FALSE(tableOfJson("{}"));
    CHECK_FALSE(tableOfJson("[1]"));
    const auto broken = tableOfJson("[\n{\"a\": }]");
    REQUIRE_FALSE(broken);
    CHECK(broken.error().where.line == 2);
}

TEST_CASE("Table: a workbook, as this program and as others write it", "[imports]")
{
    const OwnFolder own;
    const auto path = own.path() / "own.xlsx";
    exports::writeWorkbook(path, {{"symbol", "added_on", "price", "why"},
                                  {{"VRRA.C", Day::fromSerial(19800), 12.34567, "=x"},
                                   {"KELP", std::monostate(), true, "é 🐟"}},
                                  {}});
    const auto ours = readTable(path);
    REQUIRE(ours);
    CHECK(ours->rows == Rows{{"symbol", "added_on", "price", "why"},
                             {"VRRA.C", Day::fromSerial(19800).iso(), "12.34567", "=x"},
                             {"KELP", "", "yes", "é 🐟"}});

    const std::string cells =
        "<row r=\"2\"><c r=\"B2\" t=\"s\"><v>0</v></c><c t=\"s\"><v>1</v></c>"
        "<c r=\"E2\" s=\"1\"><v>45292</v></c><c s=\"2\"><v>45292.75</v></c>"
        "<c s=\"3\"><v>7</v></c><c t=\"e\"><v>#N/A</v></c><c t=\"str\"><f>1</f><v>made</v></c>"
        "<c t=\"b\"><v>0</v></c><c t=\"inlineStr\"><is><t>in</t></is></c></row>"
        "<row><c/></row><row><c><v>1e-3</v></c></row>";
    const auto theirs = tableOfWorkbook(bookWith(cells));
    REQUIRE(theirs);
    CHECK(theirs->rows == Rows{{"", "VRRA", "two runs", "", "2024-01-01", "2024-01-01", "7", "",
                                "made", "no", "in"},
                               {"1e-3"}});
    CHECK(theirs->lines == std::vector<std::size_t>{2, 4});
    const auto since1904 = tableOfWorkbook(
        bookWith("<row><c s=\"1\"><v>0</v></c></row>",
                 "<workbook><workbookPr date1904=\"1\"/><sheets><sheet r:id=\"rId7\"/></sheets>"
                 "</workbook>"));
    REQUIRE(since1904);
    CHECK(since1904->rows == Rows{{"1904-01-01"}});
}

TEST_CASE("Table: a damaged file is told and nothing else happens", "[imports]")
{
    for (const std::string& bytes :
         {std::string("PK"), std::string("PK\x03\x04 no zip at all"), zipped({{"a.txt", "x"}}),
          zipped({{"xl/workbook.xml", "<"}, {"xl/_rels/workbook.xml.rels", ""}}),
          bookWith("<row><c t=\"s\"><v>99</v></c></row>"), bookWith("<row")}) {
        const auto read = tableOfWorkbook(bytes);
        REQUIRE_FALSE(read);
        CHECK_FALSE(read.error().problem.empty());
    }
    // Far columns and far rows cost nothing.
    const auto far = tableOfWorkbook(
        bookWith("<row r=\"99999999\"><c r=\"ZZZZZ1\"><v>1</v></c><c r=\"A1\"><v>2</v></c></row>"));
    REQUIRE(far);
    CHECK(far->rows.empty());
    const OwnFolder own;
    CHECK_FALSE(readTable(own.path() / "none.csv"));
    CHECK_FALSE(readTable(own.path()));
    // Any byte may be another one.
    const std::string whole = bookWith("<row><c t=\"s\"><v>0</v></c><c><v>5</v></c></row>");
    std::mt19937 random(5);
    for (int time = 0; time < 300; ++time) {
        std::string bytes = whole;
        for (int change = 0; change < 1 + time % 4; ++change)
            bytes[random() % bytes.size()] = static_cast<char>(random());
        (void)tableOfWorkbook(bytes.substr(0, bytes.size() - (time % 7 == 0 ? random() % 200 : 0)));
    }
}

} // namespace sieve::imports
