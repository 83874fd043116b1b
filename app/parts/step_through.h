#pragma once

class QKeyEvent;
class QListWidget;

namespace sieve::app {

/// Up and Down, pressed in the line above a list, go through it. Says whether the key was one.
bool stepThrough(QListWidget& list, const QKeyEvent& key);

} // namespace sieve::app
