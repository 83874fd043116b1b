#pragma once

#include "app/desk/asker.h"
#include "core/conditions/reading.h"

#include <QWidget>
#include <memory>

class QLabel;
class QTreeWidget;
class QTreeWidgetItem;

namespace sieve::app {

class Desk;

/// How much of the money may be at work, and why: each rule as a sentence with its parts ticked or
/// open, and how far an open part is from turning.
class StancePanel : public QWidget {
    Q_OBJECT
public:
    explicit StancePanel(Desk& desk, QWidget* parent = nullptr);
    void show(const std::shared_ptr<const conditions::Reading>& reading, Day day);

Q_SIGNALS:
    void ruleWanted(std::size_t rule); ///< to be edited
    void newRuleWanted();

private:
    enum Column { Sentence, Now, Needs, ColumnCount };

    using Parts = std::vector<std::vector<conditions::RulePart>>;

    void fill();
    void addRule(std::size_t rule, std::size_t bar);
    void addPart(QTreeWidgetItem* parent, const conditions::RulePart& part);
    void addActions();
    void enableActions();
    void removeRule();
    std::optional<std::size_t> ruleOf(const QTreeWidgetItem* item) const;

    Desk& desk_;
    Asker asker_;
    QLabel* share_;
    QLabel* since_;
    QWidget* band_;
    QTreeWidget* rules_;
    QAction* edit_ = nullptr; ///< the chosen rule; so is the next
    QAction* remove_ = nullptr;
    std::shared_ptr<const conditions::Reading> reading_;
    Day day_ = Day::fromSerial(0);
    Parts parts_; ///< of the reading and day shown; empty until they are known
};

/// The stance as a person reads it: "60 % at work".
QString stanceText(double stance);

} // namespace sieve::app
