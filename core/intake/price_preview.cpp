#include "core/intake/price_preview.h"

#include "core/intake/csv.h"
#include "core/intake/rows.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::intake {

namespace {

PricePreview::Cell cellOf(std::string_view text, PriceColumn column, const PriceLayout& layout)
{
    if (column == PriceColumn::Symbol)
        return {shown(text), !text.empty()};
    if (column == PriceColumn::Time) {
        const auto day = parseDay(text, layout.dayForm);
        return day ? PricePreview::Cell{day->iso(), true} : PricePreview::Cell{shown(text), false};
    }
    const bool mayBeEmpty = column >= PriceColumn::AdjustedClose;
    if (text.empty())
        return {{}, mayBeEmpty};
    const auto figure =
        column == PriceColumn::Split ? parseSplit(text, layout) : parseFigure(text, layout);
    return figure ? PricePreview::Cell{fmt::format("{}", *figure), true}
                  : PricePreview::Cell{shown(text), false};
}

} // namespace

PricePreview previewOf(std::string_view sample, const PriceLayout& layout, std::size_t mostRows)
{
    PricePreview preview;
    const std::size_t end = sample.rfind('\n'); // the last line of a sample may be cut anywhere
    CsvReader reader(end == std::string_view::npos ? sample : sample.substr(0, end + 1),
                     layout.separator);
    if (!reader.next())
        return preview;
    for (const std::string_view heading : reader.cells())
        preview.headings.push_back(shown(heading));
    std::array<std::size_t, priceColumnCount> places{};
    for (std::size_t i = 0; i < priceColumnCount; ++i)
        places.at(i) = static_cast<std::size_t>(
            std::ranges::find(preview.headings, layout.headings.at(i)) - preview.headings.begin());
    while (preview.rows.size() < mostRows && reader.next()) {
        PricePreview::Row row;
        for (std::size_t i = 0; i < priceColumnCount; ++i) {
            const auto column = static_cast<PriceColumn>(i);
            const bool isNeeded = column == PriceColumn::Time || column == PriceColumn::Close;
            if (layout.headings.at(i).empty() && !isNeeded)
                continue;
            row.cells.at(i) = places.at(i) < reader.cells().size()
                                  ? cellOf(reader.cells()[places.at(i)], column, layout)
                                  : PricePreview::Cell{"", false};
            row.isRead = row.isRead && row.cells.at(i).isRead;
        }
        preview.unread += row.isRead ? 0 : 1;
        preview.rows.push_back(std::move(row));
    }
    return preview;
}

} // namespace sieve::intake
