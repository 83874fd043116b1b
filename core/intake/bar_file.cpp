#include "core/intake/bar_file.h"

#include "core/intake/csv.h"
#include "core/intake/quick_figures.h"
#include "core/intake/rows.h"

#include <algorithm>
#include <fmt/format.h>

namespace sieve::intake {

namespace {

constexpr std::size_t absent = static_cast<std::size_t>(-1);

/// The walk through one file. It does for prices what `Rows` does for the other tables, with the
/// places of the columns looked up once: prices are nine tenths of all that is read.
class BarFileParser {
public:
    BarFileParser(const BarFile& file, IntakeReport& report, ReadBuffer& memory)
        : file_(file), report_(report), memory_(memory),
          reader_(openBytes(file.path), file.layout.separator, std::move(memory))
    {
        places_.fill(absent);
        ++report_.files;
        isReadable_ = readHeader();
        findQuickWay();
    }
    ~BarFileParser() { memory_ = std::move(reader_).giveMemory(); }
    BarFileParser(const BarFileParser&) = delete;
    BarFileParser& operator=(const BarFileParser&) = delete;

    bool next() { return isReadable_ && reader_.next(); }
    std::size_t line() const { return reader_.line(); }

    /// The row's symbol; empty when the file's name tells it.
    std::string_view symbol() const { return optionalCell(PriceColumn::Symbol); }

    /// The row as a bar; false when it was left out.
    bool bar(ReadBar& read)
    {
        if (hasQuickWay_ && quickBar(read))
            return isPossible(read.bar);
        if (reader_.isTooLong())
            return leaveOut("", "a line longer than 1 MiB");
        if (reader_.endsInsideQuotes())
            return leaveOut("",
                            "a quote that is never closed: the rest of the file stands inside it");
        if (reader_.cells().size() < cellsNeeded_)
            return leaveOut(
                "", fmt::format("{} cells, the header has {}", reader_.cells().size(), headerCells_)
                        .c_str());
        read.line = static_cast<std::uint32_t>(reader_.line());
        storage::StampedBar& bar = read.bar;
        if (!stamp(bar.stamp))
            return false;
        if (!price(PriceColumn::Close, bar.close) || !price(PriceColumn::Open, bar.open) ||
            !price(PriceColumn::High, bar.high) || !price(PriceColumn::Low, bar.low))
            return false;
        read.adjustedClose = missing;
        bar.volume = missing;
        dividend_ = 0.0;
        split_ = 0.0;
        readActionCells();
        if (!optionalFigure(PriceColumn::AdjustedClose, read.adjustedClose) ||
            !optionalFigure(PriceColumn::Volume, bar.volume))
            return false;
        return isPossible(bar);
    }

    /// What the row of the last bar tells of dividends and splits.
    std::span<const ReadAction> actions(const ReadBar& read)
    {
        actions_.clear();
        const Day day = Day::fromSerial(read.bar.stamp);
        if (dividend_ > 0.0)
            actions_.push_back(
                {{day, market::ActionKind::Dividend, dividend_}, read.file, read.line});
        if (split_ > 0.0 && split_ != 1.0)
            actions_.push_back({{day, market::ActionKind::Split, split_}, read.file, read.line});
        return actions_;
    }

    void note(std::string_view column, std::string_view why, std::string_view done)
    {
        std::string what;
        for (const std::string_view each : reader_.cells())
            if (column.empty())
                what += (what.empty() ? "" : ",") + std::string(each);
        if (!column.empty())
            for (std::size_t i = 0; i < priceColumnCount; ++i)
                if (file_.layout.headings.at(i) == column)
                    what = std::string(optionalCell(static_cast<PriceColumn>(i)));
        report_.add({file_.name, reader_.line(), std::string(column), shown(what), std::string(why),
                     std::string(done)});
    }
    void finish()
    {
        if (isReadable_ && !reader_.endsInsideQuotes())
            noteEnd(reader_, file_.name, report_);
    }

private:
    bool readHeader()
    {
        if (!reader_.next() || reader_.isTooLong()) {
            const std::string fault = reader_.fault();
            report_.add({file_.name, 0, "", "", fault.empty() ? "the file is empty" : fault,
                         "file left out"});
            return false;
        }
        const auto& cells = reader_.cells();
        headerCells_ = cells.size();
        for (std::size_t i = 0; i < priceColumnCount; ++i) {
            const std::string& heading = file_.layout.headings.at(i);
            if (heading.empty())
                continue;
            const auto count = std::ranges::count(cells, heading);
            if (count != 1)
                return leaveFileOut(
                    heading,
                    count == 0
                        ? fmt::format("the header has no such column, which is to hold the {}",
                                      priceColumnName(static_cast<PriceColumn>(i)))
                        : std::string("the header has more than one column of this name"));
            places_.at(i) =
                static_cast<std::size_t>(std::ranges::find(cells, heading) - cells.begin());
        }
        for (const PriceColumn needed : {PriceColumn::Time, PriceColumn::Close}) {
            if (placeOf(needed) != absent) {
                cellsNeeded_ = std::max(cellsNeeded_, placeOf(needed) + 1);
                continue;
            }
            return leaveFileOut(
                file_.layout.heading(needed),
                fmt::format("the header has no column for the {}", priceColumnName(needed)));
        }
        return true;
    }
    bool leaveFileOut(const std::string& column, std::string why)
    {
        report_.add({file_.name, 1, column, "", std::move(why), "file left out"});
        return false;
    }

