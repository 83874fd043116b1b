#pragma once

#include "app/desk/asker.h"
#include "core/screens/run.h"

#include <QWidget>
#include <optional>
#include <string>
#include <vector>

class QComboBox;
class QDateEdit;
class QLabel;
class QTreeWidget;

namespace sieve::app {

class Desk;
class DayLine;

/// The screen through time: how many passed on each day of the year before, to be clicked, and who
/// came in and who went out since a day of one's choice.
class DaysView : public QWidget {
    Q_OBJECT
public:
    explicit DaysView(Desk& desk, QWidget* parent = nullptr);
    /// Asks as of the desk's day, if the view can be seen.
    void setScreen(const screens::Screen& screen);

protected:
    void showEvent(QShowEvent* event) override;

private:
    static constexpr int stockRole = Qt::UserRole;

    struct Answer {
        std::vector<Day> days;
        std::vector<std::size_t> passing; ///< a day each
        Day since = Day::fromSerial(0);
        screens::Changes changes;
    };
    /// The session from which changes are told; empty: there was no visit before.
    std::optional<Day> since() const;
    void rememberVisit();
    std::string visitKey() const;
    void ask();
    void show(const Answer& answer);

    Desk& desk_;
    Asker asker_;
    screens::Screen screen_;
    QComboBox* since_;
    QDateEdit* day_; ///< when a day of one's own is meant
    QLabel* summary_;
    DayLine* line_;
    QTreeWidget* changes_;
};

} // namespace sieve::app
