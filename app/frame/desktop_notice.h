#pragma once

#include <QString>

namespace sieve::app {

/// Shows a notice on the desktop, outside the window, by the freedesktop notification service over
/// D-Bus. Does not wait. Where there is no such service nothing is shown: the window tells it too.
void showOnDesktop(const QString& title, const QString& text);

} // namespace sieve::app
