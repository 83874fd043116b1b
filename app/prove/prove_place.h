#pragma once

#include "app/desk/place.h"
#include "app/parts/actions.h"
#include "core/charts/chart.h"
#include "core/studies/kept_run.h"

#include <vector>

class QAction;
class QStackedWidget;

namespace sieve::app {

class ChartWall;
class Desk;
class FollowedView;
class KeptView;
class RuleView;
class StandingsView;
class StudyView;

/// Does it work? What followed matches, how all screens stood, what a rule would have made; each
/// answer with what weakens it.
class ProvePlace : public Place {
    Q_OBJECT
public:
    explicit ProvePlace(Desk& desk, QWidget* parent = nullptr);

protected:
    void bringUp() override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    void addLens(QAction*& action, ActionId id, QWidget* lens);
    void showLens(QWidget* lens);
    StudyView* shownStudy() const; ///< null while the kept answers are shown
    void askShown();
    void showQuestion(const studies::KeptRun& run);
    void showStock(std::size_t stock, Day day);
    void showWall(const std::vector<charts::MarkedDay>& cases, const QString& title);
    void openScreen(const QString& name);

    Desk& desk_;
    QStackedWidget* lenses_;
    FollowedView* followed_;
    StandingsView* standings_;
    RuleView* rule_;
    KeptView* kept_;
    ChartWall* wall_;
    QAction* onFollowed_ = nullptr;
    QAction* onStandings_ = nullptr;
    QAction* onRule_ = nullptr;
    QAction* onKept_ = nullptr;
};

} // namespace sieve::app
