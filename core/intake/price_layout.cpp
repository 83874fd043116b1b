#include "core/intake/price_layout.h"

#include "core/intake/csv.h"

#include <algorithm>
#include <cctype>
#include <fmt/format.h>
#include <iterator>
#include <map>
#include <span>
#include <toml++/toml.h>

namespace sieve::intake {

namespace {

constexpr std::array<std::string_view, priceColumnCount> columnNames{
    "symbol", "time",           "open",   "high",     "low",
    "close",  "adjusted_close", "volume", "dividend", "split"};

constexpr std::array<std::string_view, 5> layoutKeys{"separator", "decimal_mark", "thousands_mark",
                                                     "days", "columns"};

constexpr std::array<std::pair<DayForm, std::string_view>, 4> dayForms{
    {{DayForm::Iso, "2025-03-14"},
     {DayForm::Digits, "20250314"},
     {DayForm::DayMonthYear, "14.03.2025"},
     {DayForm::MonthDayYear, "03/14/2025"}}};

/// What headers call the columns, in lower case and without blanks and marks.
struct Heading {
    std::string_view name;
    PriceColumn column;
};
constexpr std::array headings{
    Heading{"symbol", PriceColumn::Symbol},
    Heading{"ticker", PriceColumn::Symbol},
    Heading{"code", PriceColumn::Symbol},
    Heading{"instrument", PriceColumn::Symbol},
    Heading{"security", PriceColumn::Symbol},
    Heading{"date", PriceColumn::Time},
    Heading{"day", PriceColumn::Time},
    Heading{"time", PriceColumn::Time},
    Heading{"datetime", PriceColumn::Time},
    Heading{"timestamp", PriceColumn::Time},
    Heading{"tradedate", PriceColumn::Time},
    Heading{"datum", PriceColumn::Time},
    Heading{"open", PriceColumn::Open},
    Heading{"o", PriceColumn::Open},
    Heading{"openprice", PriceColumn::Open},
    Heading{"high", PriceColumn::High},
    Heading{"h", PriceColumn::High},
    Heading{"highprice", PriceColumn::High},
    Heading{"max", PriceColumn::High},
    Heading{"low", PriceColumn::Low},
    Heading{"l", PriceColumn::Low},
    Heading{"lowprice", PriceColumn::Low},
    Heading{"min", PriceColumn::Low},
    Heading{"close", PriceColumn::Close},
    Heading{"c", PriceColumn::Close},
    Heading{"closeprice", PriceColumn::Close},
    Heading{"last", PriceColumn::Close},
    Heading{"price", PriceColumn::Close},
    Heading{"adjclose", PriceColumn::AdjustedClose},
    Heading{"adjustedclose", PriceColumn::AdjustedClose},
    Heading{"closeadj", PriceColumn::AdjustedClose},
    Heading{"closeadjusted", PriceColumn::AdjustedClose},
    Heading{"volume", PriceColumn::Volume},
    Heading{"vol", PriceColumn::Volume},
    Heading{"v", PriceColumn::Volume},
    Heading{"shares", PriceColumn::Volume},
    Heading{"quantity", PriceColumn::Volume},
    Heading{"dividend", PriceColumn::Dividend},
    Heading{"dividends", PriceColumn::Dividend},
    Heading{"cashdividend", PriceColumn::Dividend},
    Heading{"dividendamount", PriceColumn::Dividend},
    Heading{"split", PriceColumn::Split},
    Heading{"splits", PriceColumn::Split},
    Heading{"stocksplit", PriceColumn::Split},
    Heading{"stocksplits", PriceColumn::Split},
    Heading{"splitratio", PriceColumn::Split},
    Heading{"splitfactor", PriceColumn::Split},
};

std::string plain(std::string_view heading)
{
    std::string name;
    for (const char c : heading)
        if (std::isalnum(static_cast<unsigned char>(c)) != 0)
            name += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return name;
}

LocatedError unclear(std::size_t line, std::string problem)
{
    SourceRange where;
    where.line = line;
    return {where, std::move(problem), "say in a mapping how the columns are read"};
}

using Cells = std::vector<std::string>;

std::vector<Cells> cellsOf(std::string_view sample, char separator)
{
    // The last line of a sample may be cut anywhere.
    const std::size_t end = sample.rfind('\n');
    CsvReader reader(end == std::string_view::npos ? sample : sample.substr(0, end + 1), separator);
    std::vector<Cells> rows;
    constexpr std::size_t mostRows = 500;
    while (rows.size() < mostRows && reader.next())
        rows.emplace_back(reader.cells().begin(), reader.cells().end());
    return rows;
}

/// The cells of one column, header and empty ones left out.
Cells columnOf(const std::vector<Cells>& rows, std::size_t at)
{
    Cells cells;
    for (std::size_t row = 1; row < rows.size(); ++row)
        if (at < rows[row].size() && !rows[row][at].empty())
            cells.push_back(rows[row][at]);
    return cells;
}

/// The forms in which every cell is a day. Of those in which all are the same days, one.
std::vector<DayForm> formsOf(const Cells& cells)
{
    std::vector<DayForm> forms;
    std::vector<std::vector<std::optional<Day>>> readings;
    for (const auto& [form, name] : dayForms) {
        std::vector<std::optional<Day>> days;
        for (const std::string& cell : cells)
            days.push_back(parseDay(cell, form));
        if (std::ranges::any_of(days, [](const auto& day) { return !day; }) ||
            std::ranges::find(readings, days) != readings.end())
            continue;
        forms.push_back(form);
        readings.push_back(std::move(days));
    }
    return forms;
}

using Marks = LayoutReadings::Marks;

/// The figures of all cells under some marks; empty where one is none.
std::vector<double> figuresUnder(const Marks& marks, PriceLayout layout, const Cells& cells)
{
    layout.decimalMark = marks.decimal;
    layout.thousandsMark = marks.thousands;
    std::vector<double> figures;
    for (const std::string& cell : cells) {
        const auto figure = parseFigure(cell, layout);
        if (!figure)
            return {};
        figures.push_back(*figure);
    }
    return figures;
}

/// Whether a figure of four digits or more stands without the thousands mark: who writes them so
/// means something else by the mark.
bool isWithoutThousands(const std::string& cell, char thousands)
{
    const std::size_t digits = cell.find_first_not_of("-0123456789");
    const std::size_t count = digits == std::string::npos ? cell.size() : digits;
    return count > 3 && cell.find(thousands) == std::string::npos;
}

/// The marks under which every price is a figure; points come first. Of those under which all are
/// the same figures, one.
std::vector<Marks> marksOf(const PriceLayout& layout, const Cells& prices, const Cells& volumes)
{
    constexpr std::array<Marks, 5> known{
        {{'.', '\0'}, {',', '\0'}, {'.', ','}, {',', '.'}, {',', ' '}}};
    std::vector<Marks> fitting;
    std::vector<std::vector<double>> readings;
    for (const Marks& marks : known) {
        if (marks.decimal == layout.separator)
            continue;
        auto figures = figuresUnder(marks, layout, prices);
        if (figures.size() != prices.size() ||
            std::ranges::find(readings, figures) != readings.end())
            continue;
        fitting.push_back(marks);
        readings.push_back(std::move(figures));
    }
    if (fitting.size() > 1)
        std::erase_if(fitting, [&](const Marks& marks) {
            const auto refutes = [&](const std::string& cell) {
                return isWithoutThousands(cell, marks.thousands);
            };
            return marks.thousands != '\0' &&
                   (std::ranges::any_of(prices, refutes) || std::ranges::any_of(volumes, refutes));
        });
    return fitting;
}

int number(std::string_view digits)
{
    if (digits.empty() || digits.size() > 4)
        return -1;
    int value = 0;
    for (const char c : digits) {
        if (c < '0' || c > '9')
            return -1;
        value = value * 10 + (c - '0');
    }
    return value;
}

std::optional<Day> dayOf(int year, int month, int day)
{
    if (year < 0 || month < 0 || day < 0)
        return std::nullopt;
    return Day::of(std::chrono::year(year) / month / day);
}

std::optional<char> markNamed(std::string_view name)
{
    constexpr std::array<std::pair<std::string_view, char>, 2> names{
        {{"none", '\0'}, {"tab", '\t'}}};
    for (const auto& [word, mark] : names)
        if (name == word)
            return mark;
    return name.size() == 1 ? std::optional(name[0]) : std::nullopt;
}

std::string markName(char mark)
{
    return mark == '\0' ? "none" : mark == '\t' ? "tab" : std::string(1, mark);
}

} // namespace

std::string_view priceColumnName(PriceColumn column)
{
    return columnNames.at(static_cast<std::size_t>(column));
}

std::string_view dayFormName(DayForm form)
{
    for (const auto& [each, name] : dayForms)
        if (each == form)
            return name;
    return {};
}

std::optional<DayForm> dayFormNamed(std::string_view name)
{
    for (const auto& [form, each] : dayForms)
        if (each == name)
            return form;
    return std::nullopt;
}

std::optional<Day> parseDay(std::string_view cell, DayForm form)
{
    if (form == DayForm::Iso) {
        if (cell.size() > 10 && (cell[10] == 'T' || cell[10] == ' '))
            cell = cell.substr(0, 10);
        return Day::parse(cell);
    }
    if (form == DayForm::Digits)
        return cell.size() != 8 ? std::nullopt
                                : dayOf(number(cell.substr(0, 4)), number(cell.substr(4, 2)),
                                        number(cell.substr(6, 2)));
    constexpr std::string_view separators = "./- ";
    const std::size_t first = cell.find_first_of(separators);
    if (first == std::string_view::npos)
        return std::nullopt;
    const std::size_t second = cell.find(cell[first], first + 1);
    if (second == std::string_view::npos)
        return std::nullopt;
    const std::string_view year = cell.substr(second + 1, 4);
    if (year.size() != 4 || (cell.size() > second + 5 && cell[second + 5] != ' '))
        return std::nullopt;
    const int left = number(cell.substr(0, first));
    const int right = number(cell.substr(first + 1, second - first - 1));
    return form == DayForm::DayMonthYear ? dayOf(number(year), right, left)
                                         : dayOf(number(year), left, right);
}

std::optional<double> parseFigure(std::string_view cell, const PriceLayout& layout)
{
    if (layout.decimalMark == '.' && layout.thousandsMark == '\0')
        return parseFigure(cell);
    std::string figure;
    std::size_t sinceMark = 0;
    bool hasMark = false;
    bool hasPoint = false;
    for (const char c : cell) {
        if (layout.thousandsMark != '\0' && c == layout.thousandsMark && !hasPoint) {
            const bool isGroup = hasMark ? sinceMark == 3 : sinceMark >= 1 && sinceMark <= 3;
            const std::size_t first = figure.find_first_not_of('-');
            if (!isGroup || figure.at(first) == '0')
                return std::nullopt; // 1,23 and 0,123 are no ways to write thousands
            hasMark = true;
            sinceMark = 0;
            continue;
        }
        if (c == layout.decimalMark) {
            hasPoint = true;
            figure += '.';
            continue;
        }
        if (c == '.')
            return std::nullopt;
        sinceMark += !hasPoint && c != '-' ? 1U : 0U;
        figure += c;
    }
    if (hasMark && sinceMark != 3)
        return std::nullopt;
    return parseFigure(figure);
}

std::optional<double> parseSplit(std::string_view cell, const PriceLayout& layout)
{
    const std::size_t mark = cell.find_first_of(":/");
    if (mark == std::string_view::npos)
        return parseFigure(cell, layout);
    const auto shares = parseFigure(cell.substr(0, mark), layout);
    const auto old = parseFigure(cell.substr(mark + 1), layout);
    return shares && old && *old > 0.0 ? std::optional(*shares / *old) : std::nullopt;
}

char separatorOf(std::string_view sample)
{
    const std::string_view header = sample.substr(0, sample.find('\n'));
    char best = ',';
    std::ptrdiff_t most = 0;
    for (const char separator : {',', ';', '\t', '|'})
        if (const auto count = std::ranges::count(header, separator); count > most) {
            best = separator;
            most = count;
        }
    return best;
}

Result<LayoutReadings> readingsOf(std::string_view sample)
{
    if (sample.starts_with("\xEF\xBB\xBF"))
        sample.remove_prefix(3);
    LayoutReadings readings;
    PriceLayout& layout = readings.layout;
    layout.separator = separatorOf(sample);
    const std::vector<Cells> rows = cellsOf(sample, layout.separator);
    if (rows.empty())
        return unclear(1, "the file is empty");
    std::array<std::optional<std::size_t>, priceColumnCount> places;
    std::array<const Heading*, priceColumnCount> best{};
    for (std::size_t at = 0; at < rows[0].size(); ++at) {
        const auto* known = std::ranges::find(headings, plain(rows[0][at]), &Heading::name);
        if (known == headings.end())
            continue;
        const auto column = static_cast<std::size_t>(known->column);
        if (best.at(column) == known)
            return unclear(1, fmt::format("the header has two columns '{}'", rows[0][at]));
        if (best.at(column) && best.at(column) < known)
            continue; // of two columns of one meaning, the one whose name says it best
        best.at(column) = known;
        places.at(column) = at;
        layout.headings.at(column) = rows[0][at];
    }
    const auto placeOf = [&places](PriceColumn column) {
        return places.at(static_cast<std::size_t>(column));
    };
    for (const PriceColumn needed : {PriceColumn::Time, PriceColumn::Close})
        if (!placeOf(needed))
            return unclear(1, fmt::format("no column of the header is known as the {}",
                                          priceColumnName(needed)));
    readings.dayForms = formsOf(columnOf(rows, *placeOf(PriceColumn::Time)));
    if (!readings.dayForms.empty())
        layout.dayForm = readings.dayForms.front();
    Cells prices;
    for (const PriceColumn column : {PriceColumn::Open, PriceColumn::High, PriceColumn::Low,
                                     PriceColumn::Close, PriceColumn::AdjustedClose})
        if (const auto place = placeOf(column))
            std::ranges::move(columnOf(rows, *place), std::back_inserter(prices));
    const auto volume = placeOf(PriceColumn::Volume);
    readings.marks = marksOf(layout, prices, volume ? columnOf(rows, *volume) : Cells());
    if (!readings.marks.empty()) { // where none fits all, bad rows are told one by one
        layout.decimalMark = readings.marks.front().decimal;
        layout.thousandsMark = readings.marks.front().thousands;
    }
    return readings;
}

LocatedError LayoutReadings::question() const
{
    if (dayForms.size() > 1)
        return unclear(2, "the days may be read as day, month, year or as month, day, year");
    return unclear(2,
                   fmt::format("the prices may be read with '{}' before their decimals or between "
                               "their thousands",
                               marks.front().decimal));
}

Result<PriceLayout> recogniseLayout(std::string_view sample)
{
    const Result<LayoutReadings> readings = readingsOf(sample);
    if (!readings)
        return readings.error();
    if (holdsMinutes(sample, readings->layout))
        return minutesFound();
    if (!readings->isClear())
        return readings->question();
    return readings->layout;
}

LocatedError minutesFound()
{
    return {unclear(2, "").where, "rows of one day follow each other: these are bars of minutes",
            "put them into the folder bars/minute of a dataset"};
}

bool holdsMinutes(std::string_view sample, const PriceLayout& layout)
{
    const std::vector<Cells> rows = cellsOf(sample, layout.separator);
    if (rows.empty())
        return false;
    const auto placeOf = [&](PriceColumn column) { // beyond all cells where there is none
        const std::string& heading = layout.heading(column);
        return heading.empty() ? std::string::npos
                               : static_cast<std::size_t>(std::ranges::find(rows[0], heading) -
                                                          rows[0].begin());
    };
    const std::size_t time = placeOf(PriceColumn::Time);
    const std::size_t symbol = placeOf(PriceColumn::Symbol);
    std::map<std::string, Cells> ofDay; // the first row of each symbol and day
    std::size_t others = 0;
    for (const Cells& row : std::span(rows).subspan(1)) {
        if (time >= row.size())
            continue;
        const std::string day = row[time].substr(0, row[time].find_first_of(" T"));
        const std::string key = (symbol < row.size() ? row[symbol] : std::string()) + '\n' + day;
        const auto [first, isFirst] = ofDay.emplace(key, row);
        others += !isFirst && first->second != row ? 1U : 0U; // a row once more is no minute
    }
    return 2 * others > rows.size();
}

std::string toToml(const PriceLayout& layout)
{
    toml::table columns;
    for (std::size_t i = 0; i < priceColumnCount; ++i)
        if (!layout.headings.at(i).empty())
            columns.insert(columnNames.at(i), layout.headings.at(i));
    const toml::table file{{"separator", markName(layout.separator)},
                           {"decimal_mark", markName(layout.decimalMark)},
                           {"thousands_mark", markName(layout.thousandsMark)},
                           {"days", std::string(dayFormName(layout.dayForm))},
                           {"columns", columns}};
    std::ostringstream text;
    text << file << "\n";
    return text.str();
}

Result<PriceLayout> layoutFromToml(std::string_view text)
{
    const auto located = [](const toml::source_region& region, std::string problem,
                            std::string remedy) {
        SourceRange where;
        where.line = region.begin.line;
        where.column = region.begin.column;
        return LocatedError{where, std::move(problem), std::move(remedy)};
    };
    toml::table file;
    try {
        file = toml::parse(text);
    } catch (const toml::parse_error& fault) {
        return located(fault.source(), std::string(fault.description()), "write TOML");
    }
    for (const auto& [key, node] : file)
        if (std::ranges::find(layoutKeys, key.str()) == layoutKeys.end())
            return located(node.source(), fmt::format("'{}' is no key of a mapping", key.str()),
                           fmt::format("{}", fmt::join(layoutKeys, ", ")));
    PriceLayout layout;
    const std::array<std::pair<const char*, char*>, 3> marks{
        {{"separator", &layout.separator},
         {"decimal_mark", &layout.decimalMark},
         {"thousands_mark", &layout.thousandsMark}}};
    for (const auto& [key, mark] : marks) {
        const toml::node* node = file.get(key);
        if (!node)
            continue;
        const auto named = markNamed(node->value_or(std::string_view()));
        if (!named)
            return located(node->source(), fmt::format("{} is no mark", key),
                           "one character, \"tab\" or \"none\"");
        *mark = *named;
    }
    if (const toml::node* node = file.get("days")) {
        const auto form = dayFormNamed(node->value_or(std::string_view()));
        if (!form)
            return located(node->source(), "no form of days",
                           "2025-03-14, 20250314, 14.03.2025 or 03/14/2025");
        layout.dayForm = *form;
    }
    if (const toml::node* node = file.get("columns"); node && !node->is_table())
        return located(node->source(), "columns is no table", "[columns] with a heading a column");
    if (const toml::table* columns = file["columns"].as_table())
        for (const auto& [key, node] : *columns) {
            const auto* known = std::ranges::find(columnNames, key.str());
            if (known == columnNames.end())
                return located(node.source(), fmt::format("'{}' is no column of prices", key.str()),
                               fmt::format("{}", fmt::join(columnNames, ", ")));
            const auto heading = node.value<std::string>();
            if (!heading || heading->empty())
                return located(node.source(), fmt::format("{} has no heading", key.str()),
                               "the heading of its column, in quotes");
            layout.headings.at(static_cast<std::size_t>(known - columnNames.begin())) = *heading;
        }
    for (const PriceColumn needed : {PriceColumn::Time, PriceColumn::Close})
        if (layout.heading(needed).empty())
            return located(file.source(),
                           fmt::format("the mapping has no column '{}'", priceColumnName(needed)),
                           "[columns] with at least time and close");
    return layout;
}

std::string sampleOf(const std::filesystem::path& file, std::size_t bytes)
{
    std::string sample(bytes, '\0');
    sample.resize(openBytes(file)->read(sample));
    return sample;
}

} // namespace sieve::intake
