#include "app/sift/days_view.h"

#include "app/frame/desk.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "app/sift/day_line.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr std::size_t sessionsOfAYear = 252;
constexpr int stockRole = Qt::UserRole;

} // namespace

DaysView::DaysView(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), since_(new QComboBox), told_(new QLabel),
      line_(new DayLine), changes_(new QTreeWidget)
{
    since_->setAccessibleName(tr("Since when"));
    since_->addItem(tr("since the session before"), 1);
    since_->addItem(tr("since a week ago"), 5);
    since_->addItem(tr("since a month ago"), 21);
    since_->addItem(tr("since a quarter ago"), 63);
    setTone(told_, Tone::Soft);
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
    head->addWidget(told_, 1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(2);
    layout->addWidget(line_);
    layout->addLayout(head);
    layout->addWidget(changes_, 1);
    connect(since_, &QComboBox::activated, this, &DaysView::ask);
    connect(line_, &DayLine::dayWanted, &desk_, &Desk::setDay);
    connect(changes_, &QTreeWidget::currentItemChanged, this, [this](const QTreeWidgetItem* item) {
        if (item)
            desk_.select(item->data(0, stockRole).toULongLong());
    });
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
}

void DaysView::setScreen(const screens::Screen& screen)
{
    screen_ = screen;
    ask();
}

void DaysView::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    ask();
}

void DaysView::ask()
{
    if (!isVisible() || !desk_.hasMarket() || screen_.name.empty())
        return;
    const auto sessions = desk_.market().sessions();
    const auto end = static_cast<std::size_t>(std::ranges::upper_bound(sessions, desk_.day()) -
                                              sessions.begin());
    if (end == 0)
        return;
    const std::size_t first = end - std::min(end, sessionsOfAYear);
    const std::size_t back = std::min<std::size_t>(end - 1, since_->currentData().toULongLong());
    asker_.ask(
        [evaluator = desk_.evaluator(), book = desk_.nameBook(), screen = screen_, first, end,
         since = sessions[end - 1 - back], day = sessions[end - 1]](const Progress& progress) {
            const auto days = evaluator->market().sessions().subspan(first, end - first);
            const expressions::Names names = book->names();
            return Answer{{days.begin(), days.end()},
                          screens::passingOver(screen, names, *evaluator, days, progress),
                          since,
                          screens::changesBetween(screen, names, *evaluator, since, day)};
        },
        [this](const Answer& answer) { show(answer); });
}

void DaysView::show(const Answer& answer)
{
    line_->show(answer.days, answer.passing);
    told_->setText(tr("since %1: %2 came in, %3 went out, %4 stayed")
                       .arg(shortDayText(answer.since))
                       .arg(answer.changes.entered.size())
                       .arg(answer.changes.left.size())
                       .arg(answer.changes.stayed.size()));
    const QSignalBlocker quiet(changes_);
    changes_->clear();
    const auto add = [this](const std::vector<std::size_t>& stocks, const QString& what,
                            const QColor& colour) {
        for (const std::size_t stock : stocks) {
            const market::Instrument& instrument = desk_.market().instrument(stock);
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
