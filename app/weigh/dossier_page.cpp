#include "app/weigh/dossier_page.h"

#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "app/weigh/dossier_measures.h"

#include <QApplication>
#include <QClipboard>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>

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

DossierPage::DossierPage(QWidget* parent) : QWidget(parent)
{
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Dossier"));
}

void DossierPage::show(std::shared_ptr<const dossier::Dossier> dossier, market::MarketPtr market)
{
    const bool isSame = dossier && dossier_ && dossier->stock == dossier_->stock;
    dossier_ = std::move(dossier);
    market_ = std::move(market);
    if (!isSame)
        chosen_.reset();
    layOut();
}

void DossierPage::setByYear(bool isByYear)
{
    isByYear_ = isByYear;
    layOut();
}

std::optional<int> DossierPage::topOf(std::string_view part) const
{
    for (const Line& line : lines_)
        if (line.kind == Kind::Part && line.part->key == part)
            return line.place.top();
    return {};
}

QString DossierPage::partAt(int y) const
{
    QString key;
    for (const Line& line : lines_)
        if (line.kind == Kind::Part && line.place.top() <= y + DossierMeasures::margin)
            key = text(line.part->key);
    return key;
}

void DossierPage::layOut()
{
    lines_.clear();
    columns_.clear();
    const int width = this->width() - 2 * DossierMeasures::margin;
    int y = 4;
    const auto add = [&](Kind kind, int height, const dossier::Part& part, QString words) {
        lines_.push_back({kind, QRect(DossierMeasures::margin, y, width, height), &part, nullptr, 0,
                          std::move(words)});
        y += height;
    };
    if (dossier_ && width > 40)
        for (const dossier::Part& part : dossier_->parts) {
            add(Kind::Part, DossierMeasures::partHeight(), part, text(part.title));
            for (const std::string& words : part.words)
                add(Kind::Words,
                    heightOfWords(DossierMeasures::wordsFont(), text(words), width) + 4, part,
                    text(words));
            for (const Table& table : part.tables)
                if (!table.key.starts_with(isByYear_ ? "quarters." : "years."))
                    addTable(part, table, width, y);
            y += 10;
        }
    if (chosen_ && (*chosen_ >= lines_.size() || lines_[*chosen_].kind != Kind::Row))
        chosen_.reset();
    setMinimumHeight(y + 10);
    update();
}

void DossierPage::addTable(const dossier::Part& part, const Table& table, int width, int& y)
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

int DossierPage::heightOfRow(const Table& table, const Row& row, int width) const
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

void DossierPage::paintEvent(QPaintEvent* event)
{
    QPainter painter(this);
    painter.fillRect(event->rect(), look().sheet);
    for (std::size_t i = 0; i < lines_.size(); ++i)
        if (lines_[i].place.intersects(event->rect()))
            paintLine(painter, lines_[i], chosen_ == i);
}

void DossierPage::resizeEvent(QResizeEvent* event)
{
    if (event->size().width() != event->oldSize().width())
        layOut();
}

std::optional<std::size_t> DossierPage::lineAt(const QPoint& point) const
{
    for (std::size_t i = 0; i < lines_.size(); ++i)
        if (lines_[i].place.contains(point))
            return i;
    return {};
}

const Row* DossierPage::chosenRow() const
{
    return chosen_ ? &lines_[*chosen_].table->rows[lines_[*chosen_].row] : nullptr;
}

const Table* DossierPage::chosenTable() const
{
    return chosen_ ? lines_[*chosen_].table : nullptr;
}

void DossierPage::choose(std::optional<std::size_t> line, int cell)
{
    if (line && lines_[*line].kind != Kind::Row)
        line.reset();
    if (chosen_ == line && cell_ == cell)
        return;
    chosen_ = line;
    cell_ = cell;
    setAccessibleDescription(spokenRow());
    update();
}

void DossierPage::mouseMoveEvent(QMouseEvent* event)
{
    const auto line = lineAt(event->pos());
    if (!hasFocus())
        choose(line);
    const bool isLink =
        line && (lines_[*line].kind == Kind::Row || lines_[*line].kind == Kind::Title);
    setCursor(isLink ? Qt::PointingHandCursor : Qt::ArrowCursor);
}

void DossierPage::leaveEvent(QEvent*)
{
    if (!hasFocus())
        choose({});
}

void DossierPage::focusOutEvent(QFocusEvent* event)
{
    QWidget::focusOutEvent(event);
    choose({});
}

void DossierPage::mousePressEvent(QMouseEvent* event)
{
    const auto line = lineAt(event->pos());
    if (event->button() != Qt::LeftButton || !line)
        return;
    if (lines_[*line].kind == Kind::Title)
        Q_EMIT tableAsked(*lines_[*line].table);
    choose(line);
    if (const Row* row = chosenRow()) { // a peer and an event are gone to by one click
        if (row->stock)
            Q_EMIT stockChosen(*row->stock);
        else if (chosenTable()->form == Form::Events)
            Q_EMIT dayChosen(Day::fromSerial(static_cast<std::int32_t>(row->cells[0].value)));
    }
}

