#include "app/desk/alerts_dialog.h"

#include "app/desk/alert_dialog.h"
#include "app/desk/alert_keeper.h"
#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/language/checker.h"
#include "core/market/as_of.h"
#include "core/watchlists/alert_watch.h"

#include <QCheckBox>
#include <QDialogButtonBox>
#include <QHeaderView>
#include <QPushButton>
#include <QTabWidget>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

using watchlists::Alert;
using watchlists::Raised;

namespace {

constexpr int raisedRole = Qt::UserRole; ///< of a line: the id of what was told, or of the alert

AlertDialog::Asked askedOf(Desk& desk)
{
    return {[&desk](const QString& typed) -> std::optional<LocatedError> {
                engine::Plan plan;
                const auto book = desk.work().nameBook();
                const auto checked = language::checkCondition(utf8(typed), book->names(), plan);
                return checked ? std::nullopt : std::optional(checked.error());
            },
            [&desk](const QString& symbol) {
                return !desk.market().isOpen() ||
                       desk.market().data().find(utf8(symbol)).has_value();
            }};
}

/// An alert is about what comes: it is set at the newest close, whatever the as-of day.
Day newestDay(Desk& desk)
{
    return desk.market().isOpen() && !desk.market().data().sessions().empty()
               ? desk.market().data().sessions().back()
               : desk.focus().day();
}

} // namespace

void makeAlert(Desk& desk, Alert begun, QWidget* window)
{
    const Work work = desk.work().now();
    const Day newest = newestDay(desk);
    if (!isMissing(begun.level) && desk.market().isOpen()) {
        // The level was read on the as-of day; shares may have been split since.
        const market::Market& market = desk.market().data();
        const auto stock = market.find(begun.about.symbol, desk.focus().day());
        const auto bar = stock ? market::lastBarBy(market, *stock, newest) : std::nullopt;
        if (bar) {
            begun.level *=
                market.priceFactor(*stock, desk.focus().day(), market.footing(*stock, *bar));
            begun.about.symbol = market::symbolOn(market.instrument(*stock), newest);
        }
    }
    begun.since = newest;
    AlertDialog dialog(work, begun, askedOf(desk), window);
    if (dialog.exec() != QDialog::Accepted)
        return;
    Alert alert = dialog.alert();
    alert.id = desk.work().newId();
    if (desk.work().edit(AlertsDialog::tr("New alert"), [&](Work& now) { keepAlert(now, alert); }))
        Q_EMIT desk.told(
            AlertsDialog::tr("Alert: %1").arg(text(watchlists::sentenceOf(alert, work.lists))));
}

AlertsDialog::AlertsDialog(Desk& desk, QWidget* parent)
    : QDialog(parent), desk_(desk), tabs_(new QTabWidget), told_(new QTreeWidget),
      alerts_(new QTreeWidget), onDesktop_(new QCheckBox(tr("Show on the &desktop"))),
      withSound_(new QCheckBox(tr("With a so&und")))
{
    setWindowTitle(tr("Alerts"));
    resize(820, 520);
    tabs_->addTab(makeTold(), tr("What they told"));
    tabs_->addTab(makeAlerts(), tr("Alerts"));
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* foot = new QHBoxLayout;
    foot->addWidget(onDesktop_);
    foot->addWidget(withSound_);
    foot->addStretch(1);
    foot->addWidget(buttons);
    onDesktop_->setChecked(desk.settings().value(alertsOnDesktopKey) != "0");
    withSound_->setChecked(desk.settings().value(alertsWithSoundKey) == "1");
    connect(onDesktop_, &QCheckBox::toggled, this,
            [this](bool isOn) { desk_.settings().set(alertsOnDesktopKey, isOn ? "1" : "0"); });
    connect(withSound_, &QCheckBox::toggled, this,
            [this](bool isOn) { desk_.settings().set(alertsWithSoundKey, isOn ? "1" : "0"); });
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(tabs_, 1);
    layout->addLayout(foot);
    connect(&desk.alerts(), &AlertKeeper::logChanged, this, &AlertsDialog::fillTold);
    connect(&desk.work(), &Workbench::alertsChanged, this, &AlertsDialog::fillAlerts);
    connect(&desk.work(), &Workbench::listsChanged, this, &AlertsDialog::fillAlerts);
    fillTold();
    fillAlerts();
}

