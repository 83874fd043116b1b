#pragma once

#include <QWidget>

class QToolButton;

namespace sieve::app {

class Desk;
class ElidedLabel;

/// The as-of day, which governs every place, and the way to find anything. Turns to the colour of
/// caution when the day is not the latest.
class AsOfBar : public QWidget {
    Q_OBJECT
public:
    explicit AsOfBar(Desk& desk, QWidget* parent = nullptr);

Q_SIGNALS:
    void finderWanted();
    void alertsWanted();

private:
    void showDay();
    void showPlay();
    void showStance();
    void showAlerts();
    void openCalendar();

    Desk& desk_;
    QToolButton* earlier_;
    QToolButton* day_;
    QToolButton* later_;
    QToolButton* latest_;
    QToolButton* play_;
    ElidedLabel* lookingBack_;
    QToolButton* stance_;
    QToolButton* alerts_; ///< how many of them were not seen yet
};

} // namespace sieve::app
