#pragma once

#include "core/watchlists/alert.h"

#include <QMainWindow>
#include <QPointer>
#include <filesystem>
#include <map>
#include <vector>

class QButtonGroup;
class QLabel;
class QProgressBar;
class QStackedWidget;
class QToolButton;

namespace sieve::app {

class AlertsDialog;
class AsOfBar;
class Desk;
class Finder;
class LayoutKeeper;
class NoticeBar;
struct ActionRow;

/// The frame: places on the left, the as-of day on top, the tray below, menus that carry every
/// command. It knows the places only by their table.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(Desk& desk, QWidget* parent = nullptr);

    void showPlace(const QString& id);
    QString shownPlace() const;
    QWidget* place(const QString& id) const; ///< null for one that was never shown
    QString noticeText() const;              ///< empty when none is shown
    /// Another start was made: this window is the one, and opens what that was started with.
    void comeForward(const QStringList& datasets);

protected:
    void closeEvent(QCloseEvent* event) override;

private:
    QWidget* makeRail();
    void makeStatus();
    void addActions();
    void makeMenus();
    QAction* addToMenu(QMenu* menu, const ActionRow& row, int number);
    void act(const ActionRow& row, int number);
    void connectDesk();
    void showMarket();
    void showNotice(const QString& notice); ///< what must be known
    void showFact(const QString& fact);     ///< what is good to know
    void restore();
    void showAlerts();
    void saveLibraryFolder();
    void tellAlerts(const std::vector<watchlists::Raised>& fresh);
    void openDataset();
    void takeInPrices();
    void updateMarket();
    void fillRecent();
    void endJob(); ///< takes the signs of a job under way away
    bool mayCloseUnsaved();
    void closeWhenSaved();
    void usePalette(const QString& name);
    void about();

    Desk& desk_;
    AsOfBar* asOf_;
    NoticeBar* notices_;
    LayoutKeeper* layout_;
    Finder* finder_ = nullptr;
    QStackedWidget* stack_;
    QButtonGroup* rail_;
    std::map<QString, QWidget*> made_;
    QString shown_;
    bool closesWhenSaved_ = false; ///< the person closed it while something was being saved
    QLabel* market_;
    QLabel* jobs_;
    QProgressBar* progress_;
    QToolButton* stop_;
    QPointer<AlertsDialog> alerts_;
    QMenu* recent_ = nullptr;
    QAction* update_ = nullptr; ///< both: of the open market
    QAction* again_ = nullptr;
};

} // namespace sieve::app
