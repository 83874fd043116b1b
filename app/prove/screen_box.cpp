#include "app/prove/screen_box.h"

#include "app/parts/number_text.h"
#include "core/language/syntax.h"
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

namespace {

/// The criteria that are on, as they stand in a study's file.
std::vector<std::string> askedBy(const screens::Screen& screen)
{
    std::vector<std::string> texts;
    for (const screens::Criterion& criterion : screen.criteria)
        if (criterion.isOn)
            texts.push_back(criterion.text);
    return texts;
}

/// As one condition, which screens::criteriaOf parts again.
QString joined(const std::vector<std::string>& criteria)
{
    QStringList parts;
    for (const std::string& criterion : criteria) {
        const auto tree = language::parse(criterion);
        const bool isJoined =
            tree && (tree->form == language::Form::Or || tree->form == language::Form::And);
        parts << (isJoined && criteria.size() > 1
                      ? QLatin1Char('(') + text(criterion) + QLatin1Char(')')
                      : text(criterion));
    }
    return parts.join(QStringLiteral(" and "));
}

} // namespace

bool showScreen(const library::Work& work, const screens::Screen& screen, ScreenBox& box,
                QLineEdit& condition, QLineEdit* universe)
{
    const std::vector<std::string> asked = askedBy(screen);
    const auto own = screenNamed(work, screen.name);
    if (own && askedBy(*own) == asked && own->universe == screen.universe &&
        own->side == screen.side) {
        box.offer(work);
        box.choose(text(screen.name));
        condition.clear();
        if (universe)
            universe->clear();
        return true;
    }
    const bool isPlain = std::ranges::all_of(asked, [](const std::string& criterion) {
        return criterion.find_first_of("#\n") == std::string::npos;
    });
    if (!isPlain || (!universe && !screen.universe.empty()) ||
        screen.side == screens::ScreenSide::Short)
        return false;
    box.setCurrentIndex(0);
    condition.setText(joined(asked));
    if (universe)
        universe->setText(text(screen.universe));
    return true;
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
