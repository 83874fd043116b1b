#include "app/weigh/choices.h"

#include "core/watchlists/stocks.h"

namespace sieve::app {

dossier::Choices choicesOf(dossier::Choices general, const library::Work& work,
                           const market::Market& market, std::size_t stock, Day day,
                           std::optional<std::int64_t> list)
{
    if (const auto* peers = watchlists::peersOf(*work.weighing, market, stock))
        general.peers = peers->symbols;
    general.planned =
        watchlists::planOf(*work.tray, work.findList(list.value_or(0)), market, stock, day);
    return general;
}

} // namespace sieve::app
