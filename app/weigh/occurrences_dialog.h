#pragma once

#include "app/desk/asker.h"
#include "app/weigh/case_model.h"
#include "core/screens/name_book.h"
#include "core/studies/aftermath.h"

#include <QDialog>
#include <memory>
#include <optional>
#include <vector>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QSpinBox;
class QTableView;

namespace sieve::app {

class AftermathPicture;
class Desk;
class ExpressionEdit;

/// What followed each time that a condition began to hold: in the stock in hand and in all of them.
class OccurrencesDialog : public QDialog {
    Q_OBJECT
public:
    /// `condition`: that is asked first; empty: none yet.
    OccurrencesDialog(Desk& desk, std::size_t stock, const QString& condition, QWidget* parent);

    /// What is shown; null before the first answer.
    struct Answer {
        std::string condition;
        screens::NameBookPtr book; ///< what its names meant
        studies::Terms terms;
        std::shared_ptr<const std::vector<studies::Aftermath>> cases; ///< by stock and bar
        studies::Summary own;
        studies::Summary all;
        std::vector<CaseModel::Shown> newest;    ///< that are shown one by one, the newest first
        std::vector<CaseModel::Shown> newestOwn; ///< likewise of the one stock
    };
    const Answer* answer() const { return answer_ ? &*answer_ : nullptr; }

Q_SIGNALS:
    void caseChosen(std::size_t stock, sieve::Day day);

private:
    QLayout* makeQuestion();
    void ask();
    void take(Result<Answer> answer);
    void showCases();
    studies::Terms terms() const;

    Desk& desk_;
    Asker asker_;
    market::MarketPtr market_;
    std::size_t stock_;
    Day day_;
    QComboBox* screens_;
    ExpressionEdit* condition_;
    QDoubleSpinBox* stop_;
    QDoubleSpinBox* target_;
    QSpinBox* within_;
    QLabel* told_;
    AftermathPicture* picture_;
    QCheckBox* ownAlone_;
    CaseModel* model_;
    QTableView* table_;
    std::optional<Answer> answer_;
};

} // namespace sieve::app
