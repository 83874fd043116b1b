#include "app/prove/screen_box.h"

#include "app/parts/number_text.h"
#include "core/screens/starter.h"

#include <QSignalBlocker>
#include <algorithm>

namespace sieve::app {

ScreenBox::ScreenBox(const QString& first, QWidget* parent) : QComboBox(parent), first_(first)
{
    setAccessibleName(tr("Screen"));
    setMaxVisibleItems(24);
    setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    setMinimumContentsLength(16);
    addItem(first_);
}

void ScreenBox::offer(const library::Work& work)
{
    const QString chosen = currentIndex() > 1 ? currentText() : QString();
    const bool isInHand = currentIndex() == 1;
    const QSignalBlocker blocker(this);
    clear();
    addItem(first_);
    addItem(tr("The screen in hand"));
    for (const screens::Screen& screen : allScreens(work))
        addItem(text(screen.name));
    choose(chosen);
    if (isInHand)
        chooseInHand();
}

void ScreenBox::choose(const QString& name)
{
    setCurrentIndex(name.isEmpty() ? 0 : std::max(0, findText(name)));
}

std::optional<screens::Screen> ScreenBox::screen(const library::Work& work) const
{
    if (currentIndex() == 1)
        return *work.screen;
    return currentIndex() > 1 ? screenNamed(work, utf8(currentText())) : std::nullopt;
}

std::optional<screens::Screen> screenNamed(const library::Work& work, const std::string& name)
{
    for (const screens::Screen& screen : allScreens(work))
        if (screen.name == name)
            return screen;
    return std::nullopt;
}

std::vector<screens::Screen> allScreens(const library::Work& work)
{
    std::vector<screens::Screen> all;
    for (const auto& kept : work.screens)
        all.push_back(kept->screen);
    for (const screens::Screen& ready : screens::starterScreens())
        if (std::ranges::find(all, ready.name, &screens::Screen::name) == all.end())
            all.push_back(ready);
    return all;
}

} // namespace sieve::app
