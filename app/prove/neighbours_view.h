#pragma once

#include "app/desk/asker.h"
#include "app/prove/answer_model.h"
#include "core/studies/neighbours.h"

#include <QWidget>
#include <memory>

class QComboBox;
class QLabel;
class QTableView;

namespace sieve::app {

class Desk;
class NeighbourPicture;

/// Whether a screen's limits stand on a plateau or on a ridge: two of them moved, what followed as
/// a field of cells. It is asked when it can be seen.
class NeighboursView : public QWidget {
    Q_OBJECT
public:
    explicit NeighboursView(Desk& desk);
    /// Of what followed, at one of its horizons; asked as of the same day.
    void setAnswer(const std::shared_ptr<const studies::Following>& following, std::size_t horizon);
    const std::shared_ptr<const studies::Neighbours>& neighbours() const { return neighbours_; }

protected:
    void showEvent(QShowEvent* event) override;

private:
    void offerLimits();
    void ask();
    void showWalk();

    Desk& desk_;
    Asker asker_;
    QComboBox* across_;
    QComboBox* down_;
    QLabel* told_;
    NeighbourPicture* picture_;
    AnswerModel* walkModel_;
    QTableView* walkTable_;
    QLabel* walkTold_;
    std::shared_ptr<const studies::Following> following_;
    studies::FollowingQuestion question_; ///< of it, at the one horizon
    std::vector<studies::MovedLimit> movable_;
    bool isAsked_ = false; ///< of what is set
    std::shared_ptr<const studies::Neighbours> neighbours_;
};

} // namespace sieve::app
