#include "app/desk/dropped_stocks.h"

#include "app/desk/asker.h"
#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/parts/number_text.h"
#include "core/market/symbol_picking.h"

namespace sieve::app {

void findDropped(Desk& desk, QObject* owner, const QString& dropped,
                 const std::function<void(const std::vector<std::size_t>&)>& take)
{
    auto* asker = new Asker(owner);
    QObject::connect(asker, &Asker::failed, &desk, &Desk::noticed);
    QObject::connect(asker, &Asker::failed, asker, &QObject::deleteLater);
    const market::MarketPtr market = desk.market().evaluator()->marketPtr();
    asker->ask([market, text = utf8(dropped)](
                   const Progress&) { return market::certainPicks(*market, text); },
               [&desk, asker, market, take](const std::vector<std::size_t>& stocks) {
                   asker->deleteLater();
                   if (market == desk.market().evaluator()->marketPtr())
                       take(stocks);
               });
}

} // namespace sieve::app
