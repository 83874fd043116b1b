#include "core/storage/market_file.h"

#include "core/base/pack.h"
#include "core/storage/mapped_file.h"
#include "core/storage/market_packing.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cstring>
#include <fmt/format.h>
#include <fstream>
#include <map>
#include <system_error>
#define XXH_INLINE_ALL // header only: the loop is compiled for this program
#include <xxhash.h>

namespace sieve::storage {

namespace {

namespace fs = std::filesystem;
using market::MarketParts;

constexpr std::uint32_t formatVersion = 3;
static_assert(sizeof(market::ItemBegins) == 156, "another item of statements: another version");
constexpr const char* adjustedSection = "adjusted_closes";
constexpr std::size_t alignment = 64; ///< of blocks and sections: a line of the processor's cache

struct Header {
    std::array<char, 8> magic{'S', 'i', 'e', 'v', 'e', 'M', 'k', 't'};
    std::uint32_t version = formatVersion;
    std::uint32_t byteOrder = 0x01020304;
    std::uint64_t fileBytes = 0;
    std::uint64_t contentsOffset = 0;
    std::uint64_t contentsBytes = 0;
    std::uint64_t contentsChecksum = 0;
    std::uint64_t unused = 0;
    std::uint64_t checksum = 0; ///< of all before it
};
static_assert(sizeof(Header) == alignment);

std::uint64_t checksumOf(std::span<const std::byte> bytes)
{
    return XXH3_64bits(bytes.data(), bytes.size());
}

std::uint64_t checksumOf(const Header& header)
{
    return XXH3_64bits(&header, offsetof(Header, checksum));
}

template <class Row> std::span<const std::byte> bytesOf(std::span<const Row> rows)
{
    return std::as_bytes(rows);
}

/// The tables of rows, in the order in which MarketFileWriter::add fills them.
enum TableNumber : std::size_t {
    Actions,
    Shares,
    Statements,
    ItemBegins,
    Reports,
    Estimates,
    Owners,
    Calendar,
    Notices,
    tableCount
};
constexpr std::array<const char*, tableCount> tableNames{"actions",     "shares",   "statements",
                                                         "item_begins", "reports",  "estimates",
                                                         "owners",      "calendar", "notices"};

std::size_t stampBytes(std::uint64_t bars)
{
    return (static_cast<std::size_t>(bars) * sizeof(std::int32_t) + 7U) / 8U * 8U;
}

std::size_t blockBytes(std::uint64_t bars)
{
    return stampBytes(bars) + static_cast<std::size_t>(bars) * 5U * sizeof(double);
}

template <class Stamp> BarBlock blockOf(std::span<const Stamp> stamps,
                                        const std::array<std::span<const double>, 5>& columns)
{
    BarBlock block;
    block.bars = stamps.size();
    block.bytes.resize(blockBytes(block.bars));
    char* at = block.bytes.data();
    if (!stamps.empty()) {
        std::memcpy(at, stamps.data(), stamps.size_bytes());
        at += stampBytes(block.bars);
        for (const std::span<const double> column : columns) {
            std::memcpy(at, column.data(), column.size_bytes());
            at += column.size_bytes();
        }
    }
    block.checksum = checksumOf(std::as_bytes(std::span(block.bytes)));
    return block;
}

} // namespace

fs::path marketFile(const fs::path& folder)
{
    return folder / "market.sieve";
}

BlockInMaking::BlockInMaking(std::size_t bars, std::string memory)
{
    block_.bars = bars;
    block_.bytes = std::move(memory);
    block_.bytes.resize(blockBytes(bars));
    const std::size_t stampEnd = bars * sizeof(std::int32_t);
    std::fill_n(block_.bytes.begin() + static_cast<std::ptrdiff_t>(stampEnd),
                stampBytes(bars) - stampEnd, '\0'); // memory used before holds something there
    stamps = reinterpret_cast<std::int32_t*>(block_.bytes.data());
    open = reinterpret_cast<double*>(block_.bytes.data() + stampBytes(bars));
    high = open + bars;
    low = high + bars;
    close = low + bars;
    volume = close + bars;
}

BarBlock BlockInMaking::finish() &&
{
    block_.checksum = checksumOf(std::as_bytes(std::span(block_.bytes)));
    return std::move(block_);
}

BarBlock barBlock(const market::BarsView& bars)
{
    return blockOf(bars.days, {bars.open, bars.high, bars.low, bars.close, bars.volume});
}

BarBlock barBlock(const market::MinuteBarsView& bars)
{
    return blockOf(bars.minutes, {bars.open, bars.high, bars.low, bars.close, bars.volume});
}

MarketFileWriter::MarketFileWriter(const fs::path& folder) : file_(marketFile(folder))
{
    for (const char* name : tableNames)
        tables_.push_back({name, {0}, {}});
    const Header empty;
    file_.write(std::as_bytes(std::span(&empty, 1)));
}

template <class Row> void MarketFileWriter::addRows(std::size_t table, std::span<const Row> rows)
{
    Table& into = tables_[table];
    into.rows.append(reinterpret_cast<const char*>(rows.data()), rows.size_bytes());
    into.ends.push_back(into.rows.size() / sizeof(Row));
}

BlockPlace MarketFileWriter::write(const BarBlock& block)
{
    file_.align(alignment);
    const BlockPlace written{file_.size(), block.bars, block.checksum};
    file_.write(block.bytes);
    return written;
}

BlockPlace MarketFileWriter::write(std::span<const double> figures)
{
    file_.align(alignment);
    const std::span<const std::byte> bytes = std::as_bytes(figures);
    const BlockPlace written{file_.size(), figures.size(), checksumOf(bytes)};
    file_.write(bytes);
    return written;
}

void MarketFileWriter::add(const BarBlock& daily, const BarBlock& minutes,
                           std::span<const double> adjustedCloses)
{
    daily_.push_back(write(daily));
    minutes_.push_back(write(minutes));
    adjustedCloses_.push_back(adjustedCloses.empty() ? BlockPlace() : write(adjustedCloses));
    hasAdjustedCloses_ = hasAdjustedCloses_ || !adjustedCloses.empty();
    const auto* days = reinterpret_cast<const Day*>(daily.bytes.data());
    sessions_.add(std::span(days, static_cast<std::size_t>(daily.bars)));
}

void MarketFileWriter::add(const market::InstrumentRecord& record)
{
    Packer packer;
    pack(packer, record.instrument);
    instruments_ += packer.bytes();
    addRows(Actions, std::span<const market::Action>(record.actions));
    addRows(Shares, std::span<const market::ShareCount>(record.shares));
    addRows(Statements, std::span<const market::StatementRow>(record.statements));
    const market::ItemBegins begins = market::itemBeginsOf(record.statements);
    addRows(ItemBegins, std::span(&begins, record.statements.empty() ? 0 : 1));
    const std::vector<market::Report> reports = market::reportsOf(record.statements);
    addRows(Reports, std::span<const market::Report>(reports));
    addRows(Estimates, std::span<const market::EstimateRow>(record.estimates));
    addRows(Owners, std::span<const market::OwnerRow>(record.owners));
    addRows(Calendar, std::span<const market::CalendarEntry>(record.calendar));
    const std::string notices = market::packed(record.notices);
    addRows(Notices, std::span<const char>(notices));
}

void MarketFileWriter::addSection(const std::string& name, std::span<const std::byte> bytes)
{
    file_.align(alignment);
    sections_.push_back({name, file_.size(), bytes.size(), checksumOf(bytes)});
    file_.write(bytes);
}

void MarketFileWriter::finish(const market::MarketDescription& description,
                              std::span<const market::InstrumentRecord> records)
{
    require(records.size() == daily_.size(), "MarketFileWriter: records and bars do not match");
    for (const market::InstrumentRecord& record : records)
        add(record);
    const std::string packedDescription = packed(description);
    addSection("description", std::as_bytes(std::span(packedDescription)));
    addSection("instruments", std::as_bytes(std::span(instruments_)));
    const std::vector<Day> sessions = sessions_.ascending();
    addSection("sessions", bytesOf(std::span<const Day>(sessions)));
    addSection("bars", bytesOf(std::span<const BlockPlace>(daily_)));
    addSection("minute_bars", bytesOf(std::span<const BlockPlace>(minutes_)));
    if (hasAdjustedCloses_)
        addSection(adjustedSection, bytesOf(std::span<const BlockPlace>(adjustedCloses_)));
    for (const Table& table : tables_) {
        addSection(table.name + ".ends", bytesOf(std::span<const std::uint64_t>(table.ends)));
        addSection(table.name + ".rows", std::as_bytes(std::span(table.rows)));
    }
    Packer contents;
    contents.add(static_cast<std::uint64_t>(records.size()));
    contents.add(static_cast<std::uint32_t>(sections_.size()));
    for (const Section& section : sections_) {
        contents.add(std::string_view(section.name));
        contents.add(section.offset);
        contents.add(section.bytes);
        contents.add(section.checksum);
    }
    file_.align(alignment);
    Header header;
    header.contentsOffset = file_.size();
    header.contentsBytes = contents.bytes().size();
    header.contentsChecksum = checksumOf(std::as_bytes(std::span(contents.bytes())));
    file_.write(contents.bytes());
    header.fileBytes = file_.size();
    header.checksum = checksumOf(header);
    file_.writeFirst(std::as_bytes(std::span(&header, 1)));
    file_.takePlace();
}

namespace {

LocatedError unusable(const fs::path& folder, std::string_view what)
{
    return {
        {}, fmt::format("the market in {} {}", folder.string(), what), "take the dataset in again"};
}

/// The parts of a mapped file. Nothing in it is believed: every offset and length is held to the
/// file's own size before anything is read.
class Contents {
public:
    explicit Contents(std::span<const std::byte> file) : file_(file) {}

