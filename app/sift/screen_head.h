#pragma once

#include "core/screens/screen.h"

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
    ScreenHead(Desk& desk, std::function<screens::Screen()> draft, QWidget* parent = nullptr);
    /// The screen in hand, or what is saved, became another.
    void tell();

Q_SIGNALS:
    void chosen(); ///< another screen is in hand
    void begun();  ///< … an empty one
    void asTextWanted(bool isText);

private:
    void fillMenu();
    void addAct(const QString& name, const QKeySequence& key, const std::function<void()>& run);
    void choose(const screens::Screen& screen);
    void begin();
    void save();
    void saveAs();
    void browse();

    Desk& desk_;
    std::function<screens::Screen()> draft_;
    QToolButton* name_;
    QToolButton* save_;
    QLabel* purpose_;
    std::vector<QAction*> acts_; ///< at the end of the menu
};

} // namespace sieve::app
