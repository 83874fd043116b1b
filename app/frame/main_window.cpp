#include "app/frame/main_window.h"

#include "app/desk/alert_keeper.h"
#include "app/desk/alerts_dialog.h"
#include "app/desk/day_player.h"
#include "app/desk/desk.h"
#include "app/desk/field_shelf.h"
#include "app/desk/focus.h"
#include "app/desk/library_keeper.h"
#include "app/desk/mail_dialog.h"
#include "app/desk/market_keeper.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/frame/as_of_bar.h"
#include "app/frame/desktop_notice.h"
#include "app/frame/finder.h"
#include "app/frame/history_dialog.h"
#include "app/frame/intake_report_dialog.h"
#include "app/frame/keys_dialog.h"
#include "app/frame/layout_keeper.h"
#include "app/frame/notice_bar.h"
#include "app/frame/places.h"
#include "app/frame/restore_backup_dialog.h"
#include "app/frame/take_in_prices_dialog.h"
#include "app/frame/tray_bar.h"
#include "app/frame/undo_keys.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "core/library/library_folder.h"

#include <QApplication>
#include <QButtonGroup>
#include <QCloseEvent>
#include <QCoreApplication>
#include <QDir>
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

constexpr int factShownFor = 6000; // milliseconds

QString placeTitle(const PlaceRow& row)
{
    return QCoreApplication::translate("Places", row.title);
}

/// The place to which an action belongs; null where it belongs to none or to any.
const PlaceRow* placeRowOf(const ActionRow& row)
{
    if (placeOf(row.within) == Within::Window)
        return nullptr;
    return &*std::ranges::find(places(), placeOf(row.within), &PlaceRow::within);
}

} // namespace

MainWindow::MainWindow(Desk& desk, QWidget* parent)
    : QMainWindow(parent), desk_(desk), asOf_(new AsOfBar(desk)), notices_(new NoticeBar),
      layout_(new LayoutKeeper(desk.settings(), *this)), stack_(new QStackedWidget),
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
    column->addWidget(notices_);
    auto* middle = new QHBoxLayout;
    middle->setSpacing(0);
    middle->addWidget(makeRail());
    middle->addWidget(stack_, 1);
    column->addLayout(middle, 1);
    column->addWidget(new TrayBar(desk));
    setCentralWidget(centre);
    makeStatus();
    addActions();
    makeMenus();
    connectDesk();
    new UndoKeys(*this);
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
        button->setToolTip(tr("%1 (%2)").arg(
            placeTitle(row), keysOf(ActionId::ShowPlace, number + 1)[0].toString()));
        rail_->addButton(button, number++);
        layout->addWidget(button);
        connect(button, &QToolButton::clicked, this,
                [this, id = QString::fromLatin1(row.key)] { showPlace(id); });
    }
    layout->addStretch(1);
    return rail;
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

