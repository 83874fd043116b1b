#include "core/intake/bar_file.h"
#include "core/intake/price_preview.h"
#include "core/intake/rows.h"

#include <array>

// Tables of every kind: cells, rows by column names, recognised layouts, previews.

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    using namespace sieve::intake;
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    for (const char separator : {',', ';', '\t'}) {
        CsvReader reader(text, separator);
        std::size_t bytes = 0;
        while (reader.next())
            for (const std::string_view cell : reader.cells())
                bytes += cell.size();
        if (bytes > size)
            __builtin_trap(); // cells cannot hold more than the text
    }
    IntakeReport report;
    constexpr std::array<std::string_view, 2> required{"symbol", "date"};
    Rows rows("fuzz.csv", CsvReader(text), required, report);
    while (rows.next()) {
        (void)rows.text("symbol");
        (void)rows.day("date", Cell::MayBeEmpty);
        (void)rows.figure("value", Cell::Required);
    }
    report.finish();
    (void)reportFromJson(toJson(report));
    if (const auto layout = recogniseLayout(text))
        (void)previewOf(text, *layout);
    return 0;
}