void AlertsDialog::showAlerts()
{
    tabs_->setCurrentIndex(1);
}

QWidget* AlertsDialog::makeTold()
{
    told_->setAccessibleName(tr("What alerts told"));
    told_->setHeaderLabels({tr("Day"), tr("Stock"), tr("What happened"), tr("Value"), tr("Note")});
    told_->setRootIsDecorated(false);
    told_->setUniformRowHeights(true);
    told_->setProperty("roomy", true);
    told_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    told_->header()->setStretchLastSection(false);
    told_->header()->setSectionResizeMode(2, QHeaderView::Stretch);
    connect(told_, &QTreeWidget::itemActivated, this, &AlertsDialog::follow);
    auto* seen = new QPushButton(tr("&Seen"));
    auto* all = new QPushButton(tr("&All seen"));
    auto* look = new QPushButton(tr("&Look at it"));
    connect(seen, &QPushButton::clicked, this, [this] { markSeen(false); });
    connect(all, &QPushButton::clicked, this, [this] { markSeen(true); });
    connect(look, &QPushButton::clicked, this, &AlertsDialog::follow);
    auto* row = new QHBoxLayout;
    for (QPushButton* button : {seen, all, look}) {
        button->setAutoDefault(false);
        row->addWidget(button);
    }
    row->addStretch(1);
    auto* sheet = new QWidget;
    auto* layout = new QVBoxLayout(sheet);
    layout->addWidget(told_, 1);
    layout->addLayout(row);
    return sheet;
}

QWidget* AlertsDialog::makeAlerts()
{
    alerts_->setAccessibleName(tr("Alerts"));
    alerts_->setHeaderLabels({tr("Waits for"), tr("Told"), tr("Set on"), tr("State"), tr("Note")});
    alerts_->setRootIsDecorated(false);
    alerts_->setUniformRowHeights(true);
    alerts_->setProperty("roomy", true);
    alerts_->header()->setStretchLastSection(false);
    alerts_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    connect(alerts_, &QTreeWidget::itemActivated, this, &AlertsDialog::change);
    auto* row = new QHBoxLayout;
    const auto add = [&](const QString& title, auto act) {
        auto* button = new QPushButton(title);
        button->setAutoDefault(false);
        connect(button, &QPushButton::clicked, this, act);
        row->addWidget(button);
    };
    add(tr("&New…"), [this] {
        Alert begun;
        begun.what = Alert::What::Rule;
        makeAlert(desk_, begun, this);
    });
    add(tr("&Change…"), [this] { change(); });
    add(tr("&Remove"), [this] { remove(); });
    add(tr("&On or off"), [this] { turn(); });
    add(tr("&Quiet for a week"), [this] { quieten(); });
    row->addStretch(1);
    auto* sheet = new QWidget;
    auto* layout = new QVBoxLayout(sheet);
    layout->addWidget(alerts_, 1);
    layout->addLayout(row);
    return sheet;
}

void AlertsDialog::fillTold()
{
    told_->clear();
    const Work& work = desk_.work().now();
    const auto& log = desk_.alerts().log();
    for (auto raised = log.rbegin(); raised != log.rend(); ++raised) { // the newest first
        const Alert* alert = work.findAlert(raised->alert);
        auto* item = new QTreeWidgetItem(
            {shortDayText(raised->on) + (raised->isLate ? tr(", told late") : QString()),
             text(raised->symbol), text(raised->words),
             isMissing(raised->value) ? QString() : numberText(raised->value, Unit::Plain, 2),
             alert ? text(alert->words) : QString()});
        item->setData(0, raisedRole, static_cast<qlonglong>(raised->id));
        item->setTextAlignment(3, Qt::AlignRight | Qt::AlignVCenter);
        item->setToolTip(2, text(raised->words));
        if (!raised->isSeen)
            for (int column = 0; column < told_->columnCount(); ++column)
                item->setFont(column, fontOf(Weight::SemiBold));
        told_->addTopLevelItem(item);
    }
    for (const int column : {0, 1, 3})
        told_->resizeColumnToContents(column);
    const std::size_t unseen = desk_.alerts().unseen();
    tabs_->setTabText(0,
                      unseen == 0 ? tr("What they told") : tr("What they told (%1)").arg(unseen));
}

