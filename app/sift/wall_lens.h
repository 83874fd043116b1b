#pragma once

#include "app/chart/price_chart.h"
#include "app/desk/asker.h"
#include "app/sift/lens.h"

class QComboBox;
class QGridLayout;
class QLabel;
class QToolButton;

namespace sieve::app {

/// The charts of what passes, 4 to 25 at a time, all over the same span and read at the same
/// day; a click chooses the stock, Page Up and Down turn the page.
class WallLens : public Lens {
    Q_OBJECT
public:
    explicit WallLens(Desk& desk);
    void show(const SiftedPtr& sifted) override;

protected:
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    std::size_t aPage() const;
    void turn(int pages);
    void fill();
    using ChartPtr = std::shared_ptr<const charts::Chart>;
    void place(std::vector<ChartPtr> charts);
    void showDrawings();
    void pointOthers(PriceChart& pointed, int bar);
    void markChosen();

    Asker asker_;
    QComboBox* count_;
    QComboBox* span_;
    QLabel* summary_;
    QToolButton* back_;
    QToolButton* on_;
    QGridLayout* grid_;
    std::vector<PriceChart*> charts_;
    std::vector<std::size_t> shown_; ///< a chart: its stock
    charts::SetUp setUp_ = charts::standardSetUp();
    SiftedPtr sifted_;
    std::size_t first_ = 0;   ///< match of the page
    bool isPointing_ = false; ///< all at the bar that one of them is pointed at
};

} // namespace sieve::app