    /// Nearly every file has its columns one after another and in plain figures: such rows are read
    /// in one walk over their characters, without cutting them into cells.
    void findQuickWay()
    {
        const PriceLayout& layout = file_.layout;
        hasQuickWay_ = isReadable_ && file_.scale == BarScale::Daily &&
                       layout.dayForm == DayForm::Iso && layout.decimalMark == '.' &&
                       layout.thousandsMark == '\0';
        for (std::size_t i = 0; i < priceColumnCount; ++i)
            if (places_.at(i) != absent && places_.at(i) < roles_.size())
                roles_.at(places_.at(i)) = static_cast<PriceColumn>(i);
            else if (places_.at(i) != absent)
                hasQuickWay_ = false;
        for (const PriceColumn column :
             {PriceColumn::Open, PriceColumn::High, PriceColumn::Low, PriceColumn::Volume})
            hasQuickWay_ = hasQuickWay_ && placeOf(column) != absent;
    }

    /// False when the row has anything that is not plain: then it is read by its cells.
    bool quickBar(ReadBar& read)
    {
        const std::string_view row = reader_.plainRow();
        const char* at = row.data();
        const char* const end = at + row.size();
        storage::StampedBar& bar = read.bar;
        read.adjustedClose = missing;
        dividend_ = 0.0;
        split_ = 0.0;
        std::size_t cell = 0;
        for (; cell < headerCells_; ++cell) {
            const auto role = cell < roles_.size() ? roles_[cell] : std::nullopt;
            bool isPlain = true;
            if (!role || *role == PriceColumn::Symbol) {
                while (at != end && *at != file_.layout.separator)
                    ++at;
            } else if (*role == PriceColumn::Time) {
                isPlain = end - at >= 10 && days_.take(at, bar.stamp);
            } else {
                isPlain = takeCell(at, end, figureOf(*role, read));
            }
            if (!isPlain || dividend_ < 0.0 || split_ < 0.0)
                return false;
            if (at == end)
                break;
            if (*at++ != file_.layout.separator)
                return false;
        }
        read.line = static_cast<std::uint32_t>(reader_.line());
        return cell + 1 == headerCells_ && at == end;
    }

    /// A figure up to the next separator, the quick way or, when it is long, the thorough one.
    bool takeCell(const char*& at, const char* end, double& figure) const
    {
        const char* const begin = at;
        if (readQuickFigure(at, figure) && at <= end &&
            (at == end || *at == file_.layout.separator))
            return true;
        const char* stop = std::find(begin, end, file_.layout.separator);
        const auto read =
            parseFigure(std::string_view(begin, static_cast<std::size_t>(stop - begin)));
        at = stop;
        figure = read.value_or(missing);
        return read.has_value();
    }

    double& figureOf(PriceColumn column, ReadBar& read)
    {
        switch (column) {
        case PriceColumn::Open:
            return read.bar.open;
        case PriceColumn::High:
            return read.bar.high;
        case PriceColumn::Low:
            return read.bar.low;
        case PriceColumn::Close:
            return read.bar.close;
        case PriceColumn::Volume:
            return read.bar.volume;
        case PriceColumn::Dividend:
            return dividend_;
        case PriceColumn::Split:
            return split_;
        default:
            return read.adjustedClose;
        }
    }

    std::size_t placeOf(PriceColumn column) const
    {
        return places_[static_cast<std::size_t>(column)];
    }
    std::string_view optionalCell(PriceColumn column) const
    {
        const std::size_t place = placeOf(column);
        return place < reader_.cells().size() ? reader_.cells()[place] : std::string_view();
    }

    bool stamp(std::int32_t& stamp)
    {
        const std::string_view cell = optionalCell(PriceColumn::Time);
        if (file_.scale == BarScale::Minute) {
            const std::optional<Minute> minute = Minute::parse(cell);
            if (!minute)
                return leaveOut(PriceColumn::Time,
                                "not a time with its zone such as 2025-03-14T09:30Z");
            stamp = minute->serial();
            return true;
        }
        const std::optional<Day> day = parseDay(cell, file_.layout.dayForm);
        if (!day)
            return leaveOut(PriceColumn::Time, file_.layout.dayForm == DayForm::Iso
                                                   ? "not a day such as 2025-03-14"
                                                   : fmt::format("not a day such as {}",
                                                                 dayFormName(file_.layout.dayForm))
                                                         .c_str());
        stamp = day->serial();
        return true;
    }

