#include "app/desk/set_up_shelf.h"

#include "app/chart/chart_view.h"
#include "app/desk/compare_dialog.h"
#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"

namespace sieve::app {

SetUpShelf::SetUpShelf(Desk& desk, ChartView& view) : QObject(&view)
{
    Workbench& work = desk.work();
    const auto offer = [&work, &view] { view.setOwnSetUps(*work.now().chartSetUps); };
    connect(&work, &Workbench::chartSetUpsChanged, this, offer);
    connect(&view, &ChartView::setUpKept, this, [&work](const charts::SetUp& setUp) {
        work.edit(tr("Keep the set-up “%1”").arg(text(setUp.name)),
                  [&](Work& edited) { keepSetUp(edited, setUp); });
    });
    connect(&view, &ChartView::setUpForgotten, this, [&work](const QString& name) {
        work.edit(tr("Forget the set-up “%1”").arg(name),
                  [&](Work& edited) { removeSetUp(edited, utf8(name)); });
    });
    offer();
    view.allowComparing();
    connect(&view, &ChartView::compareWanted, this, [this, &desk, &view] {
        if (!desk.market().isOpen())
            return;
        auto* dialog = new CompareDialog(desk, &view);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        connect(dialog, &QDialog::accepted, this, [dialog, &view] {
            const charts::Comparable* other = dialog->chosen();
            const auto setUp = other ? charts::comparedWith(view.setUp(), *other) : std::nullopt;
            if (setUp)
                view.takeSetUp(*setUp);
            else if (other)
                Q_EMIT view.failed(tr("The chart has as many layers as can be read. Remove one "
                                      "first (Shift+O)."));
        });
        dialog->open();
    });
}

} // namespace sieve::app