    /// Empty when all is well, else what is wrong.
    std::string read()
    {
        Header header;
        if (file_.size() < sizeof header)
            return "is damaged: it is cut short";
        std::memcpy(&header, file_.data(), sizeof header);
        if (header.magic != Header().magic)
            return "is damaged: it is no market file";
        if (header.version != formatVersion || header.byteOrder != Header().byteOrder)
            return "was made by another version of this program";
        if (header.checksum != checksumOf(header) || header.fileBytes != file_.size())
            return "is damaged: it is not as long as it was written";
        const auto contents = part(header.contentsOffset, header.contentsBytes);
        if (contents.size() != header.contentsBytes ||
            checksumOf(contents) != header.contentsChecksum)
            return "is damaged in its table of contents";
        Unpacker unpacker(contents);
        count_ = static_cast<std::size_t>(unpacker.read<std::uint64_t>());
        for (std::size_t left = unpacker.readCount(); left > 0; --left) {
            const std::string name = unpacker.readText();
            const auto offset = unpacker.read<std::uint64_t>();
            const auto bytes = unpacker.read<std::uint64_t>();
            sections_[name] = {part(offset, bytes), unpacker.read<std::uint64_t>()};
        }
        // No instrument is less than a byte: whoever goes through them all comes to an end.
        const bool isWhole = unpacker.isWhole() && count_ <= file_.size();
        return isWhole ? "" : "is damaged in its table of contents";
    }

