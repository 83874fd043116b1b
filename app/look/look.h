#pragma once

#include "app/look/palette.h"

#include <QFont>
#include <QIcon>

namespace sieve::app {

/// The palette that is on. Painted widgets ask for it each time they paint; a switch reaches them
/// as a palette change of the application.
const Palette& look();
/// Puts a palette, the style and the fonts on the whole application.
void wear(const Palette& palette);

/// While it lives, look() is the palette of paper, for painted widgets that draw a picture for a
/// file.
class OnPaper {
public:
    OnPaper();
    ~OnPaper();
    OnPaper(const OnPaper&) = delete;
    OnPaper& operator=(const OnPaper&) = delete;

private:
    Palette former_;
};

enum class Weight { Regular, Medium, SemiBold };
/// The body font at `factor` times its size.
QFont fontOf(Weight weight, double factor = 1.0);

/// One of the program's own drawings (app/look/icons), in a colour.
QIcon iconOf(const QString& name, const QColor& colour);

} // namespace sieve::app
