#include "core/intake/news.h"
#include "tests/fuzz/own_files.h"

// Feeds of news.

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    using namespace sieve;
    fuzz::folder().write("news/feed.xml", fuzz::textOf(data, size));
    intake::Records records;
    records.add("KELP.C");
    intake::IntakeReport report;
    intake::readNews(fuzz::folder().path(), records, report, {});
    report.finish();
    const std::string bytes = market::packed(records[0].notices);
    if (market::unpackedNotices(std::as_bytes(std::span(bytes))).news.size() !=
        records[0].notices.news.size())
        __builtin_trap(); // what is packed can be unpacked
    (void)market::unpackedNotices(std::as_bytes(std::span(data, size)));
    return 0;
}