    std::size_t count() const { return count_; }
    bool isSound(const std::string& name) const
    {
        const auto found = sections_.find(name);
        return found != sections_.end() &&
               checksumOf(found->second.bytes) == found->second.checksum;
    }
    /// Empty when there is no such section.
    std::span<const std::byte> section(const std::string& name) const
    {
        const auto found = sections_.find(name);
        return found == sections_.end() ? std::span<const std::byte>() : found->second.bytes;
    }
    template <class Row> std::span<const Row> rows(const std::string& name) const
    {
        return rowsIn<Row>(section(name));
    }
    template <class Row> static std::span<const Row> rowsIn(std::span<const std::byte> bytes)
    {
        return {reinterpret_cast<const Row*>(bytes.data()), bytes.size() / sizeof(Row)};
    }
    std::span<const std::byte> part(std::uint64_t offset, std::uint64_t bytes) const
    {
        if (offset > file_.size() || bytes > file_.size() - offset || offset % alignment != 0)
            return {};
        return file_.subspan(static_cast<std::size_t>(offset), static_cast<std::size_t>(bytes));
    }
    /// The bytes of a block; none when it does not lie within the file.
    std::span<const std::byte> block(const BlockPlace& block) const
    {
        return block.bars > file_.size() / sizeof(double)
                   ? std::span<const std::byte>()
                   : part(block.offset, blockBytes(block.bars));
    }
    /// The figures of a stretch; none when it does not lie within the file.
    std::span<const double> figures(const BlockPlace& place) const
    {
        return place.bars > file_.size() / sizeof(double)
                   ? std::span<const double>()
                   : rowsIn<double>(part(place.offset, place.bars * sizeof(double)));
    }
    std::vector<std::string> sectionNames() const
    {
        std::vector<std::string> names;
        for (const auto& [name, section] : sections_)
            names.push_back(name);
        return names;
    }

private:
    struct Section {
        std::span<const std::byte> bytes;
        std::uint64_t checksum = 0;
    };
    std::span<const std::byte> file_;
    std::size_t count_ = 0;
    std::map<std::string, Section> sections_;
};

template <class View, class Stamp> View barsIn(std::span<const std::byte> bytes, std::size_t count,
                                               std::span<const Stamp> View::*stamps)
{
    View view;
    if (bytes.empty())
        return view;
    view.*stamps = Contents::rowsIn<Stamp>(bytes.first(count * sizeof(Stamp)));
    auto rest = Contents::rowsIn<double>(bytes.subspan(stampBytes(count)));
    for (auto* column : {&view.open, &view.high, &view.low, &view.close, &view.volume}) {
        *column = rest.first(count);
        rest = rest.subspan(count);
    }
    return view;
}

/// An instrument's rows of one table; none when the ends do not fit.
template <class Row> class TableIn {
public:
    TableIn(const Contents& contents, TableNumber table)
        : ends_(contents.rows<std::uint64_t>(std::string(tableNames.at(table)) + ".ends")),
          rows_(contents.rows<Row>(std::string(tableNames.at(table)) + ".rows"))
    {
    }
    std::span<const Row> of(std::size_t instrument) const
    {
        if (instrument + 1 >= ends_.size())
            return {};
        const std::uint64_t from = ends_[instrument];
        const std::uint64_t to = ends_[instrument + 1];
        if (from > to || to > rows_.size())
            return {};
        return rows_.subspan(static_cast<std::size_t>(from), static_cast<std::size_t>(to - from));
    }

private:
    std::span<const std::uint64_t> ends_;
    std::span<const Row> rows_;
};

/// What opening reads, and so holds to its checksum.
std::string firstUnsound(const Contents& contents)
{
    for (const std::string& name : contents.sectionNames())
        if (!name.ends_with(".rows") && !contents.isSound(name))
            return fmt::format("is damaged in its part '{}'", name);
    return {};
}

MarketParts partsOf(const Contents& contents, std::shared_ptr<const MappedFile> file)
{
    MarketParts parts;
    Unpacker description(contents.section("description"));
    parts.description = unpackDescription(description);
    const auto sessions = contents.rows<Day>("sessions");
    parts.sessions.assign(sessions.begin(), sessions.end());
    const auto daily = contents.rows<BlockPlace>("bars");
    const auto minutes = contents.rows<BlockPlace>("minute_bars");
    const TableIn<market::Action> actions(contents, Actions);
    const TableIn<market::ShareCount> shares(contents, Shares);
    const TableIn<market::StatementRow> statements(contents, Statements);
    const TableIn<market::ItemBegins> begins(contents, ItemBegins);
    const TableIn<market::Report> reports(contents, Reports);
    const TableIn<market::EstimateRow> estimates(contents, Estimates);
    const TableIn<market::OwnerRow> owners(contents, Owners);
    const TableIn<market::CalendarEntry> calendar(contents, Calendar);
    const TableIn<std::byte> notices(contents, Notices);
    Unpacker instruments(contents.section("instruments"));
    const std::size_t count = std::min({contents.count(), daily.size(), minutes.size()});
    for (std::size_t i = 0; i < count && instruments.isWhole(); ++i) {
        market::InstrumentView view;
        view.instrument = unpackInstrument(instruments);
        view.bars = barsIn<market::BarsView, Day>(contents.block(daily[i]), daily[i].bars,
                                                  &market::BarsView::days);
        view.minuteBars = barsIn<market::MinuteBarsView, Minute>(
            contents.block(minutes[i]), minutes[i].bars, &market::MinuteBarsView::minutes);
        view.actions = actions.of(i);
        view.shares = shares.of(i);
        const auto ownBegins = begins.of(i);
        view.statements = market::Statements(
            statements.of(i), ownBegins.empty() ? nullptr : ownBegins.data(), reports.of(i));
        view.estimates = estimates.of(i);
        view.owners = owners.of(i);
        view.calendar = calendar.of(i);
        view.notices = notices.of(i);
        parts.instruments.push_back(std::move(view));
    }
    parts.keeper = std::move(file);
    return parts;
}

/// The mapped file; null when there is none.
std::shared_ptr<const MappedFile> mapped(const fs::path& folder)
{
    try {
        return std::make_shared<const MappedFile>(marketFile(folder));
    } catch (const std::system_error& fault) {
        if (fault.code() == std::errc::no_such_file_or_directory ||
            fault.code() == std::errc::not_a_directory)
            return nullptr;
        throw;
    }
}

} // namespace

std::string identityOf(const fs::path& folder)
{
    std::ifstream file(marketFile(folder), std::ios::binary);
    Header header;
    file.read(reinterpret_cast<char*>(&header), sizeof header);
    return file ? fmt::format("{:016x}", header.checksum) : std::string();
}

Result<market::MarketPtr> openMarket(const fs::path& folder)
{
    const std::shared_ptr<const MappedFile> file = mapped(folder);
    if (!file)
        return unusable(folder, "is not there");
    Contents contents(file->bytes());
    std::string fault = contents.read();
    if (fault.empty())
        fault = firstUnsound(contents);
    if (!fault.empty())
        return unusable(folder, fault);
    MarketParts parts = partsOf(contents, file);
    if (parts.instruments.size() != contents.count() || parts.sessions.empty())
        return unusable(folder, "is damaged in its part 'instruments'");
    return std::make_shared<const market::Market>(std::move(parts));
}

Result<std::uint64_t> verifyMarket(const fs::path& folder, const Progress& progress)
{
    const std::shared_ptr<const MappedFile> file = mapped(folder);
    if (!file)
        return unusable(folder, "is not there");
    Contents contents(file->bytes());
    if (const std::string fault = contents.read(); !fault.empty())
        return unusable(folder, fault);
    for (const std::string& name : contents.sectionNames())
        if (!contents.isSound(name))
            return unusable(folder, fmt::format("is damaged in its part '{}'", name));
    for (const char* section : {"bars", "minute_bars"}) {
        const auto blocks = contents.rows<BlockPlace>(section);
        for (std::size_t i = 0; i < blocks.size(); ++i) {
            if (progress.stopRequested())
                throw Stopped{};
            if (checksumOf(contents.block(blocks[i])) != blocks[i].checksum)
                return unusable(folder,
                                fmt::format("is damaged in '{}' of instrument {}", section, i + 1));
            progress.report(static_cast<double>(i) / static_cast<double>(blocks.size()),
                            "checking the market");
        }
    }
    const AdjustedCloses adjusted(folder);
    for (std::size_t i = 0; i < adjusted.count(); ++i)
        if (!adjusted.isSound(i))
            return unusable(
                folder, fmt::format("is damaged in '{}' of instrument {}", adjustedSection, i + 1));
    return static_cast<std::uint64_t>(file->bytes().size());
}

AdjustedCloses::AdjustedCloses(const fs::path& folder) : file_(mapped(folder))
{
    if (!file_)
        return;
    Contents contents(file_->bytes());
    if (contents.read().empty() && contents.isSound(adjustedSection))
        places_ = contents.rows<BlockPlace>(adjustedSection);
}

std::span<const double> AdjustedCloses::of(std::size_t instrument) const
{
    if (instrument >= places_.size())
        return {};
    const BlockPlace& place = places_[instrument];
    return Contents(file_->bytes()).figures(place);
}

bool AdjustedCloses::isSound(std::size_t instrument) const
{
    return instrument >= places_.size() || places_[instrument].bars == 0 ||
           checksumOf(std::as_bytes(of(instrument))) == places_[instrument].checksum;
}

} // namespace sieve::storage
