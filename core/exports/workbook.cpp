#include "core/exports/sheet.h"

#include "core/base/missing.h"

#include <algorithm>
#include <cerrno>
#include <cmath>
#include <memory>
#include <system_error>
#include <xlsxwriter.h>

namespace sieve::exports {

namespace {

struct Formats {
    lxw_format* head;
    lxw_format* percent;
    lxw_format* figure;
    lxw_format* day;

    explicit Formats(lxw_workbook* book)
        : head(workbook_add_format(book)), percent(workbook_add_format(book)),
          figure(workbook_add_format(book)), day(workbook_add_format(book))
    {
        format_set_bold(head);
        format_set_bottom(head, LXW_BORDER_THIN);
        format_set_num_format(percent, "0.0%");
        format_set_num_format(figure, "#,##0.00##");
        format_set_num_format(day, "yyyy-mm-dd");
    }
};

bool isShare(const Sheet& sheet, std::size_t column)
{
    return column < sheet.units.size() && sheet.units[column] == Unit::Percent;
}

std::string headOf(const Sheet& sheet, std::size_t column)
{
    const bool isTold = column < sheet.units.size() && sheet.units[column] != Unit::Plain;
    return isTold ? sheet.columns[column] + " (" + std::string(unitName(sheet.units[column])) + ")"
                  : sheet.columns[column];
}

/// Writes a cell and says how wide it is about, in characters.
std::size_t write(lxw_worksheet* page, lxw_row_t row, lxw_col_t column, const Cell& cell,
                  lxw_format* figures, const Formats& formats)
{
    if (const auto* value = std::get_if<double>(&cell)) {
        if (std::isfinite(*value))
            worksheet_write_number(page, row, column, *value, figures);
        return 12;
    }
    if (const auto* isYes = std::get_if<bool>(&cell)) {
        worksheet_write_boolean(page, row, column, *isYes ? 1 : 0, nullptr);
        return 6;
    }
    if (const auto* text = std::get_if<std::string>(&cell)) {
        worksheet_write_string(page, row, column, text->c_str(), nullptr);
        return text->size();
    }
    if (const auto* day = std::get_if<Day>(&cell)) {
        const auto date = day->date();
        lxw_datetime time{};
        time.year = static_cast<int>(date.year());
        time.month = static_cast<int>(static_cast<unsigned>(date.month()));
        time.day = static_cast<int>(static_cast<unsigned>(date.day()));
        worksheet_write_datetime(page, row, column, &time, formats.day);
        return 11;
    }
    return 0;
}

void fill(lxw_workbook* book, const Sheet& sheet)
{
    const Formats formats(book);
    lxw_worksheet* page = workbook_add_worksheet(book, nullptr);
    for (std::size_t i = 0; i < sheet.columns.size(); ++i) {
        const auto column = static_cast<lxw_col_t>(i);
        const std::string head = headOf(sheet, i);
        worksheet_write_string(page, 0, column, head.c_str(), formats.head);
        std::size_t width = head.size();
        for (std::size_t row = 0; row < sheet.rows.size(); ++row)
            if (i < sheet.rows[row].size())
                width = std::max(
                    width, write(page, static_cast<lxw_row_t>(row + 1), column, sheet.rows[row][i],
                                 isShare(sheet, i) ? formats.percent : formats.figure, formats));
        worksheet_set_column(page, column, column,
                             static_cast<double>(std::clamp<std::size_t>(width, 6, 40)) + 2.0,
                             nullptr);
    }
    worksheet_freeze_panes(page, 1, 1);
}

} // namespace

void writeWorkbook(const std::filesystem::path& file, const Sheet& sheet)
{
    std::filesystem::path aside = file;
    aside += ".part";
    lxw_workbook* book = workbook_new(aside.c_str());
    if (!book)
        throw std::system_error(ENOMEM, std::generic_category(), file.string());
    fill(book, sheet);
    errno = 0;
    if (workbook_close(book) != LXW_NO_ERROR) { // it writes all, and ends the book in any case
        const int fault = errno == 0 ? EIO : errno;
        std::error_code ignored;
        std::filesystem::remove(aside, ignored);
        throw std::system_error(fault, std::generic_category(), file.string());
    }
    std::filesystem::rename(aside, file);
}

} // namespace sieve::exports
