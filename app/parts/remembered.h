#pragma once

#include <QWidget>

namespace sieve::app {

/// Says that what a person does to a widget is remembered, under a key that is never changed: where
/// a splitter stands, which page of a tab widget or entry of a box is shown, the number in a box,
/// whether a button is down, the widths of a table's columns (its head), the scale of a chart. The
/// frame's layout keeper does the rest.
inline constexpr const char* rememberedAs = "rememberedAs";

inline void remember(QWidget* widget, const char* key)
{
    widget->setProperty(rememberedAs, QString::fromLatin1(key));
}

} // namespace sieve::app
