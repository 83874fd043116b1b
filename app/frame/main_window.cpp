#include "app/frame/main_window.h"

#include "app/desk/desk.h"
#include "app/desk/field_shelf.h"
#include "app/desk/focus.h"
#include "app/desk/library_keeper.h"
#include "app/desk/market_keeper.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/frame/as_of_bar.h"
#include "app/frame/finder.h"
#include "app/frame/intake_report_dialog.h"
#include "app/frame/places.h"
#include "app/frame/take_in_prices_dialog.h"
#include "app/frame/tray_bar.h"
#include "app/look/look.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"

#include <QButtonGroup>
#include <QCloseEvent>
#include <QCoreApplication>
#include <QFileDialog>
#include <QLabel>
#include <QLocale>
#include <QMenuBar>
#include <QMessageBox>
#include <QProgressBar>
#include <QStackedWidget>
#include <QStatusBar>
#include <QToolButton>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

QString placeTitle(const PlaceRow& row)
{
    return QCoreApplication::translate("Places", row.title);
}

} // namespace

MainWindow::MainWindow(Desk& desk, QWidget* parent)
    : QMainWindow(parent), desk_(desk), asOf_(new AsOfBar(desk)), stack_(new QStackedWidget),
      rail_(new QButtonGroup(this)), market_(new QLabel), jobs_(new QLabel),
      progress_(new QProgressBar), stop_(new QToolButton)
{
    setWindowTitle(tr("Wise Sieve"));
    setWindowIcon(iconOf(QStringLiteral("wise-sieve"), look().mark));
    resize(1280, 800);
    setMinimumSize(1000, 660);
    auto* centre = new QWidget;
    auto* column = new QVBoxLayout(centre);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(asOf_);
    column->addWidget(makeNoticeBar());
    auto* middle = new QHBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(makeRail());
    middle->addWidget(stack_, 1);
    column->addLayout(middle, 1);
    column->addWidget(new TrayBar(desk));
    setCentralWidget(centre);
    makeStatus();
    makeMenus();
    makeFinder();
    connectDesk();
    showPlace(QLatin1String(places().front().key));
}

QWidget* MainWindow::makeRail()
{
    auto* rail = new QWidget;
    rail->setObjectName(QStringLiteral("rail"));
    rail->setAttribute(Qt::WA_StyledBackground);
    auto* layout = new QVBoxLayout(rail);
    layout->setContentsMargins(0, 8, 0, 8);
    layout->setSpacing(2);
    int number = 0;
    for (const PlaceRow& row : places()) {
        auto* button = new QToolButton;
        button->setText(placeTitle(row));
        button->setIcon(iconOf(QLatin1String(row.key), look().softInk));
        button->setIconSize({22, 22});
        button->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
        button->setCheckable(true);
        button->setFixedWidth(72);
        button->setToolTip(tr("%1 (Alt+%2)").arg(placeTitle(row)).arg(number + 1));
        rail_->addButton(button, number++);
        layout->addWidget(button);
        connect(button, &QToolButton::clicked, this,
                [this, id = QString::fromLatin1(row.key)] { showPlace(id); });
    }
    layout->addStretch(1);
    return rail;
}

QWidget* MainWindow::makeNoticeBar()
{
    noticeBar_ = new QWidget;
    noticeBar_->setObjectName(QStringLiteral("noticeBar"));
    noticeBar_->setAttribute(Qt::WA_StyledBackground);
    notice_ = new QLabel;
    notice_->setWordWrap(true);
    notice_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    auto* close = new QToolButton;
    close->setText(tr("Understood"));
    auto* layout = new QHBoxLayout(noticeBar_);
    layout->setContentsMargins(14, 4, 12, 4);
    layout->addWidget(notice_, 1);
    layout->addWidget(close);
    connect(close, &QToolButton::clicked, noticeBar_, &QWidget::hide);
    noticeBar_->hide();
    return noticeBar_;
}

