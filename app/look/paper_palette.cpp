#include "app/look/palette.h"

namespace sieve::app {

Palette paperPalette()
{
    return {.name = QStringLiteral("paper"),
            .ground = QColor(0xF6F3EC),
            .sheet = QColor(0xFFFFFF),
            .rule = QColor(0xD8D2C4),
            .ink = QColor(0x20282E),
            .softInk = QColor(0x626A70),
            .mark = QColor(0x0E6B6B),
            .rise = QColor(0x1F6AA5),
            .fall = QColor(0xB4531B),
            .caution = QColor(0x8A6D00)};
}

} // namespace sieve::app
