#pragma once

#include "core/screens/screen.h"

#include <QWidget>
#include <span>

class QComboBox;
class QLabel;
class QLineEdit;
class QPlainTextEdit;

namespace sieve::app {

/// What is said about a screen: its name, folder, purpose, side, tags and notes, to be edited.
class ScreenDetails : public QWidget {
    Q_OBJECT
public:
    explicit ScreenDetails(QWidget* parent = nullptr);
    /// `saved` are the person's screens: their folders are offered, their names told of.
    void show(const screens::Screen& screen, std::span<const screens::Screen> saved);
    /// The screen shown with what was edited.
    screens::Screen screen() const;
    void focusName();

Q_SIGNALS:
    void edited();

private:
    void updateTexts();

    screens::Screen screen_;
    std::vector<std::string> taken_;
    QLineEdit* name_;
    QLabel* summary_;
    QComboBox* folder_;
    QLineEdit* purpose_;
    QComboBox* side_;
    QLineEdit* tags_;
    QPlainTextEdit* notes_;
};

} // namespace sieve::app
