#include "app/desk/drawing_shelf.h"

#include "app/chart/chart_view.h"
#include "app/chart/drawing_pen.h"
#include "app/chart/drawings_dialog.h"
#include "app/desk/alerts_dialog.h"
#include "app/desk/desk.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "core/drawings/stock.h"

#include <cmath>

namespace sieve::app {

using drawings::Drawing;

DrawingShelf::DrawingShelf(Desk& desk, ChartView& view)
    : QObject(&view), desk_(desk), view_(view), pen_(view.pen()), dialog_(new DrawingsDialog(&view))
{
    view.allowDrawing();
    connect(&desk.work(), &Workbench::drawingsChanged, this, &DrawingShelf::refresh);
    connect(&view, &ChartView::alertWanted, this, &DrawingShelf::makeAlertAt);
    connect(&pen_, &DrawingPen::made, this, &DrawingShelf::add);
    connect(&pen_, &DrawingPen::moved, this, &DrawingShelf::move);
    connect(&pen_, &DrawingPen::removed, this, &DrawingShelf::remove);
    connect(&pen_, &DrawingPen::pasted, this, &DrawingShelf::paste);
    connect(&pen_, &DrawingPen::opened, this, &DrawingShelf::open);
    connect(dialog_, &DrawingsDialog::looksChanged, this, &DrawingShelf::takeLooks);
    connect(dialog_, &DrawingsDialog::removed, this, &DrawingShelf::remove);
    connect(dialog_, &DrawingsDialog::chosen, this, [this](qint64 id) { pen_.choose(id); });
}

void DrawingShelf::setStock(market::MarketPtr market, std::size_t instrument, Day day)
{
    const bool isOther = market != market_ || instrument != instrument_;
    market_ = std::move(market);
    instrument_ = instrument;
    day_ = day;
    if (isOther)
        pen_.stop();
    refresh();
}

void DrawingShelf::refresh()
{
    if (!market_)
        return;
    std::vector<Drawing> own =
        drawings::drawingsOn(*desk_.work().now().drawings, *market_, instrument_, day_);
    dialog_->setDrawings(own);
    pen_.setDrawings(std::move(own));
}

void DrawingShelf::makeAlertAt(double price)
{
    if (!market_ || isMissing(price))
        return;
    watchlists::Alert begun;
    begun.what = watchlists::Alert::What::Level;
    begun.about.symbol = market::symbolOn(market_->instrument(instrument_), day_);
    const double step = price < 1.0 ? 1e-4 : 0.01; // as a price is written
    begun.level = std::round(price / step) * step;
    makeAlert(desk_, begun, view_.window());
}

QString DrawingShelf::titled(const QString& what, drawings::Tool tool) const
{
    const QString symbol = text(market::symbolOn(market_->instrument(instrument_), day_));
    return what.arg(text(rowOf(tool).title).toLower(), symbol);
}

void DrawingShelf::add(const Drawing& drawing)
{
    if (!market_)
        return;
    Drawing kept = drawings::drawnOn(drawing, *market_, instrument_, day_);
    kept.id = desk_.work().newId();
    const bool isDone = desk_.work().edit(titled(tr("Draw: %1 on %2"), kept.tool),
                                          [&](Work& work) { keepDrawing(work, kept); });
    if (!isDone)
        return;
    pen_.choose(kept.id);
    if (kept.tool == drawings::Tool::Note)
        open(); // to be written
}

void DrawingShelf::paste(const Drawing& drawing)
{
    if (!market_)
        return;
    if (const auto put = drawings::putOnto(drawing, market_, instrument_, day_))
        add(*put);
}

void DrawingShelf::move(const Drawing& drawing)
{
    const Drawing moved = drawings::drawnOn(drawing, *market_, instrument_, day_);
    desk_.work().edit(
        titled(tr("Move: %1 on %2"), drawing.tool),
        [&](Work& work) {
            if (const Drawing* own = work.findDrawing(moved.id))
                keepDrawing(work, withLookOf(moved, *own));
        },
        Workbench::Step::MayJoin);
    refresh(); // where it could not be, it lies as before
}

void DrawingShelf::takeLooks(const Drawing& drawing)
{
    const bool isDone = desk_.work().edit(
        titled(tr("Change: %1 on %2"), drawing.tool),
        [&](Work& work) {
            if (const Drawing* own = work.findDrawing(drawing.id))
                keepDrawing(work, withLookOf(*own, drawing));
        },
        Workbench::Step::MayJoin);
    if (!isDone)
        refresh(); // the list shows what is kept
}

void DrawingShelf::remove(qint64 id)
{
    const Drawing* own = desk_.work().now().findDrawing(id);
    if (own)
        desk_.work().edit(titled(tr("Remove: %1 on %2"), own->tool),
                          [id](Work& work) { removeDrawing(work, id); });
}

void DrawingShelf::open()
{
    const Drawing* chosen = pen_.chosen();
    dialog_->show(chosen ? chosen->id : 0);
}

} // namespace sieve::app
