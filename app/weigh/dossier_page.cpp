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

namespace sieve::app {

namespace {

using dossier::Form;
using dossier::Row;
using dossier::Table;

/// Whether the person answers it.
bool isOwnQuestion(const Table& table, const Row& row)
{
    return table.form == Form::Checklist && row.cells[0].expression.empty();
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
    const bool isSame =
        dossier && picture_.dossier() && dossier->stock == picture_.dossier()->stock;
    const std::string table = isSame && chosen_ ? chosenTable()->key : std::string();
    const std::string row = isSame && chosen_ ? nameOf(*chosenRow()) : std::string();
    chosen_.reset(); // the lines are others
    picture_.setDossier(std::move(dossier), std::move(market));
    layOut();
    if (table.empty())
        return;
    for (std::size_t i = 0; i < lines().size() && !chosen_; ++i)
        if (lines()[i].kind == Kind::Row && lines()[i].table->key == table &&
            nameOf(lines()[i].table->rows[lines()[i].row]) == row)
            chosen_ = i;
    setAccessibleDescription(spokenRow());
}

void DossierPage::setByYear(bool isByYear)
{
    picture_.setByYear(isByYear);
    layOut();
}

void DossierPage::setLeastHeights(std::map<std::string, int> heights)
{
    picture_.setLeastHeights(std::move(heights));
    layOut();
}

QString DossierPage::partAt(int y) const
{
    QString key;
    for (const Line& line : lines())
        if (line.kind == Kind::Part && line.place.top() <= y + DossierMeasures::margin)
            key = text(line.part->key);
    return key;
}

void DossierPage::layOut()
{
    const int height = picture_.layOut(width());
    if (chosen_ && (*chosen_ >= lines().size() || lines()[*chosen_].kind != Kind::Row))
        chosen_.reset();
    setMinimumHeight(height);
    update();
}

void DossierPage::paintEvent(QPaintEvent* event)
{
    QPainter painter(this);
    painter.fillRect(event->rect(), look().sheet);
    picture_.paint(painter, look(), event->rect(), chosen_);
}

void DossierPage::resizeEvent(QResizeEvent* event)
{
    if (event->size().width() != event->oldSize().width())
        layOut();
}

std::optional<std::size_t> DossierPage::lineAt(const QPoint& point) const
{
    for (std::size_t i = 0; i < lines().size(); ++i)
        if (lines()[i].place.contains(point))
            return i;
    return {};
}

const Row* DossierPage::chosenRow() const
{
    return chosen_ ? &lines()[*chosen_].table->rows[lines()[*chosen_].row] : nullptr;
}

const Table* DossierPage::chosenTable() const
{
    return chosen_ ? lines()[*chosen_].table : nullptr;
}

void DossierPage::choose(std::optional<std::size_t> line, int cell)
{
    if (line && lines()[*line].kind != Kind::Row)
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
        line && (lines()[*line].kind == Kind::Row || lines()[*line].kind == Kind::Title);
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
    if (lines()[*line].kind == Kind::Title)
        Q_EMIT tableAsked(*lines()[*line].table);
    choose(line);
    if (const Row* row = chosenRow()) { // a peer and an event are gone to by one click
        if (isOwnQuestion(*chosenTable(), *row))
            return Q_EMIT answerAsked(text(row->title));
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
    if (isOwnQuestion(*chosenTable(), *row))
        return Q_EMIT answerAsked(text(row->title));
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
    const auto count = static_cast<int>(lines().size());
    int at = chosen_ ? static_cast<int>(*chosen_) : by > 0 ? -1 : count;
    do
        at += by;
    while (at >= 0 && at < count && lines()[static_cast<std::size_t>(at)].kind != Kind::Row);
    if (at < 0 || at >= count)
        return;
    choose(static_cast<std::size_t>(at));
    Q_EMIT rowChosen(lines()[static_cast<std::size_t>(at)].place);
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
        told << head + picture_.textOf(row->cells[i]);
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
                                       picture_.market().texts()),
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
        const QString tip = line ? tipOf(lines()[*line]) : QString();
        tip.isEmpty() ? QToolTip::hideText()
                      : QToolTip::showText(help->globalPos(), tip, this, lines()[*line].place);
        return true;
    }
    if (event->type() == QEvent::FontChange || event->type() == QEvent::PaletteChange)
        layOut();
    return QWidget::event(event);
}

} // namespace sieve::app