void MainWindow::addActions()
{
    adoptAction(this, ActionId::Undo, desk_.work().undoStack().createUndoAction(this, tr("&Undo")));
    adoptAction(this, ActionId::Redo, desk_.work().undoStack().createRedoAction(this, tr("&Redo")));
    makeAction(this, ActionId::OpenDataset, [this] { openDataset(); });
    makeAction(this, ActionId::TakeInPrices, [this] { takeInPrices(); });
    update_ = makeAction(this, ActionId::UpdateMarket, [this] { updateMarket(); });
    again_ =
        makeAction(this, ActionId::TakeInAgain, [this] { desk_.market().keeper().takeInAgain(); });
    update_->setEnabled(false);
    again_->setEnabled(false);
    makeAction(this, ActionId::ShowIntakeReport, [this] {
        if (desk_.market().report())
            IntakeReportDialog(desk_.market().report(), this).exec();
    });
    makeAction(this, ActionId::BackUp, [this] {
        desk_.keeper().enqueue([](library::Library& library) { library.backUp(); });
    });
    makeAction(this, ActionId::SaveLibraryFolder, [this] { saveLibraryFolder(); });
    makeAction(this, ActionId::ShowHistory,
               [this] { showEditHistory(desk_.work().undoStack(), this); });
    makeAction(this, ActionId::MailTerms, [this] { editMail(desk_, this); });
    makeAction(this, ActionId::RestoreBackup, [this] { RestoreBackupDialog(desk_, this).exec(); });
    makeAction(this, ActionId::Quit, [this] { close(); });
    makeAction(this, ActionId::EmptyTray, [this] {
        desk_.work().edit(tr("Empty the tray"), [](Work& work) { work.tray.edit().clear(); });
    });
    int number = 0;
    for (const PlaceRow& row : places()) {
        QAction* show = makeAction(
            this, ActionId::ShowPlace, [this, id = QString::fromLatin1(row.key)] { showPlace(id); },
            ++number);
        show->setText(placeTitle(row));
    }
    const std::pair<ActionId, int> steps[] = {{ActionId::SessionEarlier, -1},
                                              {ActionId::SessionLater, 1},
                                              {ActionId::WeekEarlier, -5},
                                              {ActionId::WeekLater, 5}};
    for (const auto& [id, sessions] : steps)
        makeAction(this, id, [this, by = sessions] { desk_.focus().stepSessions(by); });
    makeAction(this, ActionId::LatestSession, [this] { desk_.focus().goToLatest(); });
    makeAction(this, ActionId::PlayDays, [this] { desk_.player().toggle(); });
    makeAction(this, ActionId::PlaySlower, [this] { desk_.player().changePace(-1); });
    makeAction(this, ActionId::PlayFaster, [this] { desk_.player().changePace(1); });
    makeAction(this, ActionId::ShowAlerts, [this] { showAlerts(); });
    makeAction(this, ActionId::NewAlert, [this] {
        watchlists::Alert begun;
        if (desk_.market().isOpen() && desk_.focus().selected())
            begun.about.symbol = market::symbolOn(
                desk_.market().data().instrument(*desk_.focus().selected()), desk_.focus().day());
        makeAlert(desk_, begun, this);
    });
    makeAction(this, ActionId::FindAnything, [this] { finder_->openOver(this); });
    makeAction(this, ActionId::LightPalette, [this] { usePalette(QStringLiteral("paper")); });
    makeAction(this, ActionId::DarkPalette, [this] { usePalette(QStringLiteral("harbour")); });
    makeAction(this, ActionId::FullScreen,
               [this] { setWindowState(windowState() ^ Qt::WindowFullScreen); });
    makeAction(this, ActionId::ShowNotices, [this] { showNoticeHistory(*notices_, this); });
    makeAction(this, ActionId::ShowKeys, [this] { KeysDialog(this).exec(); });
    makeAction(this, ActionId::About, [this] { about(); });
}

/// Menus and the finder's commands, as the table of actions has them.
void MainWindow::makeMenus()
{
    const std::pair<MenuId, QString> titles[] = {
        {MenuId::File, tr("&File")},     {MenuId::Edit, tr("&Edit")},
        {MenuId::Go, tr("&Go")},         {MenuId::View, tr("&View")},
        {MenuId::Market, tr("&Market")}, {MenuId::Sift, tr("&Sift")},
        {MenuId::Weigh, tr("We&igh")},   {MenuId::Lists, tr("&Lists")},
        {MenuId::Prove, tr("&Prove")},   {MenuId::Help, tr("&Help")}};
    std::vector<Findable> commands;
    for (const auto& [id, title] : titles) {
        QMenu* menu = menuBar()->addMenu(title);
        for (const ActionRow& row : actionRows()) {
            if (row.menu != id)
                continue;
            if (row.beginsGroup)
                menu->addSeparator();
            for (int number = 1; number <= row.count; ++number) {
                QAction* action = addToMenu(menu, row, number);
                const auto keys = keysOf(row.id, number);
                commands.push_back({action->text().section(QLatin1Char('\t'), 0, 0).remove(u'&'),
                                    menu->title().remove(u'&') + u' ' +
                                        (keys.isEmpty() ? QString() : keys[0].toString()),
                                    [this, &row, number] { act(row, number); }});
            }
            if (row.id == ActionId::OpenDataset)
                recent_ = menu->addMenu(tr("Open &recent"));
        }
    }
    connect(recent_, &QMenu::aboutToShow, this, &MainWindow::fillRecent);
    finder_ = new Finder(desk_, std::move(commands), this);
    connect(asOf_, &AsOfBar::alertsWanted, this, &MainWindow::showAlerts);
    connect(asOf_, &AsOfBar::finderWanted, this, [this] { finder_->openOver(this); });
}

