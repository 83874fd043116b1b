#include "app/frame/as_of_bar.h"

#include "app/desk/alert_keeper.h"
#include "app/desk/day_player.h"
#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/market_reader.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/elided_label.h"
#include "app/parts/number_text.h"

#include <QCalendarWidget>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QStyle>
#include <QToolButton>
#include <QWidgetAction>

namespace sieve::app {

AsOfBar::AsOfBar(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), earlier_(new QToolButton), day_(new QToolButton),
      later_(new QToolButton), latest_(new QToolButton), play_(new QToolButton),
      lookingBack_(new ElidedLabel), stance_(new QToolButton), alerts_(new QToolButton)
{
    setObjectName(QStringLiteral("asOfBar"));
    setAttribute(Qt::WA_StyledBackground);
    auto* label = new QLabel(tr("As of"));
    earlier_->setIcon(iconOf(QStringLiteral("earlier"), look().softInk));
    earlier_->setToolTip(tipOf(ActionId::SessionEarlier) + u'\n' + tipOf(ActionId::WeekEarlier));
    earlier_->setAccessibleName(tr("One session earlier"));
    later_->setIcon(iconOf(QStringLiteral("later"), look().softInk));
    later_->setToolTip(tipOf(ActionId::SessionLater) + u'\n' + tipOf(ActionId::WeekLater));
    later_->setAccessibleName(tr("One session later"));
    day_->setFont(fontOf(Weight::SemiBold));
    day_->setToolTip(tr("Choose a day"));
    latest_->setText(tr("Latest"));
    latest_->setToolTip(tipOf(ActionId::LatestSession));
    play_->setToolTip(tipOf(ActionId::PlayDays) + u'\n' + tipOf(ActionId::PlaySlower) + u'\n' +
                      tipOf(ActionId::PlayFaster));
    lookingBack_->setText(tr("Looking back: everything shows what was known that evening"));
    lookingBack_->setFont(fontOf(Weight::Medium));
    stance_->setToolTip(tr("How much of the money your rules allow at work; a click shows why"));
    stance_->setAccessibleName(tr("Stance of the market"));
    auto* finder = new QToolButton;
    finder->setText(tr("Find anything   %1").arg(keysOf(ActionId::FindAnything)[0].toString()));
    finder->setToolTip(tipOf(ActionId::FindAnything));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(14, 3, 12, 3);
    layout->setSpacing(2);
    for (QWidget* part :
         std::initializer_list<QWidget*>{label, earlier_, day_, later_, latest_, play_})
        layout->addWidget(part);
    layout->addSpacing(16);
    layout->addWidget(lookingBack_);
    layout->addStretch(1);
    layout->addWidget(stance_);
    layout->addSpacing(16);
    layout->addWidget(alerts_);
    layout->addSpacing(16);
    layout->addWidget(finder);

    connect(earlier_, &QToolButton::clicked, this, [this] { desk_.focus().stepSessions(-1); });
    connect(later_, &QToolButton::clicked, this, [this] { desk_.focus().stepSessions(1); });
    connect(latest_, &QToolButton::clicked, &desk_.focus(), &Focus::goToLatest);
    connect(play_, &QToolButton::clicked, &desk_.player(), &DayPlayer::toggle);
    connect(&desk_.player(), &DayPlayer::changed, this, &AsOfBar::showPlay);
    connect(day_, &QToolButton::clicked, this, &AsOfBar::openCalendar);
    connect(finder, &QToolButton::clicked, this, &AsOfBar::finderWanted);
    connect(stance_, &QToolButton::clicked, this,
            [this] { desk_.navigator().show(PlaceId::Market); });
    connect(alerts_, &QToolButton::clicked, this, &AsOfBar::alertsWanted);
    connect(&desk_.alerts(), &AlertKeeper::logChanged, this, &AsOfBar::showAlerts);
    connect(&desk_.conditions(), &MarketReader::changed, this, &AsOfBar::showStance);
    connect(&desk_.focus(), &Focus::dayChanged, this, &AsOfBar::showDay);
    connect(&desk_.market(), &OpenMarket::opened, this, &AsOfBar::showDay);
    showDay();
    showAlerts();
}

void AsOfBar::showAlerts()
{
    const std::size_t unseen = desk_.alerts().unseen();
    alerts_->setText(unseen == 0 ? tr("Alerts") : tr("Alerts: %1").arg(unseen));
    alerts_->setFont(fontOf(unseen == 0 ? Weight::Regular : Weight::SemiBold));
    alerts_->setToolTip(tipOf(ActionId::ShowAlerts));
    alerts_->setAccessibleName(tr("Alerts"));
}

void AsOfBar::showDay()
{
    const bool hasMarket = desk_.market().isOpen();
    for (QToolButton* button : {earlier_, day_, later_, latest_})
        button->setEnabled(hasMarket);
    day_->setText(hasMarket ? dayText(desk_.focus().day()) : tr("no market is open"));
    const bool isLatest = desk_.focus().isLatest();
    later_->setEnabled(hasMarket && !isLatest);
    latest_->setEnabled(hasMarket && !isLatest);
    lookingBack_->setVisible(!isLatest);
    showPlay();
    setProperty("lookingBack", !isLatest);
    style()->unpolish(this);
    style()->polish(this);
    showStance();
}

void AsOfBar::showPlay()
{
    play_->setVisible(!desk_.focus().isLatest());
    play_->setText(desk_.player().isPlaying() ? tr("Stop (%1)").arg(desk_.player().pace())
                                              : tr("Play day by day"));
}

void AsOfBar::showStance()
{
    const auto& reading = desk_.conditions().reading();
    const auto bar = reading ? reading->market().barBy(desk_.focus().day()) : std::nullopt;
    const double stance = bar && *bar < reading->stance.size() ? reading->stance[*bar] : missing;
    stance_->setVisible(!isMissing(stance));
    if (isMissing(stance))
        return;
    const bool isProvisional = reading->isProvisional && desk_.focus().isLatest();
    stance_->setText(tr("Stance: %1 at work").arg(numberText(stance, Unit::Percent, 0)) +
                     (isProvisional ? tr(", provisional") : QString()));
}

void AsOfBar::openCalendar()
{
    auto* calendar = new QCalendarWidget;
    calendar->setVerticalHeaderFormat(QCalendarWidget::NoVerticalHeader);
    calendar->setMinimumDate(dateOf(desk_.market().data().sessions().front()));
    calendar->setMaximumDate(dateOf(desk_.market().data().sessions().back()));
    calendar->setSelectedDate(dateOf(desk_.focus().day()));
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    auto* holder = new QWidgetAction(menu);
    holder->setDefaultWidget(calendar);
    menu->addAction(holder);
    const auto choose = [this, menu](const QDate& date) {
        desk_.focus().setDay(dayOf(date));
        menu->close();
    };
    connect(calendar, &QCalendarWidget::clicked, this, choose);
    connect(calendar, &QCalendarWidget::activated, this, choose);
    menu->popup(day_->mapToGlobal(QPoint(0, day_->height())));
    calendar->setFocus();
}

} // namespace sieve::app
