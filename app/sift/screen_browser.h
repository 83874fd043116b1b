#pragma once

#include "app/desk/asker.h"
#include "core/screens/screen.h"

#include <QDialog>
#include <map>
#include <optional>
#include <vector>

class QLabel;
class QLineEdit;
class QPushButton;
class QTabWidget;
class QTextBrowser;
class QTreeWidget;
class QTreeWidgetItem;

namespace sieve::app {

class Desk;
class ScreenDetails;
class ScreenVersions;

/// All screens: the person's own in their folders, the ready ones by purpose, the removed ones;
/// with what each asks, how many pass it on the as-of day, and what it was before.
class ScreenBrowser : public QDialog {
    Q_OBJECT
public:
    explicit ScreenBrowser(Desk& desk, QWidget* parent = nullptr);
    /// The screen to open, once the dialog was accepted.
    const std::optional<screens::Screen>& chosen() const { return chosen_; }

private:
    enum Column { NameColumn, PassingColumn };

    enum class Kind { Group, Own, Ready, Removed };
    struct Entry {
        Kind kind = Kind::Group;
        std::string name;
    };

    QWidget* buildRight();
    QWidget* buildFoot();
    void fill();
    QTreeWidgetItem* group(QTreeWidgetItem* under, const QString& title);
    QTreeWidgetItem* folderOf(QTreeWidgetItem* root, const std::string& folder);
    void addScreen(QTreeWidgetItem* under, const screens::Screen& screen, Kind kind);
    void addRemoved(const std::vector<std::string>& names);
    void askCounts();
    void filter();
    void showCurrent();
    void enableActs(); ///< by what is selected
    Entry entryOf(const QTreeWidgetItem* item) const;
    std::optional<screens::Screen> screenOf(const QTreeWidgetItem* item) const;
    std::vector<screens::Screen> selectedScreens() const;
    void open();
    void saveDetails();
    void removeSelected();
    void importFiles();
    void exportSelected();

    Desk& desk_;
    Asker counter_;
    Asker files_;
    std::optional<screens::Screen> chosen_;
    std::string shown_; ///< to be current again after filling
    QLineEdit* words_;
    QTreeWidget* tree_;
    QLabel* title_;
    QLabel* facts_;
    QTabWidget* tabs_;
    QTextBrowser* asks_;
    ScreenDetails* details_;
    QPushButton* saveDetails_;
    ScreenVersions* versions_;
    QPushButton* open_;
    QPushButton* remove_;
    QPushButton* export_;
    QLabel* summary_;
};

} // namespace sieve::app