/// The window's own actions stand in menus themselves. For those of a place, which may not be there
/// yet and whose keys are its own, an entry stands in: it shows the place first.
QAction* MainWindow::addToMenu(QMenu* menu, const ActionRow& row, int number)
{
    if (row.within == Within::Window) {
        QAction* own = findAction(*this, row.id, number);
        menu->addAction(own);
        return own;
    }
    const auto keys = keysOf(row.id, number);
    const QString shown = keys.isEmpty() ? QString() : u'\t' + keys[0].toString();
    QAction* entry = menu->addAction(titleOf(row.id, number) + shown);
    connect(entry, &QAction::triggered, this, [this, &row, number] { act(row, number); });
    connect(menu, &QMenu::aboutToShow, this, [this, entry, &row, number] {
        const PlaceRow* place = placeRowOf(row);
        const QWidget* page =
            place ? this->place(QLatin1String(place->key)) : stack_->currentWidget();
        const QAction* action = page ? findAction(*page, row.id, number) : nullptr;
        entry->setEnabled(action ? action->isEnabled() : !page);
    });
    return entry;
}

/// Does what a row says, in its place.
void MainWindow::act(const ActionRow& row, int number)
{
    if (const PlaceRow* place = placeRowOf(row))
        showPlace(QLatin1String(place->key));
    const QWidget& where = row.within == Within::Window ? *this : *stack_->currentWidget();
    QAction* action = findAction(where, row.id, number);
    if (action && action->isEnabled())
        action->trigger();
    else
        showNotice(tr("“%1” has nothing here that it could be done to.")
                       .arg(plainTitleOf(row.id, number).remove(QStringLiteral("…"))));
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
    connect(&desk_.alerts(), &AlertKeeper::raised, this, &MainWindow::tellAlerts);
    connect(&desk_, &Desk::told, this, &MainWindow::showFact);
    connect(&desk_.work(), &Workbench::loaded, this, &MainWindow::restore);
    connect(&desk_.work(), &Workbench::savingEnded, this, &MainWindow::closeWhenSaved);
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
                layout_->adopt(page);
            }
            stack_->setCurrentWidget(page);
            page->setFocus();
            shown_ = id;
            desk_.navigator().setShown(row.id);
            if (desk_.settings().isLoaded())
                desk_.settings().set("place", utf8(id));
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
    again_->setEnabled(true);
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

/// One dialog, which stays open beside the window.
void MainWindow::showAlerts()
{
    if (!alerts_) {
        alerts_ = new AlertsDialog(desk_, this);
        alerts_->setAttribute(Qt::WA_DeleteOnClose);
    }
    alerts_->show();
    alerts_->raise();
    alerts_->activateWindow();
}

void MainWindow::saveLibraryFolder()
{
    const QString name =
        QFileDialog::getSaveFileName(this, tr("A new folder for the library as open text"),
                                     QDir::home().filePath(QStringLiteral("wise-sieve-library")));
    if (name.isEmpty())
        return;
    desk_.keeper().ask(
        this,
        [folder = std::filesystem::path(name.toStdString())](library::Library& library) {
            library::writeFolder(library, folder);
            return true;
        },
        [this, name](bool) { showFact(tr("All your work is in %1.").arg(name)); },
        [this](const QString& why) {
            showNotice(tr("The library was not saved as open text: %1").arg(why));
        });
}

