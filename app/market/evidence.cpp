#include "app/market/evidence.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/figure_table.h"
#include "app/parts/number_text.h"
#include "app/parts/own_widths.h"
#include "app/parts/remembered.h"
#include "core/conditions/own_screens.h"

#include <QHeaderView>
#include <QLabel>
#include <QPainter>
#include <QTableWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr std::size_t ownSessions = 60;

/// The first `texts` columns hold words, the others figures.
void addTable(QWidget* page, QLabel* head, QTableWidget* table, const QStringList& heads, int texts)
{
    prepareTable(table);
    table->setHorizontalHeaderLabels(heads);
    for (int column = 0; column < table->columnCount(); ++column)
        table->horizontalHeaderItem(column)->setTextAlignment(
            (column < texts ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter);
    table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    head->setWordWrap(true);
    auto* layout = new QVBoxLayout(page);
    layout->setContentsMargins(0, 6, 0, 0);
    layout->setSpacing(4);
    layout->addWidget(head);
    layout->addWidget(table, 1);
}

void setCell(QTableWidget* table, int row, int column, const QString& text, bool isFigure,
             const QColor& colour = {})
{
    auto* cell = new QTableWidgetItem(text);
    if (isFigure)
        cell->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    if (colour.isValid())
        cell->setForeground(colour);
    table->setItem(row, column, cell);
}

QColor colourOf(double change)
{
    return isMissing(change) ? look().softInk : change < 0.0 ? look().fall : look().rise;
}

} // namespace

DivergenceTable::DivergenceTable(QWidget* parent)
    : QWidget(parent), record_(new QLabel), table_(new QTableWidget(0, 6))
{
    addTable(
        this, record_, table_,
        {tr("Known on"), tr("Sign"), tr("Against"), tr("Turned"), tr("21 after"), tr("63 after")},
        4);
    table_->setAccessibleName(tr("Divergences"));
    table_->horizontalHeader()->setSectionResizeMode(2, QHeaderView::Stretch);
    remember(table_->horizontalHeader(), "market.divergences");
    connect(table_, &QTableWidget::itemSelectionChanged, this, [this] {
        const int row = table_->currentRow();
        if (shown_ && row >= 0 && row < static_cast<int>(shown_->divergences.size()))
            Q_EMIT chosen(shown_->divergences[static_cast<std::size_t>(row)]);
    });
}

void DivergenceTable::showRecord()
{
    std::vector<conditions::DivergenceFound> found;
    for (const LineShown::Diverging& each : shown_->divergences)
        found.push_back(each.found);
    const auto all = conditions::oncePerTurn(found);
    const auto weak = recordOf(all, conditions::Divergence::Weakening);
    const auto strong = recordOf(all, conditions::Divergence::Strengthening);
    if (shown_->divergences.empty())
        return record_->setText(tr("No pane has disagreed with the line at a turning point."));
    record_->setText(tr("63 sessions after %1 signs of weakness the line stood lower %2 times "
                        "(median %3); after "
                        "%4 of strength higher %5 times (median %6).")
                         .arg(weak.count)
                         .arg(weak.fulfilled)
                         .arg(signedText(weak.median, Unit::Percent, 1))
                         .arg(strong.count)
                         .arg(strong.fulfilled)
                         .arg(signedText(strong.median, Unit::Percent, 1)));
}

void DivergenceTable::show(const std::shared_ptr<const LineShown>& shown)
{
    shown_ = shown;
    showRecord();
    const QSignalBlocker quiet(table_);
    table_->setRowCount(static_cast<int>(shown->divergences.size()));
    const auto& days = shown->line.bars().days;
    for (int row = 0; row < table_->rowCount(); ++row) {
        const auto& [pane, found] = shown->divergences[static_cast<std::size_t>(row)];
        const bool isWeak = found.kind == conditions::Divergence::Weakening;
        setCell(table_, row, 0, shortDayText(days[found.knownOn]), false);
        setCell(table_, row, 1, isWeak ? tr("▼ weak") : tr("▲ strong"), false,
                isWeak ? look().fall : look().rise);
        setCell(table_, row, 2, text(shown->panes[pane].title), false);
        setCell(table_, row, 3, shortDayText(days[found.second]), false);
        table_->item(row, 3)->setToolTip(tr("Held against %1").arg(dayText(days[found.first])));
        setCell(table_, row, 4, signedText(found.after21, Unit::Percent, 1), true,
                colourOf(found.after21));
        setCell(table_, row, 5, signedText(found.after63, Unit::Percent, 1), true,
                colourOf(found.after63));
    }
    table_->clearSelection();
    const WidthFitting fitting(table_->horizontalHeader());
    for (const int column : {0, 1, 3, 4, 5}) {
        table_->resizeColumnToContents(column);
        fitting.fit(column, table_->columnWidth(column));
    }
}

StanceTable::StanceTable(QWidget* parent)
    : QWidget(parent), head_(new QLabel), table_(new QTableWidget(0, 5))
{
    addTable(this, head_, table_,
             {tr("Stance"), tr("Sessions"), tr("Times"), tr("Change"), tr("A year")}, 1);
    table_->setAccessibleName(tr("Past stances"));
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
}

