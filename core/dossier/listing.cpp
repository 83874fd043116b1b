#include "core/dossier/parts.h"
#include "core/market/as_of.h"

#include <algorithm>
#include <fmt/format.h>

// Who the stock is, and its life since it was listed.

namespace sieve::dossier {

void layOutListing(Part& part, const Subject& subject, const Progress&)
{
    Table table{"listing.life", "Since its listing", Form::Table, {"value"}};
    for (const char* field : {"listed_on", "listed_weeks", "offer_price", "distance_from_offer",
                              "first_day_close", "first_day_gain", "first_week_high",
                              "first_week_low", "undercut_first_week", "above_first_week_high",
                              "shares_outstanding", "free_float_share", "share_count_growth"}) {
        Row row{.title = titleOf(field, subject), .meaning = meaningOf(field, subject)};
        row.cells.push_back({.expression = field});
        table.rows.push_back(std::move(row));
    }
    part.tables.push_back(std::move(table));
}

void tellListing(Part& part, const Subject& subject)
{
    const market::Market& market = subject.evaluator.market();
    const market::Instrument& instrument = market.instrument(subject.stock);
    dropUnknown(part);
    if (!instrument.about.empty())
        part.words.push_back(instrument.about);
    for (const market::FormerSymbol& former : instrument.formerSymbols)
        if (former.until <= subject.day)
            part.words.push_back(
                fmt::format("Was called {} until {}.", former.symbol, former.until.iso()));
    if (instrument.delistedOn && *instrument.delistedOn <= subject.day)
        part.words.push_back(fmt::format("Delisted on {}{}{}.", instrument.delistedOn->iso(),
                                         instrument.delistedWhy.empty() ? "" : ": ",
                                         instrument.delistedWhy));
    else if (const std::size_t idle = market::sessionsIdle(market, subject.stock, subject.day);
             idle > 0)
        part.words.push_back(fmt::format("It has not traded for {} sessions.", idle));
}

} // namespace sieve::dossier