void MainWindow::makeStatus()
{
    market_->setText(tr("No market is open. File, Open dataset."));
    progress_->setFixedWidth(160);
    progress_->setFixedHeight(10);
    progress_->setTextVisible(false);
    stop_->setText(tr("Stop"));
    stop_->setAccessibleName(tr("Stop the intake"));
    connect(stop_, &QToolButton::clicked, &desk_.market().keeper(), &MarketKeeper::stop);
    endJob();
    statusBar()->setSizeGripEnabled(false);
    statusBar()->setContentsMargins(10, 0, 10, 0);
    statusBar()->addWidget(market_, 1);
    statusBar()->addPermanentWidget(jobs_);
    statusBar()->addPermanentWidget(progress_);
    statusBar()->addPermanentWidget(stop_);
}

QAction* MainWindow::add(QMenu* menu, const QString& name, const QKeySequence& key,
                         const std::function<void()>& act)
{
    QAction* action = menu->addAction(name);
    action->setShortcut(key);
    connect(action, &QAction::triggered, this, act);
    return action;
}

void MainWindow::makeMenus()
{
    makeFileMenu();
    QMenu* edit = menuBar()->addMenu(tr("&Edit"));
    QAction* undo = desk_.work().undoStack().createUndoAction(this, tr("&Undo"));
    undo->setShortcut(QKeySequence::Undo);
    QAction* redo = desk_.work().undoStack().createRedoAction(this, tr("&Redo"));
    redo->setShortcut(QKeySequence::Redo);
    edit->addActions({undo, redo});
    edit->addSeparator();
    add(edit, tr("&Empty the tray"), {},
        [this] { desk_.work().edit(tr("Empty the tray"), [](Work& work) { work.tray.clear(); }); });
    makeGoMenu();
    makeViewMenu();
    QMenu* help = menuBar()->addMenu(tr("&Help"));
    add(help, tr("&Keys"), Qt::Key_F1, [this] { keys(); });
    add(help, tr("&About Wise Sieve"), {}, [this] { about(); });
}

void MainWindow::makeFileMenu()
{
    QMenu* file = menuBar()->addMenu(tr("&File"));
    add(file, tr("&Open dataset…"), QKeySequence::Open, [this] { openDataset(); });
    recent_ = file->addMenu(tr("Open &recent"));
    connect(recent_, &QMenu::aboutToShow, this, &MainWindow::fillRecent);
    add(file, tr("&Take in prices…"), Qt::CTRL | Qt::SHIFT | Qt::Key_O, [this] { takeInPrices(); });
    update_ =
        add(file, tr("&Update with new data…"), Qt::CTRL | Qt::Key_U, [this] { updateMarket(); });
    update_->setEnabled(false);
    file->addSeparator();
    add(file, tr("&Intake report…"), Qt::CTRL | Qt::Key_I, [this] {
        if (desk_.market().report())
            IntakeReportDialog(desk_.market().report(), this).exec();
    });
    file->addSeparator();
    add(file, tr("&Back up the library now"), {},
        [this] { desk_.keeper().give([](library::Library& library) { library.backUp(); }); });
    file->addSeparator();
    add(file, tr("&Quit"), QKeySequence::Quit, [this] { close(); });
}

void MainWindow::makeGoMenu()
{
    QMenu* go = menuBar()->addMenu(tr("&Go"));
    int number = 1;
    for (const PlaceRow& row : places())
        add(go, placeTitle(row), QKeySequence(static_cast<int>(Qt::ALT) | (Qt::Key_0 + number++)),
            [this, id = QString::fromLatin1(row.key)] { showPlace(id); });
    go->addSeparator();
    add(go, tr("One session earlier"), Qt::Key_BracketLeft,
        [this] { desk_.focus().stepSessions(-1); });
    add(go, tr("One session later"), Qt::Key_BracketRight,
        [this] { desk_.focus().stepSessions(1); });
    add(go, tr("A week earlier"), Qt::Key_BraceLeft, [this] { desk_.focus().stepSessions(-5); });
    add(go, tr("A week later"), Qt::Key_BraceRight, [this] { desk_.focus().stepSessions(5); });
    add(go, tr("Latest session"), Qt::CTRL | Qt::Key_BracketRight,
        [this] { desk_.focus().goToLatest(); });
    go->addSeparator();
    add(go, tr("&Find anything…"), Qt::CTRL | Qt::Key_K, [this] { finder_->openOver(this); });
}

