#pragma once

#include "core/charts/set_up.h"

#include <QDialog>

class QComboBox;
class QLabel;
class QPlainTextEdit;
class QPushButton;

namespace sieve::app {

/// What a chart shows, as text: panes and layers are added, changed, moved and taken out by
/// writing. Each letter is checked; a mistake is told with its place, and only what is none can be
/// used. A set-up is opened from a file and saved to one.
class SetUpDialog : public QDialog {
    Q_OBJECT
public:
    explicit SetUpDialog(const charts::SetUp& setUp, QWidget* parent = nullptr);

    const charts::SetUp& setUp() const { return setUp_; } ///< the newest one without a mistake
    QPlainTextEdit& editor() { return *editor_; }
    QString told() const; ///< what is wrong, or that nothing is
    /// Take the file's text into the editor, and write the editor's, beside the window's thread.
    void openFile(const QString& file);
    void saveFile(const QString& file);

Q_SIGNALS:
    void fileDone(bool isWell); ///< else told() says why

private:
    void tellFile(const QString& fault);
    void read();
    void askForFile(bool isSaving);

    charts::SetUp setUp_;
    QPlainTextEdit* editor_;
    QComboBox* ready_;
    QLabel* told_;
    QPushButton* use_;
};

} // namespace sieve::app
