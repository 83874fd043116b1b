#include "app/look/palette.h"

namespace sieve::app {

Palette harbourPalette()
{
    return {.name = QStringLiteral("harbour"),
            .ground = QColor(0x12181C),
            .sheet = QColor(0x1A2227),
            .rule = QColor(0x2D383F),
            .ink = QColor(0xE6E3DB),
            .softInk = QColor(0x97A2A9),
            .mark = QColor(0x52B5AE),
            .rise = QColor(0x74B2E2),
            .fall = QColor(0xE3925C),
            .caution = QColor(0xD2B04A)};
}

} // namespace sieve::app
