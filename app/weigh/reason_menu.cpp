#include "app/weigh/reason_menu.h"

#include "app/desk/desk.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"

#include <QInputDialog>
#include <QKeyEvent>

namespace sieve::app {

ReasonMenu::ReasonMenu(Desk& desk, QWidget* parent) : QMenu(parent), desk_(desk)
{
    setAccessibleName(tr("Reasons"));
    int number = 1;
    for (const std::string& reason : desk_.work().now().weighing->reasons) {
        const QString told = text(reason);
        QString shown = told;
        shown.replace(QLatin1Char('&'), QStringLiteral("&&"));
        QAction* action =
            addAction(number <= 9 ? QStringLiteral("%1  %2").arg(number).arg(shown) : shown);
        connect(action, &QAction::triggered, this, [this, told] { Q_EMIT chosen(told); });
        ++number;
    }
    addSeparator();
    connect(addAction(tr("Change these reasons…")), &QAction::triggered, this,
            &ReasonMenu::editReasons);
}

/// Of the reason that a number gives; null: it gives none.
QAction* ReasonMenu::actionOf(int key) const
{
    const int place = key - Qt::Key_1;
    const auto count = static_cast<int>(desk_.work().now().weighing->reasons.size());
    return place >= 0 && place < 9 && place < count ? actions().at(place) : nullptr;
}

bool ReasonMenu::event(QEvent* event)
{
    // In Weigh the same numbers put a stock onto a list; while the menu is open they are its own.
    if (event->type() == QEvent::ShortcutOverride &&
        actionOf(static_cast<QKeyEvent*>(event)->key()))
        event->accept();
    return QMenu::event(event);
}

void ReasonMenu::keyPressEvent(QKeyEvent* event)
{
    QAction* action = actionOf(event->key());
    if (!action)
        return QMenu::keyPressEvent(event);
    close();
    action->trigger();
}

/// A line each, in the order of their numbers.
void ReasonMenu::editReasons()
{
    Desk& desk = desk_; // the menu may be gone when the question is answered
    QStringList lines;
    for (const std::string& reason : desk.work().now().weighing->reasons)
        lines << text(reason);
    bool isGiven = false;
    const QString given = QInputDialog::getMultiLineText(
        parentWidget(), tr("Reasons"), tr("A reason a line; the first nine have a key each."),
        lines.join(QLatin1Char('\n')), &isGiven);
    if (!isGiven)
        return;
    std::vector<std::string> reasons;
    for (const QString& line : given.split(QLatin1Char('\n')))
        if (!line.trimmed().isEmpty())
            reasons.push_back(utf8(line.trimmed()));
    desk.work().edit(tr("Change the reasons"),
                     [&](Work& work) { work.weighing.edit().reasons = std::move(reasons); });
}

} // namespace sieve::app
