#pragma once

#include "core/intake/take_in.h"
#include "core/market/as_of.h"
#include "demo_market/dataset.h"
#include "tests/own_folder.h"

#include <algorithm>
#include <catch2/catch.hpp>

/// The whole made-up market, read back from its own dataset, made once for all of its tests.
namespace sieve::demo_market {

struct Whole {
    DemoMarket made;
    test::OwnFolder source;
    test::OwnFolder folder;
    intake::Intake intake;
};

inline const Whole& whole()
{
    static Whole each;
    static const bool isMade = [] {
        each.made = makeMarket(20260930);
        writeDataset(each.made, each.source.path(), 2);
        Result<intake::Intake> intake = intake::openSource(each.source.path(), each.folder.path());
        if (!intake)
            FAIL(intake.error().problem);
        each.intake = *std::move(intake);
        return true;
    }();
    (void)isMade;
    return each;
}

inline const market::Market& isles()
{
    return *whole().intake.market;
}

/// One stock's prices about the day that the map names, on one footing.
struct Place {
    std::size_t stock = 0;
    std::size_t bar = 0;
    market::Bars bars;

    double close(int sessions) const { return bars.close.at(at(sessions)); }
    double change(int from, int to) const { return close(to) / close(from) - 1.0; }
    double volume(int from, int to) const // mean of [from, to)
    {
        double sum = 0.0;
        for (int session = from; session < to; ++session)
            sum += bars.volume.at(at(session));
        return sum / (to - from);
    }
    std::size_t at(int sessions) const
    {
        return static_cast<std::size_t>(static_cast<std::ptrdiff_t>(bar) + sessions);
    }
};

inline Place placeOf(std::string_view what)
{
    for (const Situation& situation : whole().made.situations) {
        if (!situation.what.starts_with(what))
            continue;
        const std::size_t stock = *isles().find(situation.symbol);
        const market::AsOf asOf(whole().intake.market, isles().sessions().back());
        Place place{stock, 0, asOf.adjustedBars(stock)};
        place.bar = static_cast<std::size_t>(
            std::ranges::lower_bound(place.bars.days, situation.day) - place.bars.days.begin());
        return place;
    }
    FAIL("no such situation: " << what);
    return {};
}

inline double extreme(const Place& place, int from, int to, bool isHigh)
{
    double found = place.close(from);
    for (int session = from; session <= to; ++session)
        found =
            isHigh ? std::max(found, place.close(session)) : std::min(found, place.close(session));
    return found;
}

} // namespace sieve::demo_market
