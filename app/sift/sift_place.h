#pragma once

#include "app/desk/asker.h"
#include "app/desk/place.h"
#include "app/parts/actions.h"
#include "app/sift/sifted.h"

#include <memory>

class QButtonGroup;
class QHBoxLayout;
class QLabel;
class QStackedWidget;
class QTabWidget;
class QTimer;

namespace sieve::app {

class DaysView;
class Desk;
class FollowedGlance;
class NearMissTable;
class OutAndIn;
class ResultsView;
class ScreenHead;
class StackView;
class WhyView;

/// From thousands to the few: the stack on the left, what passes on the right.
class SiftPlace : public Place {
    Q_OBJECT
public:
    explicit SiftPlace(Desk& desk, QWidget* parent = nullptr);

protected:
    void bringUp() override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override; ///< of a text: shown before it is taken

private:
    QWidget* buildRight();
    void addLens(ActionId id, QWidget* page);
    void show(const SiftedPtr& sifted);
    void showRest();
    void forgetResults();
    void setDraft(screens::Screen screen);
    void showLens();
    void showSummary();
    void commit(const QString& what, bool mayJoin);
    void loadScreen();
    void fillUniverseMenu();
    void listenToResults();
    void setColumns(const std::vector<std::string>& columns, const screens::CellGraphics& cells);
    void loadFields();
    void chooseColumns();
    void fillTray();
    bool takeInHand(const std::vector<std::string>& symbols);
    void showSelection();
    void askPercent(std::size_t criterion, std::size_t limit);

    Desk& desk_;
    Asker asker_;
    Asker percentAsker_;
    screens::Screen draft_; ///< the screen as it stands, each letter included
    SiftedPtr sifted_ = std::make_shared<const Sifted>();
    StackView* stack_;
    ScreenHead* head_;
    QLabel* summary_;
    OutAndIn* outAndIn_;
    ResultsView* results_;
    QButtonGroup* lensButtons_;
    QStackedWidget* lenses_; ///< the table, then those of lens.h
    QTabWidget* evidence_;   ///< near misses, why, days
    NearMissTable* nearMisses_;
    WhyView* why_;
    DaysView* days_;
    FollowedGlance* followed_;
    QTimer* follow_; ///< lets the counts be painted before the rest is laid out
};

} // namespace sieve::app
