#pragma once

#include "tests/app/window_bench.h"

#include <QAction>
#include <QApplication>
#include <QContextMenuEvent>
#include <QDialog>
#include <QFileDialog>
#include <QHelpEvent>
#include <QMenu>
#include <QPushButton>
#include <QToolTip>

/// Menus, dialogs and tips that open above the window.
namespace sieve::test {

/// Runs `open`, which shows a menu or a dialog, and `act(it)` once it can be seen. `act` must end
/// it.
template <class Opened, class Open, class Act>
void inOpened(const WindowBench& bench, Open open, Act act)
{
    bool hasActed = false;
    QTimer::singleShot(0, bench.window.get(), [&] {
        Opened* opened = nullptr;
        waitUntil(
            [&opened] {
                QWidget* top = QApplication::activePopupWidget();
                opened = qobject_cast<Opened*>(top ? top : QApplication::activeModalWidget());
                return opened && opened->isVisible();
            },
            "what opens");
        act(*opened);
        hasActed = true;
    });
    open();
    waitUntil([&hasActed] { return hasActed; }, "an end of what opened");
    bench.settle();
}

/// Acts in the dialog that what is done next opens, before anything else happens in the window.
template <class Opened, class Act> void answerNext(const WindowBench& bench, Act act)
{
    QTimer::singleShot(0, bench.window.get(), [act] {
        Opened* opened = nullptr;
        waitUntil(
            [&opened] {
                opened = qobject_cast<Opened*>(QApplication::activeModalWidget());
                return opened && opened->isVisible();
            },
            "the next dialog");
        act(*opened);
    });
}

/// Acts in a dialog that opens later, by itself, such as when an answer comes.
template <class Opened, class Act> void whenOpened(const WindowBench& bench, Act act)
{
    auto* look = new QTimer(bench.window.get());
    QObject::connect(look, &QTimer::timeout, look, [look, act] {
        auto* opened = qobject_cast<Opened*>(QApplication::activeModalWidget());
        if (!opened || !opened->isVisible())
            return;
        look->stop();
        look->deleteLater();
        act(*opened);
    });
    look->start(10);
}

/// Those of a menu and of the menus in it.
inline QList<QAction*> actionsOf(const QMenu& menu)
{
    QList<QAction*> all;
    for (QAction* action : menu.actions()) {
        all << action;
        if (action->menu())
            all << actionsOf(*action->menu());
    }
    return all;
}

/// The entry whose words begin so.
inline QAction* entry(const QMenu& menu, const QString& words)
{
    for (QAction* action : actionsOf(menu))
        if (action->text().remove(u'&').startsWith(words))
            return action;
    throw std::runtime_error("no entry " + words.toStdString());
}

/// Opens a widget's own menu at a place and takes an entry; `before` prepares for what that opens.
inline void chooseAt(
    const WindowBench& bench, QWidget* widget, const QPoint& at, const QString& words,
    const std::function<void()>& before = [] {})
{
    inOpened<QMenu>(
        bench,
        [&] {
            QTest::mouseClick(widget, Qt::RightButton, {}, at);
            QContextMenuEvent event(QContextMenuEvent::Mouse, at, widget->mapToGlobal(at));
            QApplication::sendEvent(widget, &event);
        },
        [&](QMenu& menu) {
            QAction* chosen = entry(menu, words);
            menu.setActiveAction(chosen);
            before();
            QTest::keyClick(&menu, Qt::Key_Return);
        });
}

/// What a widget tells of a place under a resting pointer.
inline QString tipAt(QWidget* widget, const QPoint& at)
{
    QHelpEvent event(QEvent::ToolTip, at, widget->mapToGlobal(at));
    QApplication::sendEvent(widget, &event);
    return QToolTip::text();
}

/// The button of those words that can be seen in a window or dialog.
template <class Button> Button* buttonOf(const QWidget& root, const QString& words)
{
    for (auto* button : root.findChildren<Button*>())
        if (button->text() == words && button->isVisible())
            return button;
    throw std::runtime_error("no button " + words.toStdString());
}

/// Ends a dialog as its default button would.
inline void accept(QDialog& dialog)
{
    dialog.accept();
}

/// Chooses a file or folder, which need not exist.
inline void choose(QFileDialog& dialog, const std::filesystem::path& path)
{
    dialog.setDirectory(QString::fromStdString(path.parent_path().string()));
    dialog.selectFile(QString::fromStdString(path.string()));
    accept(dialog);
}

} // namespace sieve::test
