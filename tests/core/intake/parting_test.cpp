#include "core/intake/kept_files.h"
#include "core/intake/take_in.h"
#include "demo_market/dataset.h"
#include "tests/own_folder.h"

#include <algorithm>
#include <catch2/catch.hpp>
#include <fmt/format.h>
#include <map>
#include <random>
#include <sstream>

// Datasets cut into rows: how these are spread over a base and updates, in which order they stand
// and whether some stand twice changes nothing of the market.

namespace sieve::intake {

using test::OwnFolder;

namespace {

namespace fs = std::filesystem;

/// A table's header and rows; a file that is none is one row without a header.
struct File {
    std::string header;
    std::vector<std::string> rows;
};
using Files = std::map<std::string, File>;

/// Every seventh instrument in another currency, with rates of some years.
void addOtherCurrency(Files& files)
{
    std::vector<std::string>& listings = files.at("instruments.csv").rows;
    for (std::size_t i = 0; i < listings.size(); i += 7)
        if (const std::size_t place = listings[i].find(",vl,"); place != std::string::npos)
            listings[i].replace(place, 4, ",dn,");
    File& rates = files["currency_rates.csv"];
    rates.header = "currency,date,rate\n";
    for (int day = 0; day < 400; ++day)
        for (const char* currency : {"dn", "zz"})
            rates.rows.push_back(fmt::format("{},{},{}\n", currency,
                                             Day::parse("2021-01-01")->plusDays(5 * day).iso(),
                                             0.4 + 0.001 * (day % 37)));
}

/// A small demo market without its minutes, as its files.
const Files& filesOfIsles()
{
    static const Files files = [] {
        const OwnFolder folder;
        demo_market::writeDataset(demo_market::makeMarket(7, demo_market::Extent::Small),
                                  folder.path(), 0);
        Files all;
        for (const fs::path& path : filesOf({folder.path(), Source::Form::Dataset})) {
            const std::string name = path.lexically_relative(folder.path()).string();
            std::istringstream text(folder.read(name));
            File& file = all[name];
            if (path.extension() != ".csv") {
                file.rows.push_back(text.str());
                continue;
            }
            std::string line;
            std::getline(text, line);
            file.header = line + "\n";
            while (std::getline(text, line))
                file.rows.push_back(line + "\n");
        }
        addOtherCurrency(all);
        return all;
    }();
    return files;
}

void write(const OwnFolder& folder, const Files& files)
{
    for (const auto& [name, file] : files) {
        std::string text = file.header;
        for (const std::string& row : file.rows)
            text += row;
        folder.write(name, text);
    }
}

IntakeReport takenIn(const OwnFolder& source, const OwnFolder& market, bool isUpdate)
{
    const auto report = takeIn({source.path(), market.path(), {}, isUpdate});
    if (!report)
        FAIL(sentence(report.error()));
    return *report;
}

const std::string& wholeMarket()
{
    static const std::string bytes = [] {
        const OwnFolder source;
        const OwnFolder market;
        write(source, filesOfIsles());
        takenIn(source, market, false);
        return market.read("market.sieve");
    }();
    return bytes;
}

} // namespace

TEST_CASE("Parting: any spreading over a base and updates gives the same market", "[intake]")
{
    std::mt19937 random(static_cast<unsigned>(GENERATE(range(1, 5))));
    std::array<Files, 3> parts;
    for (const auto& [name, file] : filesOfIsles()) {
        // Who is listed must be known before what is told of him; holidays need their exchange.
        const bool isFirst = name == "dataset.toml" || name == "instruments.csv" ||
                             name == "renames.csv" || name == "holidays.csv";
        for (const std::string& row : file.rows) {
            const std::size_t part = isFirst ? 0 : random() % 3;
            File& into = parts.at(part)[name];
            into.header = file.header;
            into.rows.push_back(row);
        }
    }
    const OwnFolder market;
    for (std::size_t part = 0; part < parts.size(); ++part) {
        const OwnFolder source;
        write(source, parts.at(part));
        takenIn(source, market, part > 0);
    }
    CHECK((market.read("market.sieve") == wholeMarket())); // not printed when it fails
}

TEST_CASE("Parting: the order of rows, and rows told twice, change the report alone", "[intake]")
{
    std::mt19937 random(static_cast<unsigned>(GENERATE(range(1, 4))));
    Files files = filesOfIsles();
    for (auto& [name, file] : files) {
        if (file.header.empty())
            continue;
        for (std::size_t twice = file.rows.size() / 50; twice > 0; --twice)
            file.rows.push_back(file.rows[random() % file.rows.size()]);
        std::shuffle(file.rows.begin(), file.rows.end(), random);
    }
    const OwnFolder source;
    const OwnFolder market;
    write(source, files);
    const IntakeReport report = takenIn(source, market, false);
    CHECK(report.rowsLeftOut > 100);
    CHECK((market.read("market.sieve") == wholeMarket()));
}

} // namespace sieve::intake
