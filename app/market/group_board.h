#pragma once

#include "app/desk/asker.h"
#include "core/conditions/groups.h"
#include "core/valuation/scorecard.h"

#include <QWidget>
#include <memory>

class QComboBox;
class QSpinBox;
class QTreeWidget;
class QTreeWidgetItem;

namespace sieve::app {

class BlendButton;
class Desk;
class ExpressionEdit;

/// What leads: sectors, each opening to its industries and these to their stocks. Groups are ranked
/// by their change over a span or by the median of any figure, with their ranks before and the path
/// of the rank over a quarter; stocks by a blend of scores that the person weighs.
class GroupBoard : public QWidget {
    Q_OBJECT
public:
    explicit GroupBoard(Desk& desk, QWidget* parent = nullptr);
    void show(const std::shared_ptr<const conditions::Groups>& groups, Day day);
    int span() const; ///< sessions, also while groups are ranked by a figure

Q_SIGNALS:
    /// A group's shares are wanted elsewhere: a condition of the language that picks them.
    void sharesWanted(const QString& condition);
    void trayWanted(const QString& group, const std::vector<std::string>& symbols);
    void groupChosen(std::size_t group); ///< its line is to be drawn
    void spanChanged();

protected:
    void changeEvent(QEvent* event) override;

private:
    /// What is ranked, as of one day.
    struct Answer {
        std::shared_ptr<const conditions::Groups> groups;
        conditions::GroupFigures figures;
        std::optional<LocatedError> error;
    };
    /// The same of each stock, with its blend: asked only when stocks are to be seen.
    struct Stocks {
        engine::ColumnPtr figures;
        engine::ColumnPtr blend;
    };
    static Answer rank(engine::Evaluator& evaluator, const language::Names& names,
                       const std::shared_ptr<const conditions::Groups>& groups, Day day,
                       const std::string& figure, int span, const Progress& progress);
    /// The figure that groups are ranked by; empty: their change.
    std::string figureTyped() const;
    void askStocks(std::function<void()> then);
    void fillOpened();
    void restoreCurrent();

    void ask();
    void fill();
    void fillStocks(QTreeWidgetItem* item);
    void fillGroup(QTreeWidgetItem* item, const conditions::RankedGroup& ranked);
    void addActions();
    void enableActions();
    void takeIntoTray();
    std::optional<std::size_t> chosenGroup() const;
    std::vector<std::size_t> byBlend(std::size_t group) const;
    std::optional<std::size_t> groupOf(const QTreeWidgetItem* item) const;

    Desk& desk_;
    Asker asker_;
    Asker stocksAsker_;
    QComboBox* by_;
    QSpinBox* span_;
    ExpressionEdit* figure_;
    BlendButton* blend_;
    QList<QAction*> actions_; ///< on the chosen group
    QTreeWidget* tree_;
    std::shared_ptr<const conditions::Groups> groups_;
    Day day_ = Day::fromSerial(0);
    std::shared_ptr<const Answer> answer_;
    QString current_;              ///< path of the part that is to be current once it is there
    std::optional<Stocks> stocks_; ///< empty until somebody wants to see them
};

} // namespace sieve::app
