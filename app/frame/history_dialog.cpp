#include "app/frame/history_dialog.h"

#include "app/look/tone.h"

#include <QCoreApplication>
#include <QDialog>
#include <QDialogButtonBox>
#include <QLabel>
#include <QUndoStack>
#include <QUndoView>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

QString historyText(const char* words)
{
    return QCoreApplication::translate("History", words);
}

} // namespace

void showEditHistory(QUndoStack& steps, QWidget* window)
{
    auto* dialog = new QDialog(window);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setObjectName(QStringLiteral("history"));
    dialog->setWindowTitle(historyText(QT_TRANSLATE_NOOP("History", "What you did")));
    dialog->resize(380, 460);
    auto* view = new QUndoView(&steps);
    view->setEmptyLabel(
        historyText(QT_TRANSLATE_NOOP("History", "As it was before the steps below")));
    view->setAccessibleName(dialog->windowTitle());
    auto* hint = new QLabel(historyText(
        QT_TRANSLATE_NOOP("History", "The newest stand last. A click on a step brings your work to "
                                     "what it was after it; steps below can be done again.")));
    hint->setWordWrap(true);
    setTone(hint, Tone::Soft);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    QObject::connect(buttons, &QDialogButtonBox::rejected, dialog, &QDialog::reject);
    auto* layout = new QVBoxLayout(dialog);
    layout->addWidget(hint);
    layout->addWidget(view, 1);
    layout->addWidget(buttons);
    dialog->show();
    view->setFocus();
}

} // namespace sieve::app
