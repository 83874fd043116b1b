#pragma once

#include "app/chart/price_chart.h"
#include "app/desk/asker.h"
#include "app/desk/place.h"
#include "core/dossier/dossier.h"
#include "core/screens/name_book.h"
#include "core/watchlists/tray.h"

#include <QElapsedTimer>
#include <memory>

class QAction;

namespace sieve::app {

class Desk;
class BlendButton;
class ChartWall;
class Dossier;
class DrawingShelf;
class EmptyPage;
class PlanShelf;
class VerdictShelf;
struct StockPages;

/// The candidates one by one: chart on the left, dossier on the right, a key for each decision.
class WeighPlace : public Place {
    Q_OBJECT
public:
    explicit WeighPlace(Desk& desk, QWidget* parent = nullptr);
    /// The pages of stocks as they would be printed now; with a title as a booklet.
    StockPages pagesOf(std::vector<std::size_t> stocks, const QString& title) const;
    /// Writes them as PDF, beside the window's thread, and tells how that went.
    void writePages(const StockPages& pages, const QString& file);

protected:
    void bringUp() override;

private:
    struct Answer {
        std::shared_ptr<const charts::Chart> chart;
        std::shared_ptr<const dossier::Dossier> dossier;
    };
    struct Stock {
        market::MarketPtr market;
        std::size_t stock = 0;

        friend bool operator==(const Stock&, const Stock&) = default;
    };
    void connectDossier();
    void addActions();
    void showSelection();
    void step(int by);
    void decide(watchlists::Mark mark);
    void showWall();
    bool isOnWall() const;
    bool drop(std::size_t stock, watchlists::Mark mark, const QString& reason);
    void keepOnto(std::optional<std::int64_t> list, bool isReasonTyped);
    std::string takePicture(std::size_t stock);
    bool keep(std::size_t stock, std::optional<std::int64_t> list, const std::string& reason,
              bool isReasonTyped);
    void keepOntoPlace(std::size_t place);
    void goOn(std::size_t from);
    void askLists();
    void askFigures();
    dossier::Choices generalChoices() const;
    dossier::Choices choicesFor(std::size_t stock) const;
    void explain(const QString& expression, const QString& title);
    void explainOf(std::size_t stock, Day day, const QString& expression, const QString& title);
    void showTable(const dossier::Table& table);
    void goToDay(Day day);
    void showOccurrences();
    void offerReasons();
    void showSitting();
    void restoreSitting();
    void choosePeers();
    std::vector<std::size_t> peersShown() const;
    void scatterPeers();
    void compareStocks();
    void showMove();
    void follow();
    void showDigest();
    void print(const StockPages& pages, const QString& name);
    void printStock();
    void printBooklet();
    void countDecision(std::size_t openBefore);
    void saveReason(const QString& reason);
    void saveTypedReason();
    QString reasonOf(std::size_t stock) const;

    Desk& desk_;
    Asker asker_;
    Asker listsAsker_;
    QWidget* page_;
    EmptyPage* empty_;
    ChartWall* wall_;
    QAction* onWall_ = nullptr; ///< the wall is shown in place of one chart
    PriceChart* chart_;
    BlendButton* blend_;
    Dossier* dossier_;
    DrawingShelf* drawings_;
    PlanShelf* plans_;
    VerdictShelf* verdicts_;
    Asker printAsker_;
    /// What chart and figures were asked for: a decision changes none of it.
    struct Asked {
        Stock of;
        Day day = Day::fromSerial(0);
        charts::SetUp setUp = {};
        dossier::Choices choices = {};

        friend bool operator==(const Asked&, const Asked&) = default;
    };
    /// An answer with what it was asked for.
    struct Answered {
        Asked asked;
        screens::NameBookPtr book;
        Answer answer;
    };
    void showAnswer(const Answered& answered);
    void prepareNext();

    Asked asked_;
    std::optional<Answered> made_; ///< that is shown; empty before one came
    Asker aheadAsker_;
    std::optional<Answered> prepared_; ///< that may be asked for next
    QElapsedTimer shownSince_;         ///< the stock in hand
    struct Sitting {
        double seconds = 0.0; ///< that decisions took
        int decisions = 0;

        double secondsEach() const { return decisions > 0 ? seconds / decisions : 0.0; }
    };
    Sitting sitting_;                                ///< since the first decision on those in hand
    std::optional<std::pair<Stock, Day>> dayWanted_; ///< that a chart to come shows
    Stock listsOf_;                                  ///< whose lists are shown
    std::optional<std::size_t> shown_;               ///< the stock whose reason stands in the line
    market::MarketPtr market_;                       ///< the one that it is of
};

} // namespace sieve::app
