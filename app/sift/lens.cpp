#include "app/sift/lens.h"

#include "app/sift/groups_lens.h"
#include "app/sift/scatter_lens.h"
#include "app/sift/wall_lens.h"

#include <array>

namespace sieve::app {

std::span<const LensEntry> lenses()
{
    static constexpr std::array all{
        LensEntry{ActionId::ShowWall, [](Desk& desk) -> Lens* { return new WallLens(desk); }},
        LensEntry{ActionId::ShowScatter, [](Desk& desk) -> Lens* { return new ScatterLens(desk); }},
        LensEntry{ActionId::ShowResultGroups,
                  [](Desk& desk) -> Lens* { return new GroupsLens(desk); }},
    };
    return all;
}

} // namespace sieve::app