    /// A price; one that the file has no column for is the close.
    bool price(PriceColumn column, double& price)
    {
        if (placeOf(column) == absent) {
            price = closeSoFar_;
            return true;
        }
        const std::string_view cell = optionalCell(column);
        const std::optional<double> figure = parseFigure(cell, file_.layout);
        if (!figure)
            return leaveOut(column, cell.empty() ? "no figure" : "not a figure such as 12.5");
        price = *figure;
        if (column == PriceColumn::Close)
            closeSoFar_ = price;
        return true;
    }

    bool optionalFigure(PriceColumn column, double& figure)
    {
        const std::string_view cell = optionalCell(column);
        if (cell.empty())
            return true;
        const std::optional<double> read = parseFigure(cell, file_.layout);
        if (!read)
            return leaveOut(column, "not a figure such as 12.5");
        figure = *read;
        return true;
    }

    /// A dividend or split that cannot be read does not make the prices beside it worse.
    void readActionCells()
    {
        for (const PriceColumn column : {PriceColumn::Dividend, PriceColumn::Split}) {
            const std::string_view cell = optionalCell(column);
            if (cell.empty())
                continue;
            const auto figure = column == PriceColumn::Split ? parseSplit(cell, file_.layout)
                                                             : parseFigure(cell, file_.layout);
            if (figure && *figure >= 0.0)
                (column == PriceColumn::Split ? split_ : dividend_) = *figure;
            else
                note(file_.layout.heading(column),
                     column == PriceColumn::Split ? "no split such as 2 or 3:2"
                                                  : "no dividend such as 0.25",
                     "passed over");
        }
    }

    bool isPossible(const storage::StampedBar& bar)
    {
        if (std::min({bar.open, bar.high, bar.low, bar.close}) <= 0.0)
            return leaveOut("", "a price at or below 0");
        if (bar.high < bar.low)
            return leaveOut(PriceColumn::High, "the high lies under the low");
        if (std::max(bar.open, bar.close) > bar.high || std::min(bar.open, bar.close) < bar.low)
            return leaveOut("", "open or close outside low to high");
        if (bar.volume < 0.0)
            return leaveOut(PriceColumn::Volume, "a volume below 0");
        return true;
    }

    bool leaveOut(PriceColumn column, const char* why)
    {
        const std::string& heading = file_.layout.heading(column);
        return leaveOut(heading.empty() ? priceColumnName(column) : std::string_view(heading), why);
    }
    bool leaveOut(std::string_view column, const char* why)
    {
        ++report_.rowsLeftOut;
        note(column, why, "row left out");
        return false;
    }

    const BarFile& file_;
    IntakeReport& report_;
    ReadBuffer& memory_;
    CsvReader reader_;
    std::array<std::size_t, priceColumnCount> places_{};
    std::array<std::optional<PriceColumn>, 16> roles_{}; ///< of the cells of a row
    bool hasQuickWay_ = false;
    QuickDays days_;
    std::size_t headerCells_ = 0;
    std::size_t cellsNeeded_ = 0;
    double closeSoFar_ = missing;
    double dividend_ = 0.0; ///< of the last row; 0: none
    double split_ = 0.0;
    std::vector<ReadAction> actions_;
    bool isReadable_ = false;
};

template <class Take> void readRows(const BarFile& file, IntakeReport& report,
                                    const Progress& progress, ReadBuffer& memory, Take take)
{
    BarFileParser reading(file, report, memory);
    ReadBar read;
    read.file = file.number;
    constexpr std::size_t looksEvery = 4096;
    for (std::size_t row = 0; reading.next(); ++row) {
        if (row % looksEvery == 0 && progress.stopRequested())
            throw Stopped{};
        ++report.rows;
        if (reading.bar(read))
            take(reading, read);
    }
    reading.finish();
}

} // namespace

void readBars(const BarFile& file, IntakeReport& report, const Progress& progress,
              ReadBuffer& memory, std::vector<ReadBar>& bars, std::vector<ReadAction>& actions)
{
    readRows(file, report, progress, memory, [&](BarFileParser& reading, const ReadBar& read) {
        bars.push_back(read);
        const auto own = reading.actions(read);
        actions.insert(actions.end(), own.begin(), own.end());
    });
}

void readMixedBars(const BarFile& file, IntakeReport& report, const Progress& progress,
                   ReadBuffer& memory, const TakeMixedBar& take)
{
    readRows(file, report, progress, memory, [&](BarFileParser& reading, const ReadBar& read) {
        const std::string_view symbol = reading.symbol();
        if (!symbol.empty())
            return take(symbol, read, reading.actions(read));
        ++report.rowsLeftOut;
        reading.note("", "a row without a symbol", "row left out");
    });
}

} // namespace sieve::intake
