#include "core/screens/starter.h"

#include "core/base/embedded_text.h"

#include <algorithm>
#include <fmt/format.h>
#include <stdexcept>

namespace sieve::screens {

std::span<const EmbeddedText> embeddedTexts();

const std::vector<Screen>& starterScreens()
{
    static const std::vector<Screen> screens = [] {
        std::vector<Screen> made;
        for (const EmbeddedText& file : embeddedTexts()) {
            const Result<Screen> screen = screenFromToml(file.text);
            if (!screen)
                throw std::logic_error(fmt::format("{}: {}", file.name, sentence(screen.error())));
            made.push_back(*screen);
        }
        std::ranges::sort(made, {}, &Screen::name);
        return made;
    }();
    return screens;
}

} // namespace sieve::screens