void MainWindow::makeViewMenu()
{
    QMenu* view = menuBar()->addMenu(tr("&View"));
    add(view, tr("&Paper, light"), {}, [this] { usePalette(QStringLiteral("paper")); });
    add(view, tr("&Harbour, dark"), {}, [this] { usePalette(QStringLiteral("harbour")); });
    view->addSeparator();
    add(view, tr("&Full screen"), Qt::Key_F11,
        [this] { setWindowState(windowState() ^ Qt::WindowFullScreen); });
}

void MainWindow::makeFinder()
{
    std::vector<Finder::Thing> commands;
    for (QAction* menu : menuBar()->actions())
        for (QAction* action : menu->menu()->actions())
            if (!action->isSeparator() && !action->menu())
                commands.push_back({action->text().remove(QLatin1Char('&')),
                                    menu->text().remove(QLatin1Char('&')) + QLatin1Char(' ') +
                                        action->shortcut().toString(QKeySequence::NativeText),
                                    [action] { action->trigger(); }});
    finder_ = new Finder(desk_, std::move(commands), this);
    connect(asOf_, &AsOfBar::finderWanted, this, [this] { finder_->openOver(this); });
}

void MainWindow::connectDesk()
{
    connect(&desk_.navigator(), &Navigator::placeWanted, this, [this](PlaceId id) {
        showPlace(QLatin1String(std::ranges::find(places(), id, &PlaceRow::id)->key));
    });
    connect(&desk_.market(), &OpenMarket::opened, this, &MainWindow::showMarket);
    connect(&desk_.fieldShelf(), &FieldShelf::changed, this,
            [this] { offerOwnFields(desk_.fieldShelf().all()->fields()); });
    connect(&desk_, &Desk::noticed, this, &MainWindow::showNotice);
    connect(&desk_.work(), &Workbench::loaded, this, &MainWindow::restore);
    connect(&desk_.market().keeper(), &MarketKeeper::failed, this, [this](const QString& message) {
        endJob();
        showNotice(tr("It could not be taken in. %1 %2")
                       .arg(message, desk_.market().isOpen() ? tr("The former market stays open.")
                                                             : QString()));
    });
    connect(&desk_.market().keeper(), &MarketKeeper::stopped, this, &MainWindow::endJob);
    connect(&desk_.market().keeper(), &MarketKeeper::progressed, this,
            [this](double fraction, const QString& what) {
                progress_->show();
                stop_->show();
                progress_->setValue(static_cast<int>(fraction * 100.0));
                jobs_->setText(what);
            });
}

void MainWindow::showPlace(const QString& id)
{
    int number = 0;
    for (const PlaceRow& row : places()) {
        if (id == QLatin1String(row.key)) {
            QWidget*& page = made_[id];
            if (!page) {
                page = row.make(desk_);
                stack_->addWidget(page);
            }
            stack_->setCurrentWidget(page);
            page->setFocus();
            shown_ = id;
            rail_->button(number)->setChecked(true);
            for (QAbstractButton* button : rail_->buttons())
                button->setIcon(
                    iconOf(QLatin1String(places()[static_cast<std::size_t>(rail_->id(button))].key),
                           button->isChecked() ? look().mark : look().softInk));
            return;
        }
        ++number;
    }
}

QString MainWindow::shownPlace() const
{
    return shown_;
}

QWidget* MainWindow::place(const QString& id) const
{
    const auto found = made_.find(id);
    return found == made_.end() ? nullptr : found->second;
}

void MainWindow::showMarket()
{
    endJob();
    update_->setEnabled(true);
    const market::Market& market = desk_.market().data();
    QString shown = tr("%1, %L2 instruments, to %3")
                        .arg(text(market.description().name))
                        .arg(market.size())
                        .arg(shortDayText(market.sessions().back()));
    if (const auto& report = desk_.market().report(); report && !report->findings.empty())
        shown += tr("  ·  %L1 remarks in the intake report, %L2 rows left out")
                     .arg(report->findings.size())
                     .arg(report->rowsLeftOut);
    market_->setText(shown);
    market_->setToolTip(text(desk_.market().keeper().source().string()));
}

void MainWindow::endJob()
{
    progress_->hide();
    stop_->hide();
    jobs_->clear();
}

