#include "core/base/csv_cell.h"
#include "core/exports/mail_file.h"
#include "core/watchlists/list_reading.h"

#include <cstdint>

// Lists as people have them: text, JSON and workbooks; cells that no sheet runs; addresses of
// mails.

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    using namespace sieve;
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    const auto table = text.starts_with("PK")  ? imports::tableOfWorkbook(text)
                       : text.starts_with('[') ? imports::tableOfJson(text)
                                               : imports::tableOfText(text);
    if (table) {
        if (table->rows.size() != table->lines.size())
            __builtin_trap();
        const auto read = watchlists::readList(*table, nullptr, Day::fromSerial(20000));
        if (read.entries.size() > table->rows.size())
            __builtin_trap(); // a row gives one entry at most
        for (const watchlists::Entry& entry : read.entries)
            if (entry.symbol.empty() || (entry.plan && !faultOf(*entry.plan).empty()) ||
                !watchlists::entryPageFromToml(toToml(entry.page)))
                __builtin_trap(); // what is taken can be kept
    }
    const std::string cell = harmlessCell(text);
    if (plainCell(cell) != text ||
        (!cell.empty() && std::string_view("=+-@\t\r").find(cell[0]) != std::string_view::npos))
        __builtin_trap();
    if (exports::faultOfAddress(text).empty()) {
        const std::string file =
            exports::toEml({std::string(text), std::string(text), "text", "<p>html</p>", {}, "id"});
        if (file.find("\nBcc:") != std::string::npos)
            __builtin_trap();
    }
    return 0;
}
