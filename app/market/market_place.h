#pragma once

#include "app/desk/asker.h"
#include "app/desk/place.h"
#include "app/market/line_chart.h"
#include "app/parts/actions.h"
#include "core/conditions/reading.h"

#include <functional>
#include <memory>

class QLabel;
class QSplitter;
class QStackedWidget;
class QTabWidget;

namespace sieve::app {

class Desk;
class BriefView;
class DivergenceTable;
class FiguresView;
class GroupBoard;
class MosaicView;
class OwnScreensView;
class RuleEditor;
class StanceTable;
class StancePanel;
class StateBoard;

/// Is this a time to buy? The state at three horizons and the stance above; below, the line that is
/// chosen with its breadth, and beside it what leads.
class MarketPlace : public Place {
    Q_OBJECT
public:
    explicit MarketPlace(Desk& desk, QWidget* parent = nullptr);

protected:
    void bringUp() override;

private:
    void addTab(ActionId id, QWidget* page);
    void listen();
    void showReading();
    void showLine();
    std::shared_ptr<const conditions::LineReading> line() const;
    void showTab();
    void showSummary();
    void showBrief(bool isWanted);
    void editTrend(std::size_t horizon);
    void editRule(std::size_t rule);
    void endEditing();
    void drawAgain();
    void drawGroup(std::size_t group);
    void drawList(const QString& name);
    void draw(std::function<conditions::Line(const market::Market&)> make);
    void sift(const QString& universe);
    void fillTray(const QString& group, const std::vector<std::string>& symbols);

    Desk& desk_;
    Asker asker_;
    QStackedWidget* pages_; ///< the board, or the brief over all of it
    QLabel* summary_;
    StateBoard* board_;
    QStackedWidget* above_;
    StancePanel* stance_;
    RuleEditor* editor_;
    LineChart* chart_;
    QTabWidget* tabs_;
    GroupBoard* groups_;
    MosaicView* mosaic_;
    FiguresView* figures_;
    DivergenceTable* divergences_;
    StanceTable* spells_;
    OwnScreensView* ownScreens_;
    BriefView* brief_;
    std::shared_ptr<const conditions::Reading> reading_;
    QSplitter* halves_ = nullptr;
    /// A group or a list whose line is wanted in place of one of the board.
    struct Drawn {
        std::optional<std::int64_t> list = std::nullopt;
        std::string group = {};
    };
    Drawn drawn_;
    std::shared_ptr<const conditions::LineReading>
        other_; ///< a group or list, drawn in place of a line of the board
};

} // namespace sieve::app
