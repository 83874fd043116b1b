#include "core/intake/filings.h"
#include "tests/fuzz/own_files.h"

// Bulk filings: submissions, then after a line of dashes the numbers.

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    using namespace sieve;
    const std::string text = fuzz::textOf(data, size);
    const std::size_t dashes = text.find("\n---\n");
    const test::OwnFolder& folder = fuzz::folder();
    folder.write("filings/companies.csv", "company_number,symbol\n4711,KELP.C\n");
    folder.write("filings/sub.txt", text.substr(0, dashes));
    folder.write("filings/num.txt",
                 dashes == std::string::npos ? std::string() : text.substr(dashes + 5));
    intake::Records records;
    records.add("KELP.C");
    intake::IntakeReport report;
    const std::vector<std::vector<market::Action>> splits{
        {{*Day::parse("2024-06-03"), market::ActionKind::Split, 2.0}}};
    intake::readFilings(folder.path(), records, splits, report, {});
    for (const market::StatementRow& row : records[0].statements)
        if (row.item >= market::statementItems().size() || row.periodEnd > row.knownOn)
            __builtin_trap();
    return 0;
}
