#include "app/sift/screen_details.h"

#include "app/look/tone.h"
#include "app/parts/number_text.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <algorithm>
#include <set>

namespace sieve::app {

namespace {

std::vector<std::string> tagsIn(const QString& typed)
{
    std::vector<std::string> tags;
    for (const QString& tag : typed.split(QLatin1Char(','), Qt::SkipEmptyParts))
        if (const QString trimmed = tag.simplified(); !trimmed.isEmpty())
            tags.push_back(utf8(trimmed));
    return tags;
}

} // namespace

ScreenDetails::ScreenDetails(QWidget* parent)
    : QWidget(parent), name_(new QLineEdit), summary_(new QLabel), folder_(new QComboBox),
      purpose_(new QLineEdit), side_(new QComboBox), tags_(new QLineEdit),
      notes_(new QPlainTextEdit)
{
    auto* form = new QFormLayout(this);
    form->setContentsMargins(8, 8, 8, 8);
    folder_->setEditable(true);
    folder_->lineEdit()->setPlaceholderText(tr("None; or parts divided by /"));
    side_->addItems({tr("Long"), tr("Short")});
    tags_->setPlaceholderText(tr("Divided by commas"));
    notes_->setTabChangesFocus(true);
    notes_->setMaximumHeight(fontMetrics().height() * 6);
    setTone(summary_, Tone::Soft);
    const auto add = [&](const QString& label, QWidget* widget) {
        widget->setAccessibleName(label);
        form->addRow(label, widget);
    };
    add(tr("Name"), name_);
    form->addRow(QString(), summary_);
    add(tr("Folder"), folder_);
    add(tr("Purpose"), purpose_);
    add(tr("Side"), side_);
    add(tr("Tags"), tags_);
    add(tr("Notes"), notes_);
    connect(name_, &QLineEdit::textChanged, this, &ScreenDetails::updateTexts);
    for (const QLineEdit* line : {name_, folder_->lineEdit(), purpose_, tags_})
        connect(line, &QLineEdit::textEdited, this, &ScreenDetails::edited);
    connect(folder_, &QComboBox::activated, this, &ScreenDetails::edited);
    connect(side_, &QComboBox::activated, this, &ScreenDetails::edited);
    connect(notes_, &QPlainTextEdit::textChanged, this, &ScreenDetails::edited);
}

void ScreenDetails::show(const screens::Screen& screen, std::span<const screens::Screen> saved)
{
    const QSignalBlocker quiet(notes_);
    screen_ = screen;
    taken_.clear();
    std::set<std::string> folders;
    for (const screens::Screen& each : saved) {
        taken_.push_back(each.name);
        if (!each.folder.empty())
            folders.insert(each.folder);
    }
    folder_->clear();
    for (const std::string& folder : folders)
        folder_->addItem(text(folder));
    folder_->setEditText(text(screen.folder));
    name_->setText(text(screen.name));
    purpose_->setText(text(screen.purpose));
    side_->setCurrentIndex(screen.side == screens::ScreenSide::Long ? 0 : 1);
    QStringList tags;
    for (const std::string& tag : screen.tags)
        tags << text(tag);
    tags_->setText(tags.join(QStringLiteral(", ")));
    notes_->setPlainText(text(screen.notes));
    updateTexts();
}

screens::Screen ScreenDetails::screen() const
{
    screens::Screen screen = screen_;
    screen.name = utf8(name_->text().trimmed());
    screen.folder = screens::tidyFolder(utf8(folder_->currentText()));
    screen.purpose = utf8(purpose_->text().trimmed());
    screen.side =
        side_->currentIndex() == 0 ? screens::ScreenSide::Long : screens::ScreenSide::Short;
    screen.tags = tagsIn(tags_->text());
    screen.notes = utf8(notes_->toPlainText());
    return screen;
}

void ScreenDetails::focusName()
{
    name_->setFocus();
    name_->selectAll();
}

/// A name that is taken is no mistake: what stands there becomes a former version.
void ScreenDetails::updateTexts()
{
    const std::string name = utf8(name_->text().trimmed());
    const bool isTaken = std::ranges::find(taken_, name) != taken_.end();
    summary_->setText(
        name.empty()                      ? tr("A screen needs a name.")
        : isTaken && name == screen_.name ? tr("One of yours: saving makes a new version of it.")
        : isTaken ? tr("Another of yours has this name: it would become a version of it.")
                  : tr("A new one of yours."));
}

} // namespace sieve::app
