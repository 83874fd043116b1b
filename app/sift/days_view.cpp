#include "app/sift/days_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "app/sift/day_line.h"

#include <QComboBox>
#include <QDateEdit>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr std::size_t sessionsOfAYear = 252;

/// Choices of the box that are no number of sessions.
constexpr int lastVisit = -1;
constexpr int anyDay = -2;

} // namespace

DaysView::DaysView(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), since_(new QComboBox), day_(new QDateEdit),
      summary_(new QLabel), line_(new DayLine), changes_(new QTreeWidget)
{
    since_->setAccessibleName(tr("Since when"));
    since_->addItem(tr("since the session before"), 1);
    since_->addItem(tr("since a week ago"), 5);
    since_->addItem(tr("since a month ago"), 21);
    since_->addItem(tr("since a quarter ago"), 63);
    since_->addItem(tr("since the last visit"), lastVisit);
    since_->addItem(tr("since the day"), anyDay);
    day_->setAccessibleName(tr("Since the day"));
    day_->setCalendarPopup(true);
    day_->setDisplayFormat(QStringLiteral("d MMM yyyy"));
    day_->hide();
    setTone(summary_, Tone::Soft);
    changes_->setProperty("roomy", true);
    changes_->setAccessibleName(tr("Who came in and who went out"));
    changes_->setColumnCount(3);
    changes_->setHeaderHidden(true);
    changes_->setRootIsDecorated(false);
    changes_->header()->setStretchLastSection(true);
    changes_->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    changes_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(6, 2, 6, 0);
    head->addWidget(since_);
    head->addWidget(day_);
    head->addWidget(summary_, 1);
    setFocusProxy(changes_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(2);
    layout->addWidget(line_);
    layout->addLayout(head);
    layout->addWidget(changes_, 1);
    connect(since_, &QComboBox::activated, this, [this] {
        day_->setVisible(since_->currentData().toInt() == anyDay);
        ask();
    });
    connect(day_, &QDateEdit::dateChanged, this, &DaysView::ask);
    connect(&desk_.market(), &OpenMarket::opened, changes_, &QTreeWidget::clear);
    connect(line_, &DayLine::dayWanted, &desk_.focus(), &Focus::setDay);
    connect(changes_, &QTreeWidget::currentItemChanged, this, [this](const QTreeWidgetItem* item) {
        if (item)
            desk_.focus().select(item->data(0, stockRole).toULongLong());
    });
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
}

void DaysView::setScreen(const screens::Screen& screen)
{
    screen_ = screen;
    rememberVisit();
    ask();
}

std::string DaysView::visitKey() const
{
    return "last_visit/" + screen_.name;
}

/// A visit is a newest session on which the screen was looked at: the one now and the one before.
void DaysView::rememberVisit()
{
    if (!desk_.market().isOpen() || !desk_.focus().isLatest() || screen_.name.empty())
        return;
    const QStringList kept = text(desk_.settings().value(visitKey())).split(QLatin1Char(' '));
    const QString now = text(desk_.focus().day().iso());
    if (kept.value(0) != now)
        desk_.settings().set(visitKey(),
                             utf8(kept.value(0).isEmpty() ? now : now + u' ' + kept[0]));
}

std::optional<Day> DaysView::since() const
{
    const int sessions = since_->currentData().toInt();
    if (sessions == lastVisit)
        return Day::parse(
            utf8(text(desk_.settings().value(visitKey())).split(QLatin1Char(' ')).value(1)));
    if (sessions == anyDay)
        return dayOf(day_->date());
    const auto all = desk_.market().data().sessions();
    const auto here = std::ranges::upper_bound(all, desk_.focus().day()) - all.begin() - 1;
    return all[static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, here - sessions))];
}

void DaysView::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    ask();
}

void DaysView::ask()
{
    if (!isVisible() || !desk_.market().isOpen() || screen_.name.empty())
        return;
    const auto sessions = desk_.market().data().sessions();
    const auto end = static_cast<std::size_t>(
        std::ranges::upper_bound(sessions, desk_.focus().day()) - sessions.begin());
    if (end == 0)
        return;
    const std::size_t first = end - std::min(end, sessionsOfAYear);
    if (const QSignalBlocker quiet(day_);
        day_->date() > dateOf(sessions.back()) || day_->date() < dateOf(sessions.front())) {
        day_->setDateRange(dateOf(sessions.front()), dateOf(sessions.back()));
        day_->setDate(dateOf(sessions[first]));
    }
    const auto wanted = since();
    if (!wanted) {
        summary_->setText(tr("This is the first visit to this screen."));
        changes_->clear();
        return;
    }
    const Day from = desk_.market().data().sessionOnOrBefore(*wanted).value_or(sessions.front());
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), screen = screen_,
         first, end, since = from, day = sessions[end - 1]](const Progress& progress) {
            const auto days = evaluator->market().sessions().subspan(first, end - first);
            const language::Names names = book->names();
            return Answer{{days.begin(), days.end()},
                          screens::passingOver(screen, names, *evaluator, days, progress),
                          since,
                          screens::changesBetween(screen, names, *evaluator, since, day, progress)};
        },
        [this](const Answer& answer) { show(answer); });
}

void DaysView::show(const Answer& answer)
{
    line_->show(answer.days, answer.passing);
    summary_->setText(tr("since %1: %2 came in, %3 went out, %4 stayed")
                          .arg(shortDayText(answer.since))
                          .arg(answer.changes.entered.size())
                          .arg(answer.changes.left.size())
                          .arg(answer.changes.stayed.size()));
    const QSignalBlocker quiet(changes_);
    changes_->clear();
    const auto add = [this](const std::vector<std::size_t>& stocks, const QString& what,
                            const QColor& colour) {
        for (const std::size_t stock : stocks) {
            const market::Instrument& instrument = desk_.market().data().instrument(stock);
            auto* item = new QTreeWidgetItem(changes_);
            item->setData(0, stockRole, QVariant::fromValue<qulonglong>(stock));
            item->setText(0, what);
            item->setForeground(0, colour);
            item->setText(1, text(instrument.symbol));
            item->setFont(1, fontOf(Weight::SemiBold));
            item->setText(2, text(instrument.name));
        }
    };
    add(answer.changes.entered, tr("+ came in"), look().rise);
    add(answer.changes.left, tr("− went out"), look().fall);
}

} // namespace sieve::app
