#include "core/base/spelling.h"

#include <algorithm>
#include <array>
#include <numeric>
#include <utility>
#include <vector>

namespace sieve {

std::size_t slipsBetween(std::string_view a, std::string_view b, std::size_t enough)
{
    const std::size_t longer = std::max(a.size(), b.size());
    if (longer - std::min(a.size(), b.size()) >= enough)
        return enough; // so many letters to add or drop alone
    static thread_local std::array<std::vector<std::size_t>, 3> rows; // two before, before, now
    for (auto& row : rows)
        row.resize(b.size() + 1);
    std::iota(rows[1].begin(), rows[1].end(), std::size_t{0});
    for (std::size_t i = 1; i <= a.size(); ++i) {
        std::size_t least = rows[2][0] = i;
        for (std::size_t j = 1; j <= b.size(); ++j) {
            std::size_t slips = std::min({rows[1][j] + 1, rows[2][j - 1] + 1,
                                          rows[1][j - 1] + (a[i - 1] == b[j - 1] ? 0U : 1U)});
            if (i > 1 && j > 1 && a[i - 1] == b[j - 2] && a[i - 2] == b[j - 1])
                slips = std::min(slips, rows[0][j - 2] + 1);
            rows[2][j] = slips;
            least = std::min(least, slips);
        }
        if (least > enough) // a swap reaches back one row more
            return enough;
        std::swap(rows[0], rows[1]);
        std::swap(rows[1], rows[2]);
    }
    return std::min(rows[1][b.size()], enough);
}

} // namespace sieve
