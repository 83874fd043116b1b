#include "app/sift/wall_lens.h"

#include "app/desk/in_hand.h"
#include "app/parts/number_text.h"
#include "app/wall/chart_wall.h"

#include <QVBoxLayout>

namespace sieve::app {

WallLens::WallLens(Desk& desk) : Lens(desk), wall_(new ChartWall(desk, QStringLiteral("sift.wall")))
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(wall_);
    setFocusProxy(wall_);
    connect(wall_, &ChartWall::decided, this, [this](std::size_t stock, watchlists::Mark mark) {
        markInHand(desk_, stock, mark, source_);
    });
}

void WallLens::show(const SiftedPtr& sifted)
{
    source_ = text(sifted->screen.name);
    wall_->show({sifted->evaluator, sifted->run.day, sifted->run.matches, source_});
}

} // namespace sieve::app
