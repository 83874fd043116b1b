#pragma once

#include "app/chart/chart_view.h"
#include "app/desk/desk.h"
#include "app/desk/field_shelf.h"
#include "app/desk/focus.h"
#include "app/desk/library_keeper.h"
#include "app/desk/market_reader.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/frame/main_window.h"
#include "app/look/look.h"
#include "app/wall/chart_wall.h"
#include "demo_market/dataset.h"
#include "tests/own_folder.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTabWidget>
#include <QTest>
#include <QTimer>
#include <filesystem>
#include <functional>
#include <memory>
#include <stdexcept>

/// A real window on the demo market, for tests and for the pictures of the documentation.
namespace sieve::test {

/// A folder that one test run shares among its processes (tests/CMakeLists.txt); empty outside one.
inline std::filesystem::path sharedFolder()
{
    return qEnvironmentVariable("SIEVE_SHARED_TEST_FOLDER").toStdString();
}

inline void writeDemoDataset(const std::filesystem::path& folder)
{
    demo_market::writeDataset(demo_market::makeMarket(20260930, demo_market::Extent::Small), folder,
                              0);
}

/// A part of the demo market as a dataset: the shared one, or written once a process.
inline const std::filesystem::path& demoDataset()
{
    static const OwnFolder own;
    static const std::filesystem::path folder = [] {
        if (!sharedFolder().empty())
            return sharedFolder() / "demo-dataset";
        writeDemoDataset(own.path());
        return own.path();
    }();
    return folder;
}

/// All of the demo market but its minutes.
inline const std::filesystem::path& wholeDemoDataset()
{
    static const OwnFolder folder;
    static const bool written = [] {
        demo_market::writeDataset(demo_market::makeMarket(20260930), folder.path(), 0);
        return true;
    }();
    Q_UNUSED(written)
    return folder.path();
}

/// Where the markets are kept that are made from datasets: each is made once.
inline const std::filesystem::path& marketsFolder()
{
    static const OwnFolder own;
    static const std::filesystem::path folder =
        sharedFolder().empty() ? own.path() : sharedFolder() / "markets";
    return folder;
}

/// Lets the window live until the condition holds. Errors: std::runtime_error after 30 seconds.
inline void waitUntil(const std::function<bool()>& holds, const char* what)
{
    QElapsedTimer timer;
    timer.start();
    while (!holds()) {
        if (timer.elapsed() > 30'000)
            throw std::runtime_error(std::string("waited in vain for: ") + what);
        QTest::qWait(5);
    }
}

/// A desk with its window; several in turn on one library are restarts of the program.
class WindowBench {
public:
    explicit WindowBench(const std::filesystem::path& library,
                         const std::filesystem::path& dataset = demoDataset())
        : desk(std::make_unique<app::Desk>(library, marketsFolder())),
          window(std::make_unique<app::MainWindow>(*desk))
    {
        window->resize(1280, 800);
        window->show();
        waitUntil([this] { return desk->work().isLoaded(); }, "the library");
        if (dataset.empty())
            return;
        desk->market().keeper().open(dataset);
        waitUntil([this] { return desk->market().isOpen(); }, "the market");
        settle();
    }
    ~WindowBench()
    {
        window->close();
        window.reset();
        desk.reset();
    }
    WindowBench(const WindowBench&) = delete;
    WindowBench& operator=(const WindowBench&) = delete;

    /// Until nothing is being asked any more.
    void settle() const
    {
        waitUntil(
            [this] {
                QTest::qWait(20);
                for (const QObject* root : {static_cast<const QObject*>(desk.get()),
                                            static_cast<const QObject*>(window.get())})
                    for (const auto* asker : root->findChildren<app::Asker*>())
                        if (asker->isBusy())
                            return false;
                return true;
            },
            "answers");
        QTest::qWait(20); // what was answered is painted
    }
    void go(const char* place) const
    {
        window->showPlace(QLatin1String(place));
        settle();
    }
    /// A tab of Market.
    void showTab(const char* name) const
    {
        auto* tabs = window->findChild<QTabWidget*>();
        for (int tab = 0; tab < tabs->count(); ++tab)
            if (tabs->tabText(tab) == QLatin1String(name))
                tabs->setCurrentIndex(tab);
        settle();
    }
    /// The chart of one stock in a place, not one of a wall of many.
    app::ChartView* chartIn(const char* place) const
    {
        for (auto* chart : window->place(QLatin1String(place))->findChildren<app::ChartView*>()) {
            const QWidget* above = chart;
            while (above && !qobject_cast<const app::ChartWall*>(above))
                above = above->parentWidget();
            if (!above)
                return chart;
        }
        throw std::runtime_error(std::string("no chart in ") + place);
    }
    template <class Widget> Widget* find(const QString& accessibleName) const
    {
        for (auto* widget : window->findChildren<Widget*>())
            if (widget->accessibleName() == accessibleName && widget->isVisible())
                return widget;
        throw std::runtime_error("no visible " + accessibleName.toStdString());
    }

    /// Presses a key with Ctrl, of which the active window must know, and runs `act(dialog)` in the
    /// dialog that it opens, which must end it.
    template <class Act> void inDialog(Qt::Key key, Act act) const
    {
        activate();
        QTimer::singleShot(0, window.get(), [act] {
            waitUntil(
                [] {
                    const QWidget* dialog = QApplication::activeModalWidget();
                    return dialog && dialog->isAncestorOf(QApplication::focusWidget());
                },
                "a dialog");
            act(*QApplication::activeModalWidget());
        });
        pressCtrl(key);
        settle();
    }
    void pressCtrl(Qt::Key key) const
    {
        activate();
        QTest::keyClick(window.get(), key, Qt::ControlModifier);
    }
    void activate() const
    {
        window->activateWindow();
        waitUntil([this] { return window->isActiveWindow(); }, "the window");
    }

    std::unique_ptr<app::Desk> desk;
    std::unique_ptr<app::MainWindow> window;
};

/// A list as the library would hold it.
inline Shared<watchlists::Watchlist> listOf(std::int64_t id, const std::string& name,
                                            std::vector<watchlists::Entry> entries = {})
{
    return watchlists::Watchlist{id, name, std::move(entries), {}};
}

/// These symbols in hand since the as-of day.
inline watchlists::Tray trayOf(const WindowBench& bench, const std::vector<std::string>& symbols,
                               const std::string& source)
{
    watchlists::Tray tray;
    for (const std::string& symbol : symbols)
        tray.add({{symbol, bench.desk->focus().day(), watchlists::Mark::Open, source, {}}});
    return tray;
}

} // namespace sieve::test
