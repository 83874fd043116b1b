#pragma once

class QUndoStack;
class QWidget;

namespace sieve::app {

/// Shows the steps of the person's work, those of former sessions too, beside the window. A click
/// on one takes back, or does again, all that lies between.
void showEditHistory(QUndoStack& steps, QWidget* window);

} // namespace sieve::app
