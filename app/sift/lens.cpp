#include "app/sift/lens.h"

#include "app/sift/groups_lens.h"
#include "app/sift/scatter_lens.h"
#include "app/sift/wall_lens.h"

#include <QCoreApplication>

namespace sieve::app {

const std::vector<LensEntry>& lenses()
{
    const auto tr = [](const char* text) { return QCoreApplication::translate("Lens", text); };
    static const std::vector<LensEntry> all{
        {QStringLiteral("wall"), tr("Wall"), tr("The charts of what passes, many at once"),
         [](Desk& desk) -> Lens* { return new WallLens(desk); }},
        {QStringLiteral("scatter"), tr("Scatter"), tr("What passes by two figures, and a third"),
         [](Desk& desk) -> Lens* { return new ScatterLens(desk); }},
        {QStringLiteral("groups"), tr("Groups"),
         tr("What passes by sector, industry or exchange, against the universe"),
         [](Desk& desk) -> Lens* { return new GroupsLens(desk); }},
    };
    return all;
}

} // namespace sieve::app
