#include "app/weigh/dossier_picture.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "app/weigh/dossier_measures.h"

#include <QFontMetrics>
#include <algorithm>

namespace sieve::app {

namespace {

using dossier::Form;
using dossier::Row;
using dossier::Table;

int heightOfWords(const QFont& font, const QString& words, int width)
{
    return QFontMetrics(font)
        .boundingRect(QRect(0, 0, width, 10'000), Qt::TextWordWrap, words)
        .height();
}

/// Rows that tell of the one before them are painted with it, where that is a small picture.
bool isDrawn(const Table& table, const Row& row)
{
    return !(row.isOfFormer && table.form == Form::Periods);
}

/// Whether no worth is known of the group that begins with a row.
bool isGroupUnknown(const Table& table, std::size_t first)
{
    if (first > 0 && table.rows[first - 1].group == table.rows[first].group)
        return false;
    return std::ranges::all_of(table.rows, [&](const Row& row) {
        return row.group != table.rows[first].group || isMissing(row.cells[2].value);
    });
}

} // namespace

void DossierPicture::setDossier(std::shared_ptr<const dossier::Dossier> dossier,
                                market::MarketPtr market)
{
    dossier_ = std::move(dossier);
    market_ = std::move(market);
    lines_.clear();
}

std::optional<int> DossierPicture::topOf(std::string_view part) const
{
    for (const Line& line : lines_)
        if (line.kind == Kind::Part && line.part->key == part)
            return line.place.top();
    return {};
}

std::map<std::string, int> DossierPicture::heights() const
{
    std::map<std::string, int> heights;
    for (const Line& line : lines_)
        heights[line.part->key] = line.place.bottom() + 1 - *topOf(line.part->key);
    return heights;
}

int DossierPicture::layOut(int width)
{
    lines_.clear();
    columns_.clear();
    width_ = width;
    const int room = width - 2 * DossierMeasures::margin;
    int y = 4;
    if (dossier_ && room > 40)
        for (const dossier::Part& part : dossier_->parts)
            if (keys_.empty() || std::ranges::find(keys_, part.key) != keys_.end()) {
                const int top = y;
                layOutPart(part, room, y);
                if (const auto least = least_.find(part.key); least != least_.end())
                    y = std::max(y, top + least->second);
                y += 10;
            }
    return y + 10;
}

void DossierPicture::layOutPart(const dossier::Part& part, int width, int& y)
{
    const auto add = [&](Kind kind, int height, QString words) {
        lines_.push_back({kind, QRect(DossierMeasures::margin, y, width, height), &part, nullptr, 0,
                          std::move(words)});
        y += height;
    };
    add(Kind::Part, DossierMeasures::partHeight(), text(part.title));
    for (const std::string& words : part.words)
        add(Kind::Words, heightOfWords(DossierMeasures::wordsFont(), text(words), width) + 4,
            text(words));
    for (const Table& table : part.tables)
        if (!table.key.starts_with(isByYear_ ? "quarters." : "years."))
            addTable(part, table, width, y);
}

void DossierPicture::addTable(const dossier::Part& part, const Table& table, int width, int& y)
{
    const auto add = [&](Kind kind, int height, std::size_t row, QString words) {
        lines_.push_back({kind, QRect(DossierMeasures::margin, y, width, height), &part, &table,
                          row, std::move(words)});
        y += height;
    };
    add(Kind::Title, DossierMeasures::titleHeight(), 0, text(table.title));
    const bool isLegend = table.form == Form::Figures && &table == &part.tables.front();
    if (isLegend)
        add(Kind::Heads, DossierMeasures::rowHeight(), 0, {});
    if (table.form == Form::Table)
        columns_[&table] = columnsOf(table, width);
    if (table.form == Form::Table && table.heads.size() > 1)
        add(Kind::Heads, headHeight(table), 0, {});
    const auto addNote = [&](std::size_t row, const std::string& note) {
        add(Kind::Note, heightOfWords(DossierMeasures::smallFont(), text(note), width) + 4, row,
            text(note));
    };
    std::string group;
    for (std::size_t i = 0; i < table.rows.size(); ++i) {
        const Row& row = table.rows[i];
        if (!isDrawn(table, row))
            continue;
        if (row.group != group) {
            group = row.group;
            if (!group.empty())
                add(Kind::Group, DossierMeasures::rowHeight() + 4, i, text(group));
        }
        if (table.form == Form::Values && isGroupUnknown(table, i)) { // one line says why
            if (!row.cells[2].note.empty())
                addNote(i, row.cells[2].note);
            while (i + 1 < table.rows.size() && table.rows[i + 1].group == group)
                ++i;
            continue;
        }
        add(Kind::Row, heightOfRow(table, row, width), i, {});
    }
    for (const std::string& note : table.notes)
        addNote(0, note);
}

int DossierPicture::heightOfRow(const Table& table, const Row& row, int width) const
{
    const int line = DossierMeasures::rowHeight();
    switch (table.form) {
    case Form::Values: {
        const dossier::Cell& worth = row.cells[2];
        const bool hasFormula = !row.cells[0].expression.empty();
        return isMissing(worth.value) || hasFormula ? 2 * line - 2 : line;
    }
    case Form::Ranges:
        return 2 * line - 2;
    case Form::Checklist: {
        const int room = width - DossierMeasures::answerWidth() - DossierMeasures::figureWidth();
        return heightOfWords(DossierMeasures::wordsFont(), text(row.title), room) + 6;
    }
    case Form::Events: {
        const int room = width - DossierMeasures::dayWidth() - DossierMeasures::moveWidth();
        return std::min(heightOfWords(DossierMeasures::wordsFont(), text(row.cells[2].text), room),
                        4 * line - 6) +
               5;
    }
    default:
        return line;
    }
}

QString DossierPicture::textOf(const dossier::Cell& cell) const
{
    if (!cell.text.empty())
        return text(cell.text);
    const bool isOther = cell.unit == Unit::Money && !cell.isInMarketCurrency &&
                         dossier_->currency != dossier_->marketCurrency;
    if (isOther && !isMissing(cell.value))
        return otherMoneyText(cell.value, cell.decimals, dossier_->currency);
    return valueText(cell.value, cell.kind, cell.unit, cell.decimals, market_->texts());
}

} // namespace sieve::app
