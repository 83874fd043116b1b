#include "app/frame/restore_backup_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/library_keeper.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"
#include "core/library/library.h"
#include "core/library/library_folder.h"
#include "core/library/pictures.h"
#include "core/library/work_difference.h"

#include <QDialogButtonBox>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <stdexcept>

namespace sieve::app {

namespace {

QString whyText(const library::Backup& backup)
{
    const std::pair<std::string_view, QString> words[] = {
        {"daily", RestoreBackupDialog::tr("of the day")},
        {"migration", RestoreBackupDialog::tr("before a new version of the program")},
        {"asked", RestoreBackupDialog::tr("asked for")},
        {"restore", RestoreBackupDialog::tr("before a backup was restored")},
        {"former", RestoreBackupDialog::tr("of a former version of the program")}};
    for (const auto& [why, said] : words)
        if (why == backup.why)
            return said;
    return text(backup.why);
}

QString kindText(library::KindDifference::Kind kind)
{
    using Kind = library::KindDifference::Kind;
    switch (kind) {
    case Kind::Lists:
        return RestoreBackupDialog::tr("Lists");
    case Kind::Screens:
        return RestoreBackupDialog::tr("Saved screens");
    case Kind::Drafts:
        return RestoreBackupDialog::tr("Screens that are not saved");
    case Kind::Fields:
        return RestoreBackupDialog::tr("Own fields");
    case Kind::Candidates:
        return RestoreBackupDialog::tr("Candidates in hand");
    case Kind::ColumnSets:
        return RestoreBackupDialog::tr("Sets of columns");
    case Kind::ChartSetUps:
        return RestoreBackupDialog::tr("Set-ups of charts");
    case Kind::Drawings:
        return RestoreBackupDialog::tr("Drawings");
    case Kind::Weighing:
        return RestoreBackupDialog::tr("Reasons, peers, followed");
    case Kind::Checklists:
        return RestoreBackupDialog::tr("Checklists");
    case Kind::Verdicts:
        return RestoreBackupDialog::tr("Verdicts on stocks");
    case Kind::Alerts:
        return RestoreBackupDialog::tr("Alerts");
    case Kind::KeptRuns:
        return RestoreBackupDialog::tr("Kept answers of Prove");
    case Kind::TradingTerms:
        return RestoreBackupDialog::tr("Account, risk and limits of plans");
    case Kind::MailTerms:
        return RestoreBackupDialog::tr("What is told by mail");
    case Kind::MarketRules:
        return RestoreBackupDialog::tr("The rules of Market");
    }
    return {};
}

QString previewText(const std::vector<library::KindDifference>& differences)
{
    if (differences.empty())
        return RestoreBackupDialog::tr("It holds the same work as is here now.");
    QStringList lines;
    for (const library::KindDifference& difference : differences) {
        if (difference.kind == library::KindDifference::Kind::MarketRules ||
            difference.kind == library::KindDifference::Kind::TradingTerms ||
            difference.kind == library::KindDifference::Kind::MailTerms) {
            lines << RestoreBackupDialog::tr("%1 change").arg(kindText(difference.kind));
            continue;
        }
        lines << kindText(difference.kind);
        const std::pair<const std::vector<std::string>*, QString> parts[] = {
            {&difference.comes, RestoreBackupDialog::tr("come back")},
            {&difference.goes, RestoreBackupDialog::tr("go")},
            {&difference.other, RestoreBackupDialog::tr("change")}};
        for (const auto& [names, word] : parts) {
            QStringList shown;
            for (const std::string& name : *names)
                shown << text(name);
            if (!shown.isEmpty())
                lines << QStringLiteral("   %1 (%2): %3")
                             .arg(word)
                             .arg(shown.size())
                             .arg(shown.join(QStringLiteral(", ")));
        }
    }
    return lines.join(QLatin1Char('\n'));
}

} // namespace

RestoreBackupDialog::RestoreBackupDialog(Desk& desk, QWidget* parent)
    : QDialog(parent), desk_(desk), asker_(this, Asker::About::Else), list_(new QListWidget),
      preview_(new QPlainTextEdit)
{
    setWindowTitle(tr("Restore a backup"));
    resize(760, 420);
    list_->setAccessibleName(tr("Backups"));
    preview_->setAccessibleName(tr("What would change"));
    preview_->setReadOnly(true);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    restore_ = buttons->addButton(tr("Restore this backup"), QDialogButtonBox::AcceptRole);
    auto* folder = buttons->addButton(tr("From a &folder…"), QDialogButtonBox::ActionRole);
    folder->setToolTip(tr("A folder of open text that this program saved"));
    connect(folder, &QPushButton::clicked, this, &RestoreBackupDialog::addFolder);
    restore_->setEnabled(false);
    auto* sides = new QHBoxLayout;
    sides->addWidget(list_, 2);
    sides->addWidget(preview_, 3);
    auto* layout = new QVBoxLayout(this);
    auto* said =
        new QLabel(tr("What is restored takes the place of all your work. The work of now is "
                      "backed up first, and Ctrl+Z brings it back too."));
    said->setWordWrap(true);
    layout->addWidget(said);
    layout->addLayout(sides, 1);
    layout->addWidget(buttons);
    connect(list_, &QListWidget::currentRowChanged, this, &RestoreBackupDialog::readChosen);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(restore_, &QPushButton::clicked, this, &RestoreBackupDialog::restore);
    connect(&asker_, &Asker::failed, preview_, &QPlainTextEdit::setPlainText);
    asker_.ask([file = desk_.keeper().file()](const Progress&) { return library::backupsOf(file); },
               [this](const std::vector<library::Backup>& backups) { fill(backups); });
}

void RestoreBackupDialog::fill(const std::vector<library::Backup>& backups)
{
    for (const library::Backup& backup : backups) {
        sources_.push_back(
            {tr("%1 UTC, %2").arg(text(backup.madeAt), whyText(backup)),
             tr("Restore the backup of %1").arg(text(backup.madeAt)),
             [file = backup.file] { return library::loadWork(*library::Library::copyOf(file)); }});
        list_->addItem(sources_.back().title);
    }
    if (sources_.empty())
        preview_->setPlainText(tr("There is no backup yet."));
    else
        list_->setCurrentRow(0);
}

void RestoreBackupDialog::addFolder()
{
    const QString name = QFileDialog::getExistingDirectory(this, tr("A library as open text"));
    if (name.isEmpty())
        return;
    const std::filesystem::path folder(name.toStdString());
    sources_.push_back({tr("folder %1").arg(name), tr("Restore the folder %1").arg(name),
                        [folder] {
                            const auto library = library::Library::inMemory();
                            if (const auto fault = library::readFolder(*library, folder))
                                throw std::runtime_error(sentence(*fault));
                            return library::loadWork(*library);
                        },
                        folder / "pictures"});
    list_->addItem(sources_.back().title);
    list_->setCurrentRow(list_->count() - 1);
}

void RestoreBackupDialog::readChosen()
{
    then_.reset();
    restore_->setEnabled(false);
    const int row = list_->currentRow();
    if (row < 0)
        return;
    preview_->setPlainText(tr("Reading the backup…"));
    struct Answer {
        std::shared_ptr<const library::LoadedWork> then;
        std::vector<library::KindDifference> differences;
    };
    asker_.ask(
        [read = sources_[static_cast<std::size_t>(row)].read,
         now = desk_.work().now()](const Progress&) {
            auto then = std::make_shared<const library::LoadedWork>(read());
            return Answer{then, library::differences(now, then->work)};
        },
        [this](const Answer& answer) {
            then_ = answer.then;
            QString said = previewText(answer.differences);
            if (!then_->problems.empty())
                said += tr("\n\n%1 things in it cannot be read and would be left out.")
                            .arg(then_->problems.size());
            preview_->setPlainText(said);
            restore_->setEnabled(!answer.differences.empty());
        });
}

void RestoreBackupDialog::restore()
{
    if (!then_)
        return;
    restore_->setEnabled(false);
    list_->setEnabled(false);
    const Source& source = sources_[static_cast<std::size_t>(list_->currentRow())];
    desk_.keeper().ask(
        this,
        [pictures = source.pictures](library::Library& library) {
            library.backUp("restore");
            library::addPictures(library.file(), pictures);
            return true;
        },
        [this, what = source.what](bool) {
            desk_.work().edit(what, [this](Work& work) { work = then_->work; });
            accept();
        },
        [this](const QString& fault) {
            preview_->setPlainText(tr("Nothing was restored, for the work of now could not be "
                                      "backed up first: %1.")
                                       .arg(fault));
            list_->setEnabled(true);
        });
}

} // namespace sieve::app
