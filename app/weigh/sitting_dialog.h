#pragma once

#include <QDialog>

class QLabel;
class QPushButton;
class QTableWidget;
class QTextBrowser;

namespace sieve::app {

class Desk;

/// What was decided about the stocks in hand, and why: when all are gone through, or before.
class SittingDialog : public QDialog {
    Q_OBJECT
public:
    /// `secondsEach`: that a decision took; 0: none was made.
    SittingDialog(Desk& desk, double secondsEach, QWidget* parent);

Q_SIGNALS:
    void goneThroughAgain(); ///< those set aside are undecided now

private:
    void fillIn();
    QString asText() const;

    Desk& desk_;
    double secondsEach_;
    QLabel* told_;
    QTableWidget* reasons_;
    QTextBrowser* stocks_;
    QPushButton* again_;
};

} // namespace sieve::app