void StanceTable::show(const conditions::Reading& reading, Day day)
{
    const auto bar = reading.market().barBy(day);
    const auto spells =
        bar ? conditions::stanceSpells(reading.stance, reading.market().bars().close, *bar)
            : std::vector<conditions::StanceSpell>();
    head_->setText(spells.empty()
                       ? tr("No rule can be answered yet by this day.")
                       : tr("What %1 did on the sessions after each close with that stance. Costs "
                            "and gaps between a rule and its execution are left out.")
                             .arg(text(reading.market().title)));
    table_->setRowCount(static_cast<int>(spells.size()));
    for (int row = 0; row < table_->rowCount(); ++row) {
        const conditions::StanceSpell& spell = spells[static_cast<std::size_t>(row)];
        setCell(table_, row, 0, tr("%1 at work").arg(numberText(spell.stance, Unit::Percent, 0)),
                false);
        setCell(table_, row, 1, numberText(static_cast<double>(spell.sessions), Unit::Plain, 0),
                true);
        setCell(table_, row, 2, numberText(static_cast<double>(spell.spells), Unit::Plain, 0),
                true);
        setCell(table_, row, 3, signedText(spell.change, Unit::Percent, 1), true,
                colourOf(spell.change));
        setCell(table_, row, 4, signedText(spell.changeAYear, Unit::Percent, 1), true,
                colourOf(spell.changeAYear));
    }
}

OwnScreensView::OwnScreensView(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), summary_(new QLabel)
{
    summary_->setWordWrap(true);
    summary_->setAccessibleName(tr("Health of your own screens"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 8, 0, 0);
    layout->addWidget(summary_);
    layout->addStretch(1);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    connect(&desk_.screenShelf(), &ScreenShelf::changed, this, [this] {
        isStale_ = true;
        ask();
    });
}

void OwnScreensView::show(Day day)
{
    day_ = day;
    isStale_ = true;
    ask();
}

QString OwnScreensView::recordText() const
{
    return summary_->text();
}

void OwnScreensView::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    ask();
}

void OwnScreensView::ask()
{
    if (!isStale_ || !isVisible() || !desk_.market().isOpen())
        return;
    isStale_ = false;
    std::vector<std::string> screens;
    for (const screens::Screen& screen : desk_.screenShelf().all())
        if (screen.side == screens::ScreenSide::Long)
            screens.push_back(screen.name);
    if (screens.empty()) {
        gained1_.clear();
        gained5_.clear();
        summary_->setText(
            tr("Save a long screen of your own in Sift: here you then see what share of "
               "its matches has gained since, day by day."));
        return update();
    }
    summary_->setText(tr("Putting your screens to the last %1 sessions…").arg(ownSessions));
    asker_.ask(
        [evaluator = desk_.market().evaluator(), names = desk_.work().nameBook(), screens,
         day = day_](const Progress& progress) {
            return conditions::readOwnScreens(*evaluator, names->names(), screens, day, ownSessions,
                                              progress);
        },
        [this, count = screens.size()](const conditions::OwnScreensReading& reading) {
            gained1_ = reading.gained1;
            gained5_ = reading.gained5;
            const auto last = [](const std::vector<double>& values) {
                return numberText(values.empty() ? missing : values.back(), Unit::Percent, 0);
            };
            summary_->setText(
                tr("Of the matches of your %1 long screens, %2 of those of yesterday and %3 of "
                   "those of five sessions ago (%4 in all) stand higher now.")
                    .arg(count)
                    .arg(last(gained1_), last(gained5_))
                    .arg(static_cast<int>(reading.matches5)));
            update();
        });
}

void OwnScreensView::paintEvent(QPaintEvent* event)
{
    QWidget::paintEvent(event);
    if (gained5_.empty())
        return;
    QPainter painter(this);
    const QRectF all = QRectF(rect()).adjusted(0, summary_->geometry().bottom() + 16, 0, -8);
    const auto draw = [&](const QRectF& area, const std::vector<double>& values,
                          const QString& title, const QColor& colour) {
        painter.fillRect(area, look().sheet);
        painter.setPen(QPen(look().rule, 1.0, Qt::DashLine));
        const QRectF field = area.adjusted(8, 24, -48, -8);
        painter.drawLine(QPointF(field.left(), field.center().y()),
                         QPointF(field.right(), field.center().y()));
        painter.setPen(colour);
        painter.setFont(fontOf(Weight::Medium, 0.92));
        painter.drawText(area.adjusted(8, 4, -8, 0), Qt::AlignLeft | Qt::AlignTop, title);
        painter.setPen(look().softInk);
        painter.drawText(QRectF(field.right() + 6, field.center().y() - 8, 42, 16),
                         Qt::AlignLeft | Qt::AlignVCenter, tr("half"));
        QPolygonF line;
        for (std::size_t i = 0; i < values.size(); ++i)
            if (!isMissing(values[i]))
                line << QPointF(field.left() + field.width() * static_cast<double>(i) /
                                                   static_cast<double>(values.size() - 1),
                                field.bottom() - field.height() * values[i]);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(colour, 1.5));
        painter.drawPolyline(line);
    };
    const double height = std::min((all.height() - 8.0) / 2.0, 140.0);
    draw({all.left(), all.top(), all.width(), height}, gained1_,
         tr("Matches of the session before that rose"), look().mark);
    draw({all.left(), all.top() + height + 8.0, all.width(), height}, gained5_,
         tr("Matches of five sessions ago that stand higher"), look().caution);
}

} // namespace sieve::app