void DossierPage::mouseDoubleClickEvent(QMouseEvent* event)
{
    choose(lineAt(event->pos()));
    open();
}

/// What Return does with the chosen row.
void DossierPage::open()
{
    const Row* row = chosenRow();
    if (!row)
        return;
    if (row->stock)
        return Q_EMIT stockChosen(*row->stock);
    if (chosenTable()->form == Form::Events)
        return Q_EMIT dayChosen(Day::fromSerial(static_cast<std::int32_t>(row->cells[0].value)));
    // The figure that is meant: the one gone to, else the newest or the one that the row is about.
    const int count = static_cast<int>(row->cells.size());
    const bool isNewest = chosenTable()->form == Form::Periods && cell_ == 0;
    const int about = chosenTable()->form == Form::Values && cell_ == 0 ? 2 : cell_;
    const auto& cell = row->cells[static_cast<std::size_t>(
        isNewest ? count - 1 : std::clamp(about, 0, count - 1))];
    if (!cell.expression.empty())
        Q_EMIT explanationAsked(text(cell.expression), text(row->title));
}

void DossierPage::step(int by)
{
    const auto count = static_cast<int>(lines_.size());
    int at = chosen_ ? static_cast<int>(*chosen_) : by > 0 ? -1 : count;
    do
        at += by;
    while (at >= 0 && at < count && lines_[static_cast<std::size_t>(at)].kind != Kind::Row);
    if (at < 0 || at >= count)
        return;
    choose(static_cast<std::size_t>(at));
    Q_EMIT rowChosen(lines_[static_cast<std::size_t>(at)].place);
}

void DossierPage::keyPressEvent(QKeyEvent* event)
{
    const Row* row = chosenRow();
    const int last = row ? static_cast<int>(row->cells.size()) - 1 : 0;
    if (event->matches(QKeySequence::Copy) && row) {
        QApplication::clipboard()->setText(spokenRow());
        return;
    }
    switch (event->key()) {
    case Qt::Key_Down:
        return step(1);
    case Qt::Key_Up:
        return step(-1);
    case Qt::Key_Left:
        return choose(chosen_, std::max(0, cell_ - 1));
    case Qt::Key_Right:
        return choose(chosen_, std::min(last, cell_ + 1));
    case Qt::Key_Return:
    case Qt::Key_Enter:
        return event->modifiers() == Qt::ShiftModifier && chosenTable()
                   ? Q_EMIT tableAsked(*chosenTable())
                   : open();
    default:
        QWidget::keyPressEvent(event);
    }
}

QString DossierPage::textOf(const dossier::Cell& cell) const
{
    if (!cell.text.empty())
        return text(cell.text);
    const bool isOther = cell.unit == Unit::Money && !cell.isInMarketCurrency &&
                         dossier_->currency != dossier_->marketCurrency;
    if (isOther && !isMissing(cell.value))
        return otherMoneyText(cell.value, cell.decimals, dossier_->currency);
    return valueText(cell.value, cell.kind, cell.unit, cell.decimals, market_->texts());
}

QString DossierPage::spokenRow() const
{
    const Row* row = chosenRow();
    if (!row)
        return {};
    const Table& table = *chosenTable();
    QStringList told{text(nameOf(*row))};
    for (std::size_t i = 0; i < row->cells.size(); ++i) {
        const QString head =
            i < table.heads.size() ? text(table.heads[i]) + QStringLiteral(": ") : QString();
        told << head + textOf(row->cells[i]);
    }
    return told.join(QStringLiteral("; "));
}

QString DossierPage::tipOf(const Line& line) const
{
    if (line.kind == Kind::Title)
        return tr("Click for all of it as a table, to copy or save.");
    if (line.kind != Kind::Row)
        return {};
    const Row& row = line.table->rows[line.row];
    QStringList told;
    if (!row.meaning.empty())
        told << text(row.meaning) + QStringLiteral(".");
    for (std::size_t i = 0; i < row.cells.size(); ++i) {
        const dossier::Cell& cell = row.cells[i];
        if (!cell.note.empty())
            told << text(cell.note);
        if (cell.restated)
            told << tr("%1: first said %2 on %3, restated on %4.")
                        .arg(i < line.table->heads.size() ? text(line.table->heads[i]) : QString(),
                             valueText(cell.restated->first, cell.kind, cell.unit, cell.decimals,
                                       market_->texts()),
                             shortDayText(cell.restated->firstOn),
                             shortDayText(cell.restated->lastOn));
    }
    return told.join(QLatin1Char('\n'));
}

bool DossierPage::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip) {
        auto* help = static_cast<QHelpEvent*>(event);
        const auto line = lineAt(help->pos());
        const QString tip = line ? tipOf(lines_[*line]) : QString();
        tip.isEmpty() ? QToolTip::hideText()
                      : QToolTip::showText(help->globalPos(), tip, this, lines_[*line].place);
        return true;
    }
    if (event->type() == QEvent::FontChange || event->type() == QEvent::PaletteChange)
        layOut();
    return QWidget::event(event);
}

} // namespace sieve::app
