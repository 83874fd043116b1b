#include "app/chart/set_up_dialog.h"

#include "app/look/tone.h"
#include "app/parts/beside.h"
#include "app/parts/number_text.h"
#include "core/storage/file_aside.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QFontDatabase>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <system_error>

namespace sieve::app {

SetUpDialog::SetUpDialog(const charts::SetUp& setUp, QWidget* parent)
    : QDialog(parent), setUp_(setUp), editor_(new QPlainTextEdit), ready_(new QComboBox),
      told_(new QLabel)
{
    setWindowTitle(tr("What the chart shows"));
    resize(620, 620);
    auto* help = new QLabel(
        tr("The first pane has the prices. A layer shows an expression of the language as a line, "
           "band, columns, dots, steps, ribbon, marks, trades or states, in the colour mark, "
           "caution, fall, rise, soft "
           "or ink."));
    help->setWordWrap(true);
    setTone(help, Tone::Soft);
    editor_->setAccessibleName(tr("The chart's set-up"));
    editor_->setFont(QFontDatabase::systemFont(QFontDatabase::FixedFont));
    editor_->setPlainText(text(charts::toToml(setUp)));
    ready_->setAccessibleName(tr("Ready set-ups"));
    ready_->addItem(tr("Begin with a ready one…"));
    for (const charts::SetUp& each : charts::readySetUps())
        ready_->addItem(text(each.name));
    told_->setWordWrap(true);
    told_->setMinimumHeight(2 * fontMetrics().height());
    auto* buttons = new QDialogButtonBox;
    use_ = buttons->addButton(tr("Show it"), QDialogButtonBox::AcceptRole);
    buttons->addButton(QDialogButtonBox::Cancel);
    auto* open = buttons->addButton(tr("Open a file…"), QDialogButtonBox::ActionRole);
    auto* save = buttons->addButton(tr("Save to a file…"), QDialogButtonBox::ActionRole);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(help);
    layout->addWidget(ready_);
    layout->addWidget(editor_, 1);
    layout->addWidget(told_);
    layout->addWidget(buttons);
    connect(editor_, &QPlainTextEdit::textChanged, this, &SetUpDialog::read);
    connect(ready_, &QComboBox::activated, this, [this](int entry) {
        if (entry > 0)
            editor_->setPlainText(
                text(charts::toToml(charts::readySetUps()[static_cast<std::size_t>(entry) - 1])));
    });
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(open, &QPushButton::clicked, this, [this] { askForFile(false); });
    connect(save, &QPushButton::clicked, this, [this] { askForFile(true); });
    read();
    editor_->setFocus();
}

QString SetUpDialog::told() const
{
    return told_->text();
}

void SetUpDialog::read()
{
    const auto setUp = charts::setUpFromToml(utf8(editor_->toPlainText()));
    use_->setEnabled(static_cast<bool>(setUp));
    setTone(told_, setUp ? Tone::Soft : Tone::Caution);
    if (!setUp) {
        told_->setText(text(sentence(setUp.error())));
        return;
    }
    setUp_ = *setUp;
    std::size_t layers = 0;
    for (const charts::PaneSetUp& pane : setUp_.panes)
        layers += pane.layers.size();
    told_->setText(tr("%1 panes, %2 layers. What is wrong with an expression stands in its pane.")
                       .arg(setUp_.panes.size())
                       .arg(layers));
}

void SetUpDialog::openFile(const QString& file)
{
    struct Read {
        QString content;
        QString fault;
    };
    beside(
        this,
        [file] {
            constexpr qint64 most = 1 << 20; // more is no set-up
            if (QFileInfo(file).size() > most)
                return Read{{}, tr("%1 is longer than 1 MiB, and so no set-up.").arg(file)};
            try {
                return Read{text(storage::readWhole(utf8(file))), {}};
            } catch (const std::system_error& fault) {
                return Read{{},
                            tr("%1 could not be read: %2").arg(file, text(fault.code().message()))};
            }
        },
        [this](const Read& read) {
            if (read.fault.isEmpty())
                editor_->setPlainText(read.content);
            tellFile(read.fault);
        });
}

void SetUpDialog::saveFile(const QString& file)
{
    beside(
        this,
        [file, content = utf8(editor_->toPlainText())] {
            try {
                storage::writeWhole(utf8(file), content);
                return QString();
            } catch (const std::system_error& fault) {
                return tr("%1 could not be written: %2").arg(file, text(fault.code().message()));
            }
        },
        [this](const QString& fault) { tellFile(fault); });
}

void SetUpDialog::tellFile(const QString& fault)
{
    if (!fault.isEmpty()) {
        setTone(told_, Tone::Caution);
        told_->setText(fault);
    }
    Q_EMIT fileDone(fault.isEmpty());
}

void SetUpDialog::askForFile(bool isSaving)
{
    const QString filter = tr("Set-ups of charts (*.toml)");
    const QString suggested = QDir::home().filePath(text(setUp_.name) + QStringLiteral(".toml"));
    const QString file =
        isSaving
            ? QFileDialog::getSaveFileName(this, tr("Save the set-up"), suggested, filter)
            : QFileDialog::getOpenFileName(this, tr("Open a set-up"), QDir::homePath(), filter);
    if (file.isEmpty())
        return;
    if (isSaving)
        saveFile(file);
    else
        openFile(file);
}

} // namespace sieve::app
