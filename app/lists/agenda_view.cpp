#include "app/lists/agenda_view.h"

#include "app/desk/calendar_keeper.h"
#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/lists/agenda_grid.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QSplitter>
#include <QToolButton>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

constexpr int dueRole = Qt::UserRole; ///< the instrument of a line

} // namespace

AgendaView::AgendaView(Desk& desk)
    : desk_(desk), asker_(this), of_(new QComboBox), span_(new QComboBox), title_(new QLabel),
      grid_(new AgendaGrid), dayTitle_(new QLabel), due_(new QTreeWidget),
      kept_(new QCheckBox(tr("&Keep a file up to date")))
{
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    of_->addItem(tr("all lists"));
    of_->addItem(tr("this list"));
    of_->setAccessibleName(tr("Calendar of"));
    span_->addItem(tr("month"));
    span_->addItem(tr("week"));
    span_->setAccessibleName(tr("Month or week"));
    remember(span_, "lists.agenda_span");
    title_->setFont(fontOf(Weight::SemiBold));
    dayTitle_->setFont(fontOf(Weight::SemiBold));
    due_->setAccessibleName(tr("Due on the day"));
    due_->setHeaderLabels({tr("Symbol"), tr("What"), tr("On"), tr("Words")});
    due_->setRootIsDecorated(false);
    due_->setProperty("roomy", true);
    connect(due_, &QTreeWidget::currentItemChanged, this, [this](const QTreeWidgetItem* item) {
        if (item && item->data(0, dueRole).isValid())
            Q_EMIT stockChosen(item->data(0, dueRole).toULongLong());
    });
    const auto stepper = [this](const QString& icon, const QString& name, int by) {
        auto* button = new QToolButton;
        button->setIcon(iconOf(icon, look().softInk));
        button->setAccessibleName(name);
        button->setToolTip(name);
        connect(button, &QToolButton::clicked, this, [this, by] { step(by); });
        return button;
    };
    auto* file = new QPushButton(tr("Save as i&Calendar…"));
    connect(file, &QPushButton::clicked, this, &AgendaView::save);
    connect(kept_, &QCheckBox::clicked, this, &AgendaView::keepFile);
    connect(of_, &QComboBox::activated, this, &AgendaView::ask);
    connect(span_, &QComboBox::currentIndexChanged, this, [this](int at) {
        grid_->setWeek(at == 1);
        ask();
    });
    connect(grid_, &AgendaGrid::dayChosen, this, &AgendaView::showDay);
    connect(grid_, &AgendaGrid::spanChanged, this, &AgendaView::ask);
    auto* head = new QHBoxLayout;
    head->addWidget(stepper(QStringLiteral("earlier"), tr("Earlier (Page Up)"), -1));
    head->addWidget(title_);
    head->addWidget(stepper(QStringLiteral("later"), tr("Later (Page Down)"), 1));
    head->addSpacing(12);
    head->addWidget(span_);
    head->addWidget(of_);
    head->addStretch(1);
    head->addWidget(kept_);
    head->addWidget(file);
    auto* day = new QWidget;
    auto* dayLayout = new QVBoxLayout(day);
    dayLayout->setContentsMargins(0, 0, 0, 0);
    dayLayout->addWidget(dayTitle_);
    dayLayout->addWidget(due_, 1);
    auto* split = new QSplitter;
    remember(split, "lists.agenda");
    split->setChildrenCollapsible(false);
    split->setHandleWidth(8);
    split->addWidget(grid_);
    split->addWidget(day);
    split->setSizes({680, 320});
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    layout->addLayout(head);
    layout->addWidget(split, 1);
    setFocusProxy(grid_);
}

void AgendaView::refresh(std::int64_t list)
{
    list_ = list;
    showKept();
    const Day asOf = desk_.focus().day();
    grid_->setToday(asOf);
    if (asOf_ != asOf) {
        asOf_ = asOf;
        grid_->setDay(asOf);
    }
    ask();
}

void AgendaView::ask()
{
    const Day middle = grid_->day();
    title_->setText(
        span_->currentIndex() == 1
            ? tr("%1 to %2").arg(shortDayText(grid_->first()), shortDayText(grid_->last()))
            : QLocale().toString(dateOf(middle), QStringLiteral("MMMM yyyy")));
    if (!desk_.market().isOpen())
        return;
    std::vector<Shared<watchlists::Watchlist>> lists;
    for (const auto& list : desk_.work().now().lists)
        if (of_->currentIndex() == 0 || list->id == list_)
            lists.push_back(list);
    asker_.ask(
        [market = desk_.market().evaluator()->marketPtr(), lists, asOf = desk_.focus().day(),
         from = grid_->first(), to = grid_->last()](const Progress&) {
            return watchlists::agendaOf(lists, *market, asOf, from, to);
        },
        [this](const std::vector<watchlists::AgendaItem>& items) { show(items); });
}

void AgendaView::show(const std::vector<watchlists::AgendaItem>& items)
{
    items_ = items;
    grid_->setItems(items);
    showDay();
}

void AgendaView::showDay()
{
    due_->clear();
    dayTitle_->setText(dayText(grid_->day()));
    for (const watchlists::AgendaItem& item : items_) {
        if (item.on != grid_->day())
            continue;
        QStringList lists;
        for (const std::string& list : item.lists)
            lists << text(list);
        auto* line = new QTreeWidgetItem({text(item.symbol), agendaWhatText(item.what),
                                          lists.join(QStringLiteral(", ")), text(item.words)});
        if (item.stock)
            line->setData(0, dueRole, QVariant::fromValue<qulonglong>(*item.stock));
        line->setFont(0, fontOf(Weight::SemiBold));
        due_->addTopLevelItem(line);
    }
    for (int column = 0; column < 3; ++column)
        due_->resizeColumnToContents(column);
}

void AgendaView::step(int by)
{
    constexpr int week = 7;
    const Day day = grid_->day();
    grid_->setDay(span_->currentIndex() == 1 ? day.plusDays(by * week) : day.plusMonths(by));
    ask();
}

void AgendaView::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_PageUp || event->key() == Qt::Key_PageDown)
        return step(event->key() == Qt::Key_PageUp ? -1 : 1);
    QWidget::keyPressEvent(event);
}

/// All that is announced from the newest session on, whatever is shown.
void AgendaView::save()
{
    const QString file = QFileDialog::getSaveFileName(
        this, tr("Save the calendar"), QStringLiteral("lists.ics"), tr("iCalendar (*.ics)"));
    if (!file.isEmpty())
        desk_.calendar().write(file);
}

void AgendaView::keepFile(bool isWanted)
{
    const QString file =
        isWanted
            ? QFileDialog::getSaveFileName(this, tr("The calendar that is kept up to date"),
                                           QStringLiteral("lists.ics"), tr("iCalendar (*.ics)"))
            : QString();
    if (!isWanted || !file.isEmpty())
        desk_.calendar().keep(file);
    showKept();
}

void AgendaView::showKept()
{
    const QString file = desk_.calendar().keptFile();
    kept_->setChecked(!file.isEmpty());
    kept_->setToolTip(file.isEmpty() ? tr("A file that is written anew whenever the market or "
                                          "your lists change")
                                     : tr("%1 is written anew whenever the market or your lists "
                                          "change")
                                           .arg(file));
}

} // namespace sieve::app
