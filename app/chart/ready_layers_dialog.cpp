#include "app/chart/ready_layers_dialog.h"

#include "app/look/tone.h"
#include "app/parts/findables.h"
#include "app/parts/number_text.h"
#include "app/parts/step_through.h"

#include <QDialogButtonBox>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

using charts::ReadyLayers;

ReadyLayersDialog::ReadyLayersDialog(const charts::SetUp& setUp, QWidget* parent)
    : QDialog(parent), before_(setUp), words_(new QLineEdit), found_(new QListWidget),
      meaning_(new QLabel)
{
    setWindowTitle(tr("Add a ready layer"));
    resize(320, 460);
    words_->setPlaceholderText(tr("a few letters, such as volume"));
    words_->setAccessibleName(tr("Words of the layer"));
    words_->setClearButtonEnabled(true);
    found_->setAccessibleName(tr("Ready layers"));
    meaning_->setWordWrap(true);
    meaning_->setMinimumHeight(4 * fontMetrics().height());
    meaning_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    setTone(meaning_, Tone::Soft);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    buttons->addButton(tr("Add it"), QDialogButtonBox::AcceptRole);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(words_);
    layout->addWidget(found_, 1);
    layout->addWidget(meaning_);
    layout->addWidget(buttons);
    words_->installEventFilter(this);
    connect(words_, &QLineEdit::textChanged, this, &ReadyLayersDialog::fill);
    connect(found_, &QListWidget::currentItemChanged, this, &ReadyLayersDialog::tryOut);
    connect(found_, &QListWidget::itemActivated, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(this, &QDialog::rejected, this, [this] { Q_EMIT tried(before_); });
    fill();
}

void ReadyLayersDialog::fill()
{
    const QString words = words_->text().simplified();
    std::vector<Findable> all;
    for (const ReadyLayers& each : charts::readyLayers())
        all.push_back({text(each.name), text(each.meaning), {}});
    found_->clear();
    for (const std::size_t place : findAmong(all, words, all.size(), {})) {
        auto* item = new QListWidgetItem(all[place].name, found_);
        item->setData(Qt::UserRole, static_cast<int>(place));
    }
    if (!words.isEmpty())
        found_->setCurrentRow(0);
}

/// Shows the chart with the one that is pointed at.
void ReadyLayersDialog::tryOut()
{
    const QListWidgetItem* item = found_->currentItem();
    if (!item) {
        meaning_->setText(found_->count() == 0
                              ? tr("No ready layer bears these words. Shift+O adds "
                                   "any expression of the language.")
                              : QString());
        return Q_EMIT tried(before_);
    }
    const ReadyLayers& ready =
        charts::readyLayers()[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())];
    const auto with = charts::withLayers(before_, ready);
    meaning_->setText(with ? text(ready.meaning) + u'.'
                           : tr("The chart has as many panes and layers as can be read. Remove one "
                                "first (Shift+O)."));
    Q_EMIT tried(with.value_or(before_));
}

/// Up and Down in the line go through the list.
bool ReadyLayersDialog::eventFilter(QObject* watched, QEvent* event)
{
    const bool isStep =
        event->type() == QEvent::KeyPress && stepThrough(*found_, *static_cast<QKeyEvent*>(event));
    return isStep || QDialog::eventFilter(watched, event);
}

} // namespace sieve::app