/// In the window, and on the desktop where the person wants that: one notice for all.
void MainWindow::tellAlerts(const std::vector<watchlists::Raised>& fresh)
{
    constexpr std::size_t mostNamed = 4;
    QStringList told;
    for (std::size_t i = fresh.size(); i-- > 0 && told.size() < static_cast<int>(mostNamed);)
        told << (fresh[i].symbol.empty()
                     ? text(fresh[i].words)
                     : text(fresh[i].symbol) + QStringLiteral(": ") + text(fresh[i].words));
    if (fresh.size() > mostNamed)
        told << tr("and %1 more").arg(fresh.size() - mostNamed);
    const QString words = told.join(QStringLiteral("; "));
    showFact(tr("Alerts told: %1").arg(words));
    if (desk_.settings().value(alertsOnDesktopKey) != "0")
        showOnDesktop(tr("Alerts told: %1").arg(fresh.size()), words);
    if (desk_.settings().value(alertsWithSoundKey) == "1")
        QApplication::beep();
}

void MainWindow::showNotice(const QString& notice)
{
    notices_->add(notice, NoticeBar::Severity::Warning);
}

/// In passing, in the status line.
void MainWindow::showFact(const QString& fact)
{
    notices_->add(fact, NoticeBar::Severity::Fact);
    statusBar()->showMessage(fact, factShownFor);
}

QString MainWindow::noticeText() const
{
    return notices_->shown();
}

void MainWindow::restore()
{
    if (const std::string& name = desk_.settings().value("palette"); !name.empty())
        usePalette(text(name));
    if (const std::string& id = desk_.settings().value("place"); !id.empty())
        showPlace(text(id));
}

void MainWindow::closeEvent(QCloseEvent* event)
{
    // What is being typed counts: a line tells it when it loses the focus.
    for (QDialog* dialog : findChildren<QDialog*>())
        dialog->close();
    if (QWidget* line = focusWidget())
        line->clearFocus();
    const bool isUnderWay = !desk_.work().isSaved() && !desk_.work().isFailing();
    if (isUnderWay && !closesWhenSaved_) {
        closesWhenSaved_ = true;
        showFact(tr("Your last changes are being written; the window closes when they are saved."));
        return event->ignore();
    }
    event->setAccepted(desk_.work().isSaved() || mayCloseUnsaved());
}

/// What could not be saved, or is not saved yet when the person insists, would be lost.
bool MainWindow::mayCloseUnsaved()
{
    const QString why =
        desk_.work().isFailing()
            ? tr("They could not be written, and are lost when the window closes. Make room on the "
                 "disk, or see that its folder can be written; saving is tried again every few "
                 "seconds.")
            : tr("They are still being written, and may be lost when the window closes now.");
    const auto answer =
        QMessageBox::warning(this, tr("Your last changes are not saved"), why,
                             QMessageBox::Close | QMessageBox::Cancel, QMessageBox::Cancel);
    closesWhenSaved_ = false;
    return answer == QMessageBox::Close;
}

/// Saved, the window closes; failed, the person is asked.
void MainWindow::closeWhenSaved()
{
    if (!closesWhenSaved_ || !(desk_.work().isSaved() || desk_.work().isFailing()))
        return;
    closesWhenSaved_ = false;
    close();
}

void MainWindow::comeForward(const QStringList& datasets)
{
    setWindowState(windowState() & ~Qt::WindowMinimized);
    show();
    raise();
    activateWindow();
    QApplication::alert(this); // where the desktop does not let a window raise itself
    if (!datasets.isEmpty())
        desk_.market().keeper().open(datasets.constFirst().toStdString());
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

} // namespace sieve::app