void AlertsDialog::fillAlerts()
{
    const auto former = chosen();
    alerts_->clear();
    const Work& work = desk_.work().now();
    for (const auto& alert : *work.alerts) {
        const QString state = !alert->isOn ? tr("off")
                              : alert->quietTo
                                  ? tr("quiet to %1").arg(shortDayText(*alert->quietTo))
                                  : tr("on");
        auto* item = new QTreeWidgetItem({text(watchlists::sentenceOf(*alert, work.lists)),
                                          text(watchlists::repeatName(alert->repeat)),
                                          shortDayText(alert->since), state, text(alert->words)});
        item->setData(0, raisedRole, static_cast<qlonglong>(alert->id));
        item->setToolTip(0, item->text(0));
        alerts_->addTopLevelItem(item);
        if (former && former->id == alert->id)
            alerts_->setCurrentItem(item);
    }
    if (!alerts_->currentItem() && alerts_->topLevelItemCount() > 0)
        alerts_->setCurrentItem(alerts_->topLevelItem(0));
    for (const int column : {1, 2, 3})
        alerts_->resizeColumnToContents(column);
}

void AlertsDialog::markSeen(bool areAll)
{
    std::vector<std::int64_t> ids;
    if (areAll) {
        for (const Raised& raised : desk_.alerts().log())
            if (!raised.isSeen)
                ids.push_back(raised.id);
    } else {
        for (const QTreeWidgetItem* item : told_->selectedItems())
            ids.push_back(item->data(0, raisedRole).toLongLong());
    }
    if (!ids.empty())
        desk_.alerts().setSeen(ids);
}

/// To the stock, as of the day on which it was told of.
void AlertsDialog::follow()
{
    const QTreeWidgetItem* item = told_->currentItem();
    if (!item || !desk_.market().isOpen())
        return;
    const auto& log = desk_.alerts().log();
    const auto raised = std::ranges::find(log, item->data(0, raisedRole).toLongLong(), &Raised::id);
    if (raised == log.end() || raised->symbol.empty())
        return;
    const auto stock = desk_.market().data().find(raised->symbol, raised->on);
    if (!stock)
        return Q_EMIT desk_.noticed(tr("This market has no stock “%1”.").arg(text(raised->symbol)));
    desk_.focus().select(*stock);
    desk_.navigator().show(PlaceId::Weigh);
}

std::optional<Alert> AlertsDialog::chosen() const
{
    const QTreeWidgetItem* item = alerts_->currentItem();
    const Alert* alert =
        item ? desk_.work().now().findAlert(item->data(0, raisedRole).toLongLong()) : nullptr;
    return alert ? std::optional(*alert) : std::nullopt;
}

void AlertsDialog::change()
{
    const auto alert = chosen();
    if (!alert)
        return;
    const Work work = desk_.work().now();
    AlertDialog dialog(work, *alert, askedOf(desk_), this);
    if (dialog.exec() != QDialog::Accepted || dialog.alert() == *alert)
        return;
    Alert changed = dialog.alert();
    changed.since = newestDay(desk_); // another thing is waited for from now on
    desk_.work().edit(tr("Change an alert"), [&](Work& now) { keepAlert(now, changed); });
}

void AlertsDialog::remove()
{
    if (const auto alert = chosen())
        desk_.work().edit(tr("Remove an alert"), [&](Work& now) { removeAlert(now, alert->id); });
}

void AlertsDialog::turn()
{
    auto alert = chosen();
    if (!alert)
        return;
    alert->isOn = !alert->isOn;
    desk_.work().edit(alert->isOn ? tr("Alert on") : tr("Alert off"),
                      [&](Work& now) { keepAlert(now, *alert); });
}

void AlertsDialog::quieten()
{
    auto alert = chosen();
    if (!alert)
        return;
    constexpr int week = 7;
    alert->quietTo = newestDay(desk_).plusDays(week);
    desk_.work().edit(tr("Set an alert aside for a week"),
                      [&](Work& now) { keepAlert(now, *alert); });
}

} // namespace sieve::app
