#pragma once

#include "app/desk/asker.h"
#include "core/library/backups.h"
#include "core/library/kept_work.h"

#include <QDialog>
#include <memory>
#include <vector>

class QListWidget;
class QPlainTextEdit;
class QPushButton;

namespace sieve::app {

class Desk;

/// The library's backups, and what would change if the chosen one took the place of the work.
/// Restoring is a step of the work, which can be undone.
class RestoreBackupDialog : public QDialog {
    Q_OBJECT
public:
    explicit RestoreBackupDialog(Desk& desk, QWidget* parent = nullptr);

private:
    void fill(const std::vector<library::Backup>& backups);
    void readChosen();
    void restore();

    Desk& desk_;
    Asker asker_;
    QListWidget* list_;
    QPlainTextEdit* preview_;
    QPushButton* restore_;
    std::vector<library::Backup> backups_;
    std::shared_ptr<const library::LoadedWork> then_; ///< of the chosen one, once it is read
};

} // namespace sieve::app
