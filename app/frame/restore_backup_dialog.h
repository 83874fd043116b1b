#pragma once

#include "app/desk/asker.h"
#include "core/library/backups.h"
#include "core/library/kept_work.h"

#include <QDialog>
#include <filesystem>
#include <functional>
#include <memory>
#include <vector>

class QListWidget;
class QPlainTextEdit;
class QPushButton;

namespace sieve::app {

class Desk;

/// The library's backups, or a folder of open text, and what would change if the chosen one took
/// the place of the work. Restoring is a step of the work, which can be undone.
class RestoreBackupDialog : public QDialog {
    Q_OBJECT
public:
    explicit RestoreBackupDialog(Desk& desk, QWidget* parent = nullptr);

private:
    /// What may take the place of the work.
    struct Source {
        QString title; ///< in the list
        QString what;  ///< the step of restoring it
        std::function<library::LoadedWork()> read;
        std::filesystem::path pictures = {}; ///< a folder of them that comes along
    };
    void fill(const std::vector<library::Backup>& backups);
    void addFolder();
    void readChosen();
    void restore();

    Desk& desk_;
    Asker asker_;
    QListWidget* list_;
    QPlainTextEdit* preview_;
    QPushButton* restore_;
    std::vector<Source> sources_;                     ///< one a line of the list
    std::shared_ptr<const library::LoadedWork> then_; ///< of the chosen one, once it is read
};

} // namespace sieve::app
