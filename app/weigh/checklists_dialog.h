#pragma once

#include "core/screens/name_book.h"
#include "core/watchlists/checklist.h"

#include <QDialog>
#include <vector>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTreeWidget;

namespace sieve::app {

class Desk;
class ExpressionEdit;

/// The person's checklists: which one is judged by, its questions, their order and rules. What is
/// changed is kept by “Keep”, as one step of undo.
class ChecklistsDialog : public QDialog {
    Q_OBJECT
public:
    ChecklistsDialog(Desk& desk, const QString& chosen, QWidget* parent);

Q_SIGNALS:
    void chosen(const QString& name); ///< to be judged by

private:
    QLayout* makeHead();
    QWidget* makeQuestions();
    void show(const watchlists::Checklist& checklist);
    void beginAnother();
    void remove();
    void fillQuestions(int current);
    void showQuestion();
    void readQuestion();
    void move(int by);
    void tellFault();
    std::string faultNow() const;
    bool keep();

    Desk& desk_;
    screens::NameBookPtr book_;
    std::string from_; ///< the one that is changed; empty: a new one
    watchlists::Checklist draft_;
    QComboBox* lists_;
    QLineEdit* name_;
    QTreeWidget* questions_;
    QLineEdit* words_;
    ExpressionEdit* rule_;
    QLabel* fault_;
    QPushButton* keep_;
};

} // namespace sieve::app
