#pragma once

#include "core/library/work.h"

#include <QComboBox>
#include <QLineEdit>
#include <optional>

namespace sieve::app {

/// The person's screens and the ready ones, by name, after a first entry that is none of them and
/// the screen in hand, as it stands in Sift.
class ScreenBox : public QComboBox {
    Q_OBJECT
public:
    explicit ScreenBox(const QString& first, QWidget* parent = nullptr);
    void chooseInHand() { setCurrentIndex(1); }
    /// Keeps the choice where the screen is still there.
    void offer(const library::Work& work);
    /// The chosen one as it is now; empty with the first entry.
    std::optional<screens::Screen> screen(const library::Work& work) const;
    void choose(const QString& name);

private:
    QString first_;
};

/// Shows a screen: by its name where the person or the program has one that asks the same, else as
/// a condition, with the first entry of the box. False where it cannot be shown so, as one whose
/// criteria have comments, or a universe without a field for it; then nothing is changed.
bool showScreen(const library::Work& work, const screens::Screen& screen, ScreenBox& box,
                QLineEdit& condition, QLineEdit* universe);

/// One of that name: the person's own before a ready one.
std::optional<screens::Screen> screenNamed(const library::Work& work, const std::string& name);
/// All of them: the person's own, and ready ones whose name is not taken.
std::vector<screens::Screen> allScreens(const library::Work& work);

} // namespace sieve::app
