#include "core/storage/market_file.h"
#include "tests/core/made_market.h"
#include "tests/own_folder.h"
#include "tests/right_sums.h"

#include <catch2/catch.hpp>
#include <cstring>

namespace sieve::storage {

namespace {

/// Rows without padding: equal rows are equal bytes, missing figures too.
template <class Row> bool haveSameBytes(std::span<const Row> a, std::span<const Row> b)
{
    return std::ranges::equal(std::as_bytes(a), std::as_bytes(b));
}

const std::vector<market::Currency> madeCurrencies{
    {"dn", {{test::day("2024-01-02"), 0.5}, {test::day("2024-01-03"), 0.25}}}, {"zz", {}}};

void write(const test::OwnFolder& folder, std::vector<market::InstrumentRecord> records)
{
    MarketFileWriter writer(folder.path());
    std::ranges::sort(records, {}, [](const auto& record) { return record.instrument.symbol; });
    for (market::InstrumentRecord& record : records) {
        market::sortRows(record);
        writer.add(barBlock(record.bars.view()), barBlock(market::MinuteBarsView()));
    }
    writer.finish({"Made", "1", "vl", "S100", {}, madeCurrencies}, records);
}

/// Reads every item of every statement on some days: it need not be right, but must end well.
void readStatements(const market::Market& market)
{
    for (std::size_t i = 0; i < market.size(); ++i)
        for (std::size_t item = 0; item < market::statementItemCount; ++item)
            for (const Day day : {market.sessions().front(), market.sessions().back()})
                for (const auto period : {market::Period::Quarter, market::Period::Year})
                    static_cast<void>(market.statements(i).figure(item, period, 1, day));
}

} // namespace

TEST_CASE("Market file: what is written is what is mapped", "[storage]")
{
    const test::OwnFolder folder;
    const auto records = test::eventfulRecords();
    write(folder, records);
    const auto opened = openMarket(folder.path());
    REQUIRE(opened);
    const market::MarketPtr mapped = *opened;
    const market::MarketPtr made = test::marketOf(records);
    REQUIRE(mapped->size() == made->size());
    CHECK(mapped->description().benchmark == "S100");
    CHECK(mapped->description().currencies == madeCurrencies);
    CHECK(std::ranges::equal(mapped->sessions(), made->sessions()));
    for (std::size_t i = 0; i < made->size(); ++i) {
        INFO(made->instrument(i).symbol);
        CHECK(mapped->instrument(i).symbol == made->instrument(i).symbol);
        CHECK(mapped->instrument(i).delistedOn == made->instrument(i).delistedOn);
        CHECK(std::ranges::equal(mapped->bars(i).days, made->bars(i).days));
        CHECK(std::ranges::equal(mapped->bars(i).high, made->bars(i).high));
        CHECK(std::ranges::equal(mapped->bars(i).volume, made->bars(i).volume));
        CHECK(std::ranges::equal(mapped->actions(i), made->actions(i)));
        CHECK(haveSameBytes(mapped->statements(i).rows(), made->statements(i).rows()));
        for (std::size_t item = 0; item < market::statementItemCount; ++item)
            CHECK(mapped->statements(i).rowsOf(item, market::Period::Quarter).size() ==
                  made->statements(i).rowsOf(item, market::Period::Quarter).size());
        CHECK(std::ranges::equal(mapped->statements(i).reports(), made->statements(i).reports()));
        CHECK(haveSameBytes(mapped->shares(i), made->shares(i)));
        CHECK(haveSameBytes(mapped->estimates(i), made->estimates(i)));
        CHECK(haveSameBytes(mapped->owners(i), made->owners(i)));
        CHECK(haveSameBytes(mapped->calendar(i), made->calendar(i)));
        CHECK(mapped->notices(i).ratings == made->notices(i).ratings);
        CHECK(mapped->notices(i).news == made->notices(i).news);
        CHECK(mapped->instrument(i).memberships == made->instrument(i).memberships);
        CHECK(mapped->instrument(i).formerSymbols == made->instrument(i).formerSymbols);
    }
    CHECK(verifyMarket(folder.path()));
}

TEST_CASE("Market file: bytes depend on what the market holds alone", "[storage]")
{
    const test::OwnFolder one;
    const test::OwnFolder other;
    auto records = test::eventfulRecords();
    write(one, records);
    std::ranges::reverse(records);
    std::ranges::reverse(records[3].statements);
    write(other, records);
    CHECK(one.read("market.sieve") == other.read("market.sieve"));
}

TEST_CASE("Market file: damage anywhere is noticed, and never a crash", "[storage]")
{
    const test::OwnFolder folder;
    auto records = test::eventfulRecords();
    records.resize(2);
    write(folder, records);
    const std::string whole = folder.read("market.sieve");
    std::size_t seenOnOpening = 0;
    std::size_t places = 0;
    std::set<std::size_t> told; // whose bars are damaged
    for (std::size_t at = 0; at < whole.size(); at += 41) {
        std::string damaged = whole;
        damaged[at] = static_cast<char>(damaged[at] ^ 0x40);
        folder.write("market.sieve", damaged);
        const auto opened = openMarket(folder.path());
        const bool isOpened = static_cast<bool>(opened);
        if (isOpened)
            readStatements(**opened);
        const auto verified = verifyMarket(folder.path());
        const bool isVerified = static_cast<bool>(verified);
        if (!isVerified)
            if (const auto& problem = verified.error().problem;
                problem.find("of instrument ") != problem.npos)
                told.insert(std::stoul(problem.substr(problem.find("of instrument ") + 14)));
        ++places;
        seenOnOpening += isOpened ? 0 : 1;
        // Zeros that only fill up to the next part carry no sum, and nobody reads them.
        if (isVerified)
            CHECK(whole[at] == '\0');
    }
    REQUIRE_FALSE(told.empty());
    CHECK(*told.begin() == 1);
    CHECK(*told.rbegin() == records.size());
    CHECK(seenOnOpening > 0);
    CHECK(seenOnOpening < places); // bars are looked at by verifyMarket, not on opening
    for (std::size_t cut = 0; cut < whole.size(); cut += 97) {
        folder.write("market.sieve", whole.substr(0, cut));
        CHECK_FALSE(openMarket(folder.path()));
        CHECK_FALSE(verifyMarket(folder.path()));
    }
}

TEST_CASE("Market file: more instruments than a file has room for are not gone through",
          "[storage]")
{
    const test::OwnFolder folder;
    write(folder, test::eventfulRecords());
    const std::string whole = folder.read("market.sieve");
    std::uint64_t contents = 0;
    std::memcpy(&contents, whole.data() + 24, sizeof contents);
    for (const std::uint64_t count : {std::uint64_t{25}, ~std::uint64_t{0} >> 4}) {
        std::string changed = whole;
        std::memcpy(changed.data() + contents, &count, sizeof count);
        test::makeSumsRight(changed);
        folder.write("market.sieve", changed);
        CHECK_FALSE(openMarket(folder.path()));
        if (count > whole.size())
            CHECK(verifyMarket(folder.path()).error().problem.find("table of contents") !=
                  std::string::npos);
    }
    std::string same = whole;
    test::makeSumsRight(same);
    CHECK(same == whole); // the sums are made as the writer makes them
}

TEST_CASE("Market file: another version, another file, no file", "[storage]")
{
    const test::OwnFolder folder;
    CHECK(openMarket(folder.path()).error().problem.find("is not there") != std::string::npos);
    write(folder, test::eventfulRecords());
    std::string bytes = folder.read("market.sieve");
    bytes[8] = 99;
    folder.write("market.sieve", bytes);
    CHECK(openMarket(folder.path()).error().problem.find("another version") != std::string::npos);
    folder.write("market.sieve", std::string(500, 'x'));
    CHECK(openMarket(folder.path()).error().problem.find("no market file") != std::string::npos);
}

TEST_CASE("Market file: a writer that is given up leaves the former file and nothing beside it",
          "[storage]")
{
    const test::OwnFolder folder;
    write(folder, test::eventfulRecords());
    const std::string former = folder.read("market.sieve");
    {
        MarketFileWriter writer(folder.path());
        writer.add(barBlock(market::BarsView()), barBlock(market::MinuteBarsView()));
    }
    CHECK(folder.read("market.sieve") == former);
    CHECK_FALSE(std::filesystem::exists(folder.path() / "market.sieve.part"));
}

} // namespace sieve::storage
