#pragma once

#include "core/conditions/groups.h"

#include <QWidget>
#include <memory>

class QSpinBox;
class QTreeWidget;
class QTreeWidgetItem;

namespace sieve::app {

/// What leads: sectors, each opening to its industries, ranked by their change over a span that is
/// chosen here, with their ranks before and the path of the rank over a quarter.
class GroupBoard : public QWidget {
    Q_OBJECT
public:
    explicit GroupBoard(QWidget* parent = nullptr);
    void setGroups(std::shared_ptr<const conditions::Groups> groups);
    void setSession(std::size_t session);

Q_SIGNALS:
    /// A group's shares are wanted elsewhere: a condition of the language that picks them.
    void sharesWanted(const QString& condition);

private:
    void show();
    void fill(QTreeWidgetItem* item, const conditions::GroupStanding& standing);
    void showMenu(const QPoint& at);
    QString conditionOf(std::size_t group) const;

    QSpinBox* span_;
    QTreeWidget* tree_;
    std::shared_ptr<const conditions::Groups> groups_;
    std::size_t session_ = 0;
};

} // namespace sieve::app
