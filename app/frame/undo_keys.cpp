#include "app/frame/undo_keys.h"

#include <QApplication>
#include <QKeyEvent>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QTextDocument>
#include <Qsci/qsciscintilla.h>

namespace sieve::app {

namespace {

/// Whether an input can undo (or do again) something that was typed and not given yet. Who takes
/// what was typed calls its text unmodified.
bool hasOwnStep(const QWidget* input, bool isUndo)
{
    if (const auto* line = qobject_cast<const QLineEdit*>(input))
        return line->isModified() && (isUndo ? line->isUndoAvailable() : line->isRedoAvailable());
    if (const auto* text = qobject_cast<const QPlainTextEdit*>(input))
        return isUndo ? text->document()->isUndoAvailable() : text->document()->isRedoAvailable();
    if (const auto* text = qobject_cast<const QsciScintilla*>(input))
        return text->isModified() && (isUndo ? text->isUndoAvailable() : text->isRedoAvailable());
    return false;
}

} // namespace

UndoKeys::UndoKeys(QWidget& window) : QObject(&window), window_(window)
{
    qApp->installEventFilter(this);
}

bool UndoKeys::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() != QEvent::ShortcutOverride)
        return false;
    const auto* key = static_cast<const QKeyEvent*>(event);
    const bool isUndo = key->matches(QKeySequence::Undo);
    const auto* input = qobject_cast<const QWidget*>(watched);
    if (!input || input->window() != &window_ || (!isUndo && !key->matches(QKeySequence::Redo)) ||
        hasOwnStep(input, isUndo))
        return false;
    event->ignore();
    return true; // so the input does not hear of it, and the window's action has the key
}

} // namespace sieve::app
