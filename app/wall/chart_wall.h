#pragma once

#include "app/chart/price_chart.h"
#include "app/desk/asker.h"
#include "core/engine/evaluator.h"
#include "core/watchlists/tray.h"

#include <QWidget>
#include <memory>
#include <optional>
#include <vector>

class QAction;
class QComboBox;
class QGridLayout;
class QLabel;
class QToolButton;

namespace sieve::app {

class Desk;
class ExpressionEdit;

/// The charts of some stocks, 4 to 25 at a time, all of one set-up over the same span and read at
/// the same moment. They are ordered by any figure; a click chooses the stock, a double click or
/// Return shows it alone and large, and again brings the others back. K, X and L decide on the one
/// under the pointer, else on the chosen one. Page Up and Down turn the page.
class ChartWall : public QWidget {
    Q_OBJECT
public:
    /// Under `key` are remembered: how many charts, their span and their set-up.
    ChartWall(Desk& desk, const QString& key);

    struct Stocks {
        std::shared_ptr<engine::Evaluator> evaluator; ///< null: none
        Day day = Day::fromSerial(0);
        std::vector<std::size_t> stocks;
        QString title;                              ///< what they have in common
        std::vector<charts::MarkedDay> marked = {}; ///< days that are to be seen on the charts

        friend bool operator==(const Stocks&, const Stocks&) = default;
    };
    /// Shows other stocks from the first page on; the same ones anew where they stand.
    void show(Stocks stocks);
    const Stocks& stocks() const { return stocks_; }
    /// The stock under the pointer, else the chosen one where it is among them.
    std::optional<std::size_t> stockMeant() const;
    /// What K, X and L do: tells of the decision and goes on to the next one.
    void decide(watchlists::Mark mark);
    /// Writes this page or all of them as PDF beside the window's thread; Desk::noticed tells the
    /// end. Esc stops it.
    void savePages(const QString& file, bool areAll);
    std::size_t stocksShown() const { return shown_.size(); } ///< on this page

Q_SIGNALS:
    void decided(std::size_t stock, sieve::watchlists::Mark mark);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    struct Page {
        std::vector<std::size_t> order; ///< of all stocks, where they were ordered anew
        std::size_t first = 0;
        std::vector<std::shared_ptr<const charts::Chart>> charts;
        std::optional<LocatedError> error; ///< of the figure they are ordered by
    };
    void makeHead(const QString& key);
    PriceChart* addChart();
    std::size_t aPage() const;
    void turn(int pages);
    void order();
    void ask(bool isOrderedAnew);
    void place(Page page);
    void arrange();
    void tellPage();
    void openLarge(std::optional<std::size_t> place);
    void showDrawings();
    void showMarks();
    void pointOthers(PriceChart& pointed, int bar);
    void markChosen();
    void askForFile(bool areAll);
    bool isOfOpenMarket() const; ///< else its stocks are numbers of another

    Desk& desk_;
    Asker asker_;
    Asker pagesAsker_;
    QComboBox* count_;
    QComboBox* span_;
    ExpressionEdit* by_;
    QToolButton* lowestFirst_;
    QToolButton* openOnly_;
    QLabel* summary_;
    QToolButton* back_;
    QToolButton* on_;
    QGridLayout* grid_;
    std::vector<PriceChart*> charts_;
    charts::SetUp setUp_ = charts::wallSetUp();
    Stocks stocks_;
    std::vector<std::size_t> order_; ///< the stocks as they are shown
    std::vector<std::size_t> shown_; ///< a chart: its stock
    bool isOrderAsked_ = false;      ///< anew; what is kept is not it
    std::size_t first_ = 0;          ///< place of the page in the order
    std::optional<std::size_t> large_;
    PriceChart* under_ = nullptr; ///< the pointer
    bool isPointing_ = false;     ///< all at the moment that one of them is pointed at
};

} // namespace sieve::app
