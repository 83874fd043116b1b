#pragma once

#include "core/intake/price_layout.h"

#include <array>
#include <string>
#include <string_view>
#include <vector>

namespace sieve::intake {

/// What a layout makes of the first rows of a file, for a person who is choosing one.
struct PricePreview {
    struct Cell {
        std::string
            text; ///< as read: a day in ISO, a figure, or what stands there if it is neither
        bool isRead = true;
    };
    struct Row {
        std::array<Cell, priceColumnCount> cells;
        bool isRead = true; ///< all that it needs could be read
    };
    std::vector<std::string> headings; ///< of the file under this separator
    std::vector<Row> rows;
    std::size_t unread = 0; ///< rows
};

/// Reads up to `mostRows` rows of a sample.
PricePreview previewOf(std::string_view sample, const PriceLayout& layout,
                       std::size_t mostRows = 40);

} // namespace sieve::intake
