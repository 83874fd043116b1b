#pragma once

#include "core/base/missing.h"
#include "core/intake/csv.h"

#include <catch2/catch.hpp>
#include <fstream>
#include <map>
#include <sstream>
#include <string>
#include <vector>

namespace sieve::test {

/// A CSV of tests/reference by column; empty cells are missing.
class ReferenceTable {
public:
    explicit ReferenceTable(const std::string& path)
    {
        std::ifstream file(std::string(SIEVE_TEST_FOLDER) + "/reference/" + path);
        REQUIRE(file);
        std::stringstream text;
        text << file.rdbuf();
        const std::string whole = text.str();
        intake::CsvReader reader(whole);
        REQUIRE(reader.next());
        const std::vector<std::string> names(reader.cells().begin(), reader.cells().end());
        while (reader.next())
            for (std::size_t i = 0; i < names.size(); ++i) {
                texts_[names[i]].emplace_back(reader.cells()[i]);
                columns_[names[i]].push_back(
                    intake::parseFigure(reader.cells()[i]).value_or(missing));
            }
    }
    const std::vector<double>& operator[](const std::string& name) const
    {
        return columns_.at(name);
    }
    const std::vector<std::string>& texts(const std::string& name) const { return texts_.at(name); }

private:
    std::map<std::string, std::vector<double>> columns_;
    std::map<std::string, std::vector<std::string>> texts_;
};

/// Every cell: missing where expected, else within 1e-9 of max(|want|, scale[row]).
inline void checkAgrees(const std::vector<double>& got, const std::vector<double>& want,
                        const std::vector<double>& scale)
{
    REQUIRE(got.size() == want.size());
    for (std::size_t row = 0; row < want.size(); ++row) {
        const bool agrees = isMissing(want[row])
                                ? isMissing(got[row])
                                : std::fabs(got[row] - want[row]) <=
                                      1e-9 * std::max(std::fabs(want[row]), scale[row]);
        if (agrees)
            continue;
        INFO("row " << row << ": got " << got[row] << ", want " << want[row]);
        REQUIRE(agrees);
    }
}

} // namespace sieve::test
