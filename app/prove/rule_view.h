#pragma once

#include "app/desk/asker.h"
#include "app/prove/answer_model.h"
#include "core/studies/portfolio.h"

#include <QWidget>
#include <memory>

class QCheckBox;
class QComboBox;
class QDateEdit;
class QDoubleSpinBox;
class QGridLayout;
class QLabel;
class QSpinBox;
class QTableView;

namespace sieve::app {

class CurvePicture;
class Desk;
class EmptyPage;
class ExpressionEdit;
class QuestionPanel;
class ScreenBox;

/// A portfolio by rule: the best of a screen, held, chosen anew, sold by exits, after costs.
class RuleView : public QWidget {
    Q_OBJECT
public:
    explicit RuleView(Desk& desk);

    void refresh(); ///< brings what can be chosen up to the desk
    void ask();
    struct Answer {
        market::MarketPtr market;
        std::shared_ptr<const studies::Portfolio> portfolio;
        studies::PortfolioTold told;
    };
    const Answer& answer() const { return answer_; }

Q_SIGNALS:
    void stockChosen(std::size_t stock, sieve::Day day);

private:
    void makeQuestion();
    QWidget* makeAnswer();
    void tell(const QString& what);
    studies::PortfolioRule rule() const;
    void take(const Result<std::shared_ptr<const Answer>>& answer);
    void showFigures();
    void showMonths();
    void showTrades();
    void showStocks();

    Desk& desk_;
    Asker asker_;
    QuestionPanel* panel_;
    ScreenBox* screen_;
    ExpressionEdit* condition_;
    ExpressionEdit* rank_;
    QCheckBox* smallest_;
    QSpinBox* hold_;
    QSpinBox* keep_;
    ExpressionEdit* weights_;
    ExpressionEdit* when_;
    ScreenBox* otherwise_;
    QComboBox* by_;
    QSpinBox* every_;
    QCheckBox* reweigh_;
    QDoubleSpinBox* stop_;
    QDoubleSpinBox* trailing_;
    QDoubleSpinBox* target_;
    QSpinBox* sessions_;
    ExpressionEdit* onStock_;
    QDoubleSpinBox* money_;
    QDoubleSpinBox* cost_;
    QDoubleSpinBox* orderCost_;
    QDoubleSpinBox* slippage_;
    QDoubleSpinBox* volume_;
    QComboBox* filled_;
    QDateEdit* from_;
    QDateEdit* to_;
    QLabel* told_;
    QLabel* cautions_;
    EmptyPage* empty_; ///< before the first answer
    QWidget* inside_;
    CurvePicture* picture_;
    AnswerModel* figuresModel_;
    QTableView* figuresTable_ = nullptr;
    AnswerModel* monthsModel_;
    QTableView* monthsTable_ = nullptr;
    AnswerModel* tradesModel_;
    QTableView* tradesTable_;
    AnswerModel* stocksModel_;
    Answer answer_;
};

} // namespace sieve::app
