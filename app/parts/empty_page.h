#pragma once

#include <QWidget>

class QLabel;
class QPushButton;

namespace sieve::app {

/// What an empty place shows: what goes there, and the first step.
class EmptyPage : public QWidget {
    Q_OBJECT
public:
    explicit EmptyPage(QWidget* parent = nullptr);
    void setTexts(const QString& title, const QString& text, const QString& step = {});

Q_SIGNALS:
    void stepTaken();

private:
    QLabel* title_;
    QLabel* text_;
    QPushButton* step_;
};

} // namespace sieve::app
