#pragma once

#include "core/screens/screen.h"

#include <QAction>
#include <QWidget>
#include <functional>

class QLabel;
class QToolButton;

namespace sieve::app {

class Desk;

/// The screen in hand by name and purpose: choosing another, saving this one, and what all are
/// called. What is saved is the draft, each letter included.
class ScreenHead : public QWidget {
    Q_OBJECT
public:
    /// `place` takes its actions, whose keys work all over it.
    ScreenHead(Desk& desk, std::function<screens::Screen()> draft, QWidget* place);
    /// The screen in hand, or what is saved, became another.
    void updateTexts();

Q_SIGNALS:
    void chosen(); ///< another screen is in hand
    void begun();  ///< … an empty one
    void asTextWanted(bool isText);

private:
    void fillMenu();
    void choose(const screens::Screen& screen);
    void begin();
    void save();
    void saveAs();
    void saveAsOwn(const screens::Screen& screen);
    void browse();

    Desk& desk_;
    std::function<screens::Screen()> draft_;
    QToolButton* name_;
    QToolButton* save_;
    QLabel* purpose_;
    QList<QAction*> acts_; ///< at the end of the menu
};

} // namespace sieve::app
