#pragma once

#include "app/desk/asker.h"
#include "core/screens/offers.h"

#include <QFrame>
#include <functional>
#include <vector>

class QLabel;
class QLineEdit;
class QListWidget;

namespace sieve::app {

class Desk;
class SpreadStrip;

/// Opens under the line for a new criterion: whatever answers to the words typed there, and beside
/// it what the chosen one means and how it stands today among the stocks that still pass. The line
/// keeps the focus; arrows choose, Return takes, Escape closes.
class CriterionFinder : public QFrame {
    Q_OBJECT
public:
    /// `screen` gives the screen as it stands.
    CriterionFinder(Desk& desk, QLineEdit* line, std::function<screens::Screen()> screen);

Q_SIGNALS:
    void criterionTaken(const QString& condition);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void open();
    void show(std::vector<screens::Offer> offers);
    void choose();
    void describe(const screens::Offer& offer, const std::optional<screens::FieldToday>& today);
    void useChosen();
    void useText(const std::string& condition, const std::string& used);
    void place();
    std::vector<std::string> recent() const;

    Desk& desk_;
    QLineEdit* line_;
    std::function<screens::Screen()> screen_;
    Asker asker_;
    Asker fieldAsker_;
    std::vector<screens::Offer> offers_;
    std::optional<screens::FieldToday> today_; ///< of the chosen field, once it is known
    bool isTakenWhenKnown_ = false;            ///< Return came before the answer
    QListWidget* list_;
    QLabel* title_;
    QLabel* meaning_;
    SpreadStrip* spread_;
    QLabel* figures_;
};

} // namespace sieve::app
