#include "app/lists/entries_dialog.h"

#include "app/lists/entry_words.h"
#include "app/parts/number_text.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDialogButtonBox>
#include <QGridLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

EntriesDialog::EntriesDialog(std::size_t entries, const QStringList& categories, const QDate& today,
                             QWidget* parent)
    : QDialog(parent), isReason_(new QCheckBox(tr("&Reason"))), reason_(new QLineEdit),
      isCategory_(new QCheckBox(tr("&Category"))), category_(new QComboBox),
      isTagged_(new QCheckBox(tr("&Add tags"))), tags_(new QLineEdit),
      isUntagged_(new QCheckBox(tr("Take tags &off"))), untags_(new QLineEdit),
      isSign_(new QCheckBox(tr("S&ign"))), sign_(new QComboBox),
      isReview_(new QCheckBox(tr("Re&view on"))), review_(new QDateEdit(today)),
      isNoReview_(new QCheckBox(tr("&No day of review"))),
      isNote_(new QCheckBox(tr("Add a n&ote"))), note_(new QLineEdit), today_(dayOf(today))
{
    setWindowTitle(tr("Change %1 entries").arg(entries));
    category_->setEditable(true);
    category_->addItems(categories);
    category_->setEditText({});
    for (const watchlists::Sign sign : watchlists::signs)
        sign_->addItem(signText(sign), static_cast<int>(sign));
    review_->setCalendarPopup(true);
    review_->setDisplayFormat(QStringLiteral("ddd d MMM yyyy"));
    for (QLineEdit* line : {tags_, untags_})
        line->setPlaceholderText(tr("parted by commas"));
    auto* grid = new QGridLayout;
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    QPushButton* ok = buttons->button(QDialogButtonBox::Ok);
    ok->setEnabled(false);
    std::vector<QCheckBox*> boxes{isReason_, isCategory_, isTagged_,   isUntagged_,
                                  isSign_,   isReview_,   isNoReview_, isNote_};
    const std::vector<QWidget*> lines{reason_, category_, tags_,   untags_,
                                      sign_,   review_,   nullptr, note_};
    for (std::size_t i = 0; i < boxes.size(); ++i) {
        const int row = static_cast<int>(i);
        grid->addWidget(boxes[i], row, 0);
        connect(boxes[i], &QCheckBox::toggled, this,
                [boxes, ok] { ok->setEnabled(std::ranges::any_of(boxes, &QCheckBox::isChecked)); });
        if (!lines[i])
            continue;
        grid->addWidget(lines[i], row, 1);
        lines[i]->setAccessibleName(boxes[i]->text().remove(u'&'));
        lines[i]->setEnabled(false);
        connect(boxes[i], &QCheckBox::toggled, lines[i], &QWidget::setEnabled);
        connect(boxes[i], &QCheckBox::toggled, lines[i],
                [line = lines[i]](bool isTicked) { isTicked ? line->setFocus() : void(); });
    }
    connect(isReview_, &QCheckBox::toggled, isNoReview_,
            [this](bool isTicked) { isTicked ? isNoReview_->setChecked(false) : void(); });
    connect(isNoReview_, &QCheckBox::toggled, isReview_,
            [this](bool isTicked) { isTicked ? isReview_->setChecked(false) : void(); });
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(grid);
    layout->addWidget(buttons);
    resize(420, sizeHint().height());
}

std::function<void(watchlists::Entry&)> EntriesDialog::change() const
{
    std::vector<std::function<void(watchlists::Entry&)>> changes;
    const auto typed = [](const QLineEdit* line) { return utf8(line->text().trimmed()); };
    if (isReason_->isChecked())
        changes.push_back(
            [reason = typed(reason_)](watchlists::Entry& entry) { entry.reason = reason; });
    if (isCategory_->isChecked())
        changes.push_back([category = utf8(category_->currentText().trimmed())](
                              watchlists::Entry& entry) { entry.page.category = category; });
    if (isTagged_->isChecked())
        changes.push_back([tags = watchlists::tagsIn(typed(tags_))](watchlists::Entry& entry) {
            for (const std::string& tag : tags)
                if (std::ranges::find(entry.page.tags, tag) == entry.page.tags.end())
                    entry.page.tags.push_back(tag);
        });
    if (isUntagged_->isChecked())
        changes.push_back([tags = watchlists::tagsIn(typed(untags_))](watchlists::Entry& entry) {
            std::erase_if(entry.page.tags, [&](const std::string& tag) {
                return std::ranges::find(tags, tag) != tags.end();
            });
        });
    if (isSign_->isChecked())
        changes.push_back([sign = static_cast<watchlists::Sign>(sign_->currentData().toInt())](
                              watchlists::Entry& entry) { entry.page.sign = sign; });
    if (isReview_->isChecked())
        changes.push_back(
            [on = dayOf(review_->date())](watchlists::Entry& entry) { entry.page.reviewOn = on; });
    if (isNoReview_->isChecked())
        changes.push_back([](watchlists::Entry& entry) { entry.page.reviewOn.reset(); });
    if (isNote_->isChecked() && !note_->text().trimmed().isEmpty())
        changes.push_back([note = typed(note_), on = today_](watchlists::Entry& entry) {
            entry.page.notes.push_back({on, note});
        });
    return [changes](watchlists::Entry& entry) {
        for (const auto& each : changes)
            each(entry);
    };
}

} // namespace sieve::app