void MainWindow::showNotice(const QString& notice)
{
    notice_->setText(notice);
    noticeBar_->show();
}

QString MainWindow::noticeText() const
{
    return noticeBar_->isHidden() ? QString() : notice_->text();
}

void MainWindow::restore()
{
    if (const std::string& name = desk_.settings().value("palette"); !name.empty())
        usePalette(text(name));
    const auto geometry =
        QByteArray::fromBase64(QByteArray::fromStdString(desk_.settings().value("window")));
    if (!geometry.isEmpty())
        restoreGeometry(geometry);
    if (const std::string& id = desk_.settings().value("place"); !id.empty())
        showPlace(text(id));
}

void MainWindow::closeEvent(QCloseEvent* event)
{
    desk_.settings().set("window", saveGeometry().toBase64().toStdString());
    desk_.settings().set("place", utf8(shown_));
    event->accept();
}

void MainWindow::openDataset()
{
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Open dataset"));
    if (!folder.isEmpty())
        desk_.market().keeper().open(folder.toStdString());
}

void MainWindow::takeInPrices()
{
    TakeInPricesDialog dialog(this);
    if (dialog.exec() == QDialog::Accepted)
        desk_.market().keeper().takeInPrices(dialog.source(), dialog.layoutChosen());
}

void MainWindow::updateMarket()
{
    const QString folder = QFileDialog::getExistingDirectory(
        this, tr("Folder with what is new, in the form of a dataset"));
    if (!folder.isEmpty())
        desk_.market().keeper().update(folder.toStdString());
}

void MainWindow::fillRecent()
{
    recent_->clear();
    for (const std::filesystem::path& source : desk_.market().recentSources())
        recent_->addAction(text(source.string()), this,
                           [this, source] { desk_.market().keeper().open(source); });
    if (recent_->isEmpty())
        recent_->addAction(tr("Nothing was opened yet"))->setEnabled(false);
}

void MainWindow::usePalette(const QString& name)
{
    if (name == look().name)
        return;
    wear(name == QLatin1String("harbour") ? harbourPalette() : paperPalette());
    desk_.settings().set("palette", utf8(name));
    showPlace(shown_); // its icon takes the new colours
}

void MainWindow::about()
{
    QMessageBox::about(
        this, tr("About Wise Sieve"),
        tr("<b>Wise Sieve %1</b><p>Reads the market, screens shares by fundamental and "
           "technical criteria, keeps watchlists.</p><p>Free software under the GNU "
           "General Public License, version 3 or later. All data stays on this "
           "machine.</p>")
            .arg(QCoreApplication::applicationVersion()));
}

void MainWindow::keys()
{
    QMessageBox::information(
        this, tr("Keys"),
        tr("<table cellspacing='4'>"
           "<tr><td>Alt+1 … Alt+6</td><td>the places</td></tr>"
           "<tr><td>Ctrl+K</td><td>find anything</td></tr>"
           "<tr><td>[ and ]</td><td>a session earlier, later; with Shift a week</td></tr>"
           "<tr><td>Ctrl+]</td><td>the latest session</td></tr>"
           "<tr><td>Ctrl+Z, Ctrl+Shift+Z</td><td>undo, redo</td></tr>"
           "<tr><td colspan='2'><b>Sift</b></td></tr>"
           "<tr><td>Up, Down</td><td>from criterion to criterion</td></tr>"
           "<tr><td>Alt+Up, Alt+Down</td><td>move a criterion</td></tr>"
           "<tr><td>Alt+Delete</td><td>take a criterion out</td></tr>"
           "<tr><td>Ctrl+Return</td><td>take the results in hand</td></tr>"
           "<tr><td colspan='2'><b>Weigh</b></td></tr>"
           "<tr><td>Space, Shift+Space</td><td>next candidate, the one before</td></tr>"
           "<tr><td>K, X, L</td><td>keep, drop, later</td></tr>"
           "<tr><td>R</td><td>the reason</td></tr>"
           "<tr><td>1 … 9</td><td>keep onto that list</td></tr>"
           "<tr><td>+, -, arrows, Home</td><td>zoom, pan, fit the chart</td></tr>"
           "</table>"));
}

} // namespace sieve::app
