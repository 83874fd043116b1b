#include "app/sift/columns_menu.h"

#include "app/desk/desk.h"
#include "app/desk/workbench.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"

#include <QInputDialog>
#include <algorithm>

namespace sieve::app {

ColumnsMenu::ColumnsMenu(Desk& desk, std::function<screens::ColumnSet()> inHand, QWidget* place)
    : QMenu(place), desk_(desk), inHand_(std::move(inHand)),
      choose_(makeAction(place, ActionId::ChooseColumns, [this] { Q_EMIT editWanted(); })),
      keep_(makeAction(place, ActionId::KeepColumns, [this] { keepInHand(); }))
{
    setToolTipsVisible(true);
    connect(this, &QMenu::aboutToShow, this, &ColumnsMenu::fill);
    fill();
}

void ColumnsMenu::addSet(QMenu* where, const screens::ColumnSet& set)
{
    QStringList columns;
    for (const std::string& column : set.columns)
        columns << text(column);
    QAction* action = where->addAction(text(set.name));
    action->setToolTip(columns.join(QStringLiteral(", ")));
    const screens::ColumnSet inHand = inHand_();
    action->setCheckable(true);
    action->setChecked(set.columns == inHand.columns && set.cells == inHand.cells);
    connect(action, &QAction::triggered, this, [this, set] { Q_EMIT chosen(set); });
}

void ColumnsMenu::fill()
{
    clear();
    for (QMenu* former : findChildren<QMenu*>(QString(), Qt::FindDirectChildrenOnly))
        former->deleteLater();
    addAction(choose_);
    addSeparator();
    const std::vector<screens::ColumnSet> sets = *desk_.work().now().columnSets;
    for (const screens::ColumnSet& set : sets)
        addSet(this, set);
    if (!sets.empty())
        addSeparator();
    for (const screens::ColumnSet& set : screens::readyColumnSets())
        addSet(this, set);
    addSeparator();
    addAction(keep_);
    if (sets.empty())
        return;
    QMenu* forget = addMenu(tr("Forget a set"));
    for (const screens::ColumnSet& set : sets)
        connect(forget->addAction(text(set.name)), &QAction::triggered, this, [this, set] {
            desk_.work().edit(tr("Forget the columns “%1”").arg(text(set.name)),
                              [&](Work& work) { std::erase(work.columnSets.edit(), set); });
        });
}

void ColumnsMenu::keepInHand()
{
    bool isAccepted = false;
    const QString name =
        QInputDialog::getText(parentWidget(), tr("Keep these columns"), tr("Name of the set:"),
                              QLineEdit::Normal, {}, &isAccepted)
            .trimmed();
    if (!isAccepted || name.isEmpty())
        return;
    desk_.work().edit(tr("Keep the columns “%1”").arg(name), [&](Work& work) {
        auto& sets = work.columnSets.edit();
        std::erase_if(sets, [&](const auto& set) { return set.name == utf8(name); });
        sets.push_back(inHand_());
        sets.back().name = utf8(name);
        std::ranges::sort(sets, {}, &screens::ColumnSet::name);
    });
}

} // namespace sieve::app
