#pragma once

#include "app/desk/asker.h"
#include "core/watchlists/agenda.h"

#include <QWidget>
#include <memory>
#include <vector>

class QCheckBox;
class QComboBox;
class QLabel;
class QTreeWidget;

namespace sieve::app {

class AgendaGrid;
class Desk;

/// What is due for the stocks on the lists: a month or a week of days, and all of the chosen day
/// beside it. Goes out as iCalendar.
class AgendaView : public QWidget {
    Q_OBJECT
public:
    explicit AgendaView(Desk& desk);

    /// Asks as of the desk's day; `list`: the one that is shown, of which alone it may be told.
    void refresh(std::int64_t list);

Q_SIGNALS:
    void stockChosen(std::size_t stock);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void ask();
    void show(const std::vector<watchlists::AgendaItem>& items);
    void step(int by); ///< months or weeks
    void showDay();
    void save();
    void keepFile(bool isWanted);
    void showKept();

    Desk& desk_;
    Asker asker_;
    QComboBox* of_;
    QComboBox* span_;
    QLabel* title_;
    AgendaGrid* grid_;
    QLabel* dayTitle_;
    QTreeWidget* due_;
    QCheckBox* kept_;
    std::int64_t list_ = 0;
    std::vector<watchlists::AgendaItem> items_;
    std::optional<Day> asOf_; ///< for which a month was chosen; another day begins anew
};

} // namespace sieve::app
