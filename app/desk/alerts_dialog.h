#pragma once

#include "core/watchlists/alert.h"

#include <QDialog>
#include <cstdint>
#include <optional>

class QCheckBox;
class QTabWidget;
class QTreeWidget;

namespace sieve::app {

class Desk;

/// What alerts told, to be seen and followed, and the alerts themselves, to be made and changed.
class AlertsDialog : public QDialog {
    Q_OBJECT
public:
    AlertsDialog(Desk& desk, QWidget* parent);

    void showAlerts(); ///< in place of what they told

private:
    QWidget* makeTold();
    QWidget* makeAlerts();
    void fillTold();
    void fillAlerts();
    void markSeen(bool areAll);
    void follow();
    void change();
    void remove();
    void turn();
    void quieten();
    std::optional<watchlists::Alert> chosen() const;

    Desk& desk_;
    QTabWidget* tabs_;
    QTreeWidget* told_;
    QTreeWidget* alerts_;
    QCheckBox* onDesktop_;
    QCheckBox* withSound_;
};

/// Asks for a new alert and keeps it; `begun` is what stands there first, its day is set here.
void makeAlert(Desk& desk, watchlists::Alert begun, QWidget* window);

inline constexpr const char* alertsOnDesktopKey = "alerts_on_desktop"; ///< a setting: "0" is off
inline constexpr const char* alertsWithSoundKey = "alerts_with_sound"; ///< "1" is on

} // namespace sieve::app
