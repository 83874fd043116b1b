#include "core/studies/report.h"

#include "tests/core/library/made_work.h"

#include <catch2/catch.hpp>

namespace sieve::studies {

TEST_CASE("Report: an answer with all that it rests on, and texts as they are", "[studies]")
{
    KeptRun run = *test::keptRun(5, "Mine & <yours>");
    run.figures.push_back({"costs", Unit::Money, -12345.4});
    run.notes = "one\n<b>two</b>";
    const ReportPicture picture{"Worth \"day\" by day", "data:image/png;base64,AAAA", 700};
    ReportTable table{"Months", {{"month", "change"}, {}, {Unit::Plain, Unit::Percent}}};
    for (std::size_t row = 0; row < mostReportRows + 7; ++row)
        table.sheet.rows.push_back({std::string("m") + std::to_string(row), 0.125});
    const std::string html = reportOf(run, std::span(&picture, 1), std::span(&table, 1));
    for (const char* part : {"Mine &amp; &lt;yours&gt;",
                             "A portfolio by rule · Test &quot;market&quot; · as known on "
                             "Mon 3 Jun 2024",
                             "100 k became 120 k.",
                             "<li>Few trades.</li>",
                             "return a year",
                             "-12,345",
                             "30.0\u00a0%",
                             ">–<",
                             "one<br/>&lt;b&gt;two&lt;/b&gt;",
                             "Worth &quot;day&quot; by day",
                             "src=\"data:image/png;base64,AAAA\"",
                             ">m59<",
                             "and 7 more",
                             "step 1: criteria",
                             "close &gt; 1",
                             "Stocks that were delisted",
                             "Wise Sieve 1.0",
                             "0123456789abcdef",
                             "fedcba9876543210",
                             "2024-06-04"}) {
        INFO(part);
        CHECK(html.find(part) != std::string::npos);
    }
    CHECK(html.find(">m60<") == std::string::npos);
    CHECK(html.find("<b>") == std::string::npos);
    for (const auto kind :
         {KeptRun::Kind::Followed, KeptRun::Kind::Standings, KeptRun::Kind::Portfolio})
        CHECK(assumptionsOf(kind).size() >= 4);
    run.name.clear();
    CHECK(titleOf(run) == "A condition without a name");
}

} // namespace sieve::studies
