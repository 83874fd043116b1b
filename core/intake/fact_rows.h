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
/// that tell the same the first is taken and the others reported; rows of a key go before those of
/// the former market.
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
        finish(records, file, report, rowsOf, keyOf, keyOf);
    }
    /// The same where several rows of one key may stand side by side (two dividends of one day):
    /// those of one `sameOf(row)`, which begins with the key, tell the same.
    template <class RowsOf, class KeyOf, class SameOf>
    void finish(Records& records, const std::string& file, IntakeReport& report, RowsOf rowsOf,
                KeyOf keyOf, SameOf sameOf)
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
                [&](const Entry& a, const Entry& b) { return sameOf(a.row) < sameOf(b.row); });
            merge(rowsOf(records[record]), begin, end, file, report, keyOf, sameOf);
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

    template <class KeyOf, class SameOf>
    void merge(std::vector<Row>& rows, std::size_t begin, std::size_t end, const std::string& file,
               IntakeReport& report, KeyOf keyOf, SameOf sameOf)
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
            if (i == begin ||
                sameOf(entries_[i].row) != sameOf(rows.back())) { // the last one taken
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
