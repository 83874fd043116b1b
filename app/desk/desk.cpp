#include "app/desk/desk.h"

#include "app/desk/alert_keeper.h"
#include "app/desk/calendar_keeper.h"
#include "app/desk/day_player.h"
#include "app/desk/field_shelf.h"
#include "app/desk/focus.h"
#include "app/desk/library_keeper.h"
#include "app/desk/mail_keeper.h"
#include "app/desk/market_reader.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "core/watchlists/stocks.h"

namespace sieve::app {

namespace {

constexpr const char* stockInHandKey = "stock_in_hand";

} // namespace

Desk::Desk(std::filesystem::path library, std::filesystem::path markets, QObject* parent)
    : QObject(parent), keeper_(new LibraryKeeper(std::move(library), this)),
      settings_(new Settings(*keeper_, this)),
      market_(new OpenMarket(std::move(markets), *settings_, this)),
      focus_(new Focus(*market_, this)), player_(new DayPlayer(*market_, *focus_, this)),
      navigator_(new Navigator(this)),
      work_(new Workbench(*keeper_, *settings_, *navigator_, this)),
      screens_(new ScreenShelf(*keeper_, *work_, this)), fields_(new FieldShelf(*work_, this)),
      reader_(new MarketReader(*this)), alerts_(new AlertKeeper(*this)),
      mail_(new MailKeeper(*this)), calendar_(new CalendarKeeper(*this))
{
    connectParts();
    keeper_->start();
}

void Desk::connectParts()
{
    connect(market_, &OpenMarket::settled, this, [this] {
        const watchlists::Tray& tray = *work_->now().tray;
        if (focus_->selected() || tray.isEmpty())
            return;
        const auto stopped = market_->data().find(settings_->value(stockInHandKey));
        const bool isInHand = stopped && placeIn(tray, market_->data(), *stopped);
        const auto stock = isInHand ? stopped : stockOf(tray.cards().front(), market_->data());
        if (stock)
            focus_->select(*stock);
    });
    connect(focus_, &Focus::selectionChanged, this, [this] { // where one stopped, one goes on
        if (market_->isOpen() && focus_->selected() &&
            placeIn(*work_->now().tray, market_->data(), *focus_->selected()))
            settings_->set(stockInHandKey, market_->data().instrument(*focus_->selected()).symbol);
    });
    connect(&market_->keeper(), &MarketKeeper::noticed, this, &Desk::noticed);
    connect(work_, &Workbench::noticed, this, &Desk::noticed);
    connect(work_, &Workbench::told, this, &Desk::told);
    connect(focus_, &Focus::told, this, &Desk::told);
    connect(player_, &DayPlayer::told, this, &Desk::told);
    connect(reader_, &MarketReader::failed, this, &Desk::noticed);
    connect(alerts_, &AlertKeeper::failed, this, &Desk::noticed);
    connect(calendar_, &CalendarKeeper::failed, this, &Desk::noticed);
    connect(calendar_, &CalendarKeeper::told, this, &Desk::told);
    connect(mail_, &MailKeeper::failed, this, &Desk::noticed);
    connect(mail_, &MailKeeper::told, this, &Desk::told);
    connect(keeper_, &LibraryKeeper::failed, this, &Desk::noticed, Qt::QueuedConnection);
    connect(
        keeper_, &LibraryKeeper::opened, this,
        [this](const QString& notice) {
            if (!notice.isEmpty())
                Q_EMIT noticed(notice);
        },
        Qt::QueuedConnection);
}

Desk::~Desk()
{
    keeper_->finish(); // what it was given asks for the other parts, which must still be there
}

} // namespace sieve::app
