#pragma once

#include "core/intake/intake_report.h"
#include "core/intake/records.h"

#include <algorithm>
#include <cstdint>
#include <functional>
#include <string>
#include <utility>
#include <vector>

namespace sieve::intake {

/// Gathers the rows of one table for all instruments, then brings them into the records: of rows
/// with one key the first is taken and the others reported; it goes before one of the former
/// market.
template <class Row> class FactRows {
public:
    void add(std::uint32_t record, std::size_t line, Row row)
    {
        entries_.push_back({record, static_cast<std::uint32_t>(line), std::move(row)});
    }

    /// `rowsOf(record)` is the vector that they belong into, `keyOf(row)` what makes two of them
    /// tell the same thing.
    template <class RowsOf, class KeyOf> void finish(Records& records, const std::string& file,
                                                     IntakeReport& report, RowsOf rowsOf,
                                                     KeyOf keyOf)
    {
        // First by record, which mostly is how the file runs, then each record's own by key.
        if (!std::ranges::is_sorted(entries_, {}, &Entry::record))
            std::ranges::stable_sort(entries_, {}, &Entry::record);
        for (std::size_t begin = 0; begin < entries_.size();) {
            const std::uint32_t record = entries_[begin].record;
            std::size_t end = begin;
            while (end < entries_.size() && entries_[end].record == record)
                ++end;
            std::stable_sort(
                entries_.begin() + static_cast<std::ptrdiff_t>(begin),
                entries_.begin() + static_cast<std::ptrdiff_t>(end),
                [&](const Entry& a, const Entry& b) { return keyOf(a.row) < keyOf(b.row); });
            merge(rowsOf(records[record]), begin, end, file, report, keyOf);
            begin = end;
        }
        entries_ = {};
    }

private:
    struct Entry {
        std::uint32_t record;
        std::uint32_t line;
        Row row;
    };

    template <class KeyOf> void merge(std::vector<Row>& rows, std::size_t begin, std::size_t end,
                                      const std::string& file, IntakeReport& report, KeyOf keyOf)
    {
        const auto from = entries_.begin() + static_cast<std::ptrdiff_t>(begin);
        const auto to = entries_.begin() + static_cast<std::ptrdiff_t>(end);
        std::erase_if(rows, [&](const Row& former) {
            const auto known =
                std::lower_bound(from, to, keyOf(former), [&](const Entry& entry, const auto& key) {
                    return keyOf(entry.row) < key;
                });
            return known != to && keyOf(known->row) == keyOf(former);
        });
        rows.reserve(rows.size() + (end - begin));
        for (std::size_t i = begin; i < end; ++i) {
            if (i == begin || keyOf(entries_[i].row) != keyOf(rows.back())) { // the last one taken
                rows.push_back(std::move(entries_[i].row));
                continue;
            }
            ++report.rowsLeftOut;
            report.add(
                {file, entries_[i].line, "", "", "an earlier row tells the same", "row left out"});
        }
    }

    std::vector<Entry> entries_;
};

} // namespace sieve::intake
