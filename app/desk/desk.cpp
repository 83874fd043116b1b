#include "app/desk/desk.h"

#include "app/desk/field_shelf.h"
#include "app/desk/focus.h"
#include "app/desk/library_keeper.h"
#include "app/desk/market_reader.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"

namespace sieve::app {

Desk::Desk(std::filesystem::path library, std::filesystem::path markets, QObject* parent)
    : QObject(parent), keeper_(new LibraryKeeper(std::move(library), this)),
      settings_(new Settings(*keeper_, this)),
      market_(new OpenMarket(std::move(markets), *settings_, this)),
      focus_(new Focus(*market_, this)), screens_(new ScreenShelf(*keeper_, this)),
      fields_(new FieldShelf(*keeper_, this)),
      work_(new Workbench(*keeper_, *settings_, *screens_, *fields_, this)),
      navigator_(new Navigator(this)), reader_(new MarketReader(*this))
{
    connectParts();
    keeper_->start();
}

void Desk::connectParts()
{
    connect(market_, &OpenMarket::settled, this, [this] {
        if (const watchlists::Tray& tray = work_->now().tray; !tray.isEmpty())
            focus_->selectSymbol(tray.cards().front().symbol);
    });
    connect(&market_->keeper(), &MarketKeeper::noticed, this, &Desk::noticed);
    connect(work_, &Workbench::noticed, this, &Desk::noticed);
    connect(reader_, &MarketReader::failed, this, &Desk::noticed);
    connect(keeper_, &LibraryKeeper::failed, this, &Desk::noticed, Qt::QueuedConnection);
    connect(
        keeper_, &LibraryKeeper::opened, this,
        [this](bool, const QString& notice) {
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
