#pragma once

#include "app/desk/asker.h"
#include "core/conditions/reading.h"

#include <QWidget>
#include <array>
#include <memory>
#include <optional>

class QCheckBox;
class QDoubleSpinBox;
class QFormLayout;
class QLabel;
class QLineEdit;

namespace sieve::app {

class Desk;
class ExpressionEdit;

/// Edits a rule of the market book in place: a state's rule for a horizon, or a timing rule. While
/// it is typed, what it makes of the line's history is told and handed out to be drawn. Enter
/// keeps, Escape puts back.
class RuleEditor : public QWidget {
    Q_OBJECT
public:
    explicit RuleEditor(Desk& desk, QWidget* parent = nullptr);

    void editTrend(std::shared_ptr<const conditions::Reading> reading, std::size_t line,
                   std::size_t horizon);
    /// Beyond the last rule: a new one.
    void editTiming(std::shared_ptr<const conditions::Reading> reading, std::size_t rule);

Q_SIGNALS:
    void drafted(std::size_t horizon, std::shared_ptr<const conditions::TrendReading> reading);
    void done(); ///< kept or put back

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void open(bool isTrend);
    void draft();
    void draftTrend();
    void draftTiming();
    void showAnswer(const QString& text, const std::optional<LocatedError>& error, int place);
    void keep();
    void close();
    conditions::TrendRule trendTyped() const;
    conditions::TimingRule timingTyped() const;

    Desk& desk_;
    Asker asker_;
    QLabel* head_;
    QFormLayout* form_;
    QLineEdit* title_;
    std::array<ExpressionEdit*, 4> conditions_;
    std::array<QLabel*, 4> names_;
    QDoubleSpinBox* share_;
    QCheckBox* standsAside_;
    QLabel* effect_;
    std::shared_ptr<const conditions::Reading> reading_;
    bool isTrend_ = true;
    std::size_t line_ = 0;
    std::size_t horizon_ = 0;
    std::size_t rule_ = 0;
};

} // namespace sieve::app
