#pragma once

#include <QColor>
#include <QString>

namespace sieve::app {

/// The colours of the window, by what they are for. A palette is one maker in its own file.
struct Palette {
    QString name;
    QColor ground;  ///< behind everything
    QColor sheet;   ///< what is read and written on
    QColor rule;    ///< lines
    QColor ink;     ///< text
    QColor softInk; ///< text that steps back
    QColor mark;    ///< the one accent
    QColor rise;
    QColor fall;
    QColor caution; ///< what a person must not overlook

    QColor wash(const QColor& colour, double strength) const; ///< mixed into the sheet
};

Palette paperPalette();   ///< light
Palette harbourPalette(); ///< dark

} // namespace sieve::app
