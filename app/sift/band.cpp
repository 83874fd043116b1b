#include "app/sift/band.h"

#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/actions.h"
#include "app/parts/elided_label.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/sift/spread_strip.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QToolButton>
#include <cmath>
#include <tuple>

namespace sieve::app {

namespace {

double widthOf(const QRectF& column, double share)
{
    return share <= 0.0 ? 0.0 : std::max(2.0, column.width() * share);
}

} // namespace

void paintRibbon(QPainter& painter, const QRectF& column, double shareIn, double shareOut)
{
    const double middle = column.center().x();
    const double above = widthOf(column, shareIn) / 2.0;
    const double below = widthOf(column, shareOut) / 2.0;
    const double bend = column.top() + column.height() * 0.5;
    QPainterPath path;
    path.moveTo(middle - above, column.top());
    path.cubicTo(middle - above, bend, middle - below, bend, middle - below, column.bottom());
    path.lineTo(middle + below, column.bottom());
    path.cubicTo(middle + below, bend, middle + above, bend, middle + above, column.top());
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(look().wash(look().mark, 0.36));
    painter.drawPath(path);
    painter.setRenderHint(QPainter::Antialiasing, false);
}

Band::Band(QWidget* parent)
    : QWidget(parent), isOn_(new QCheckBox), edit_(new ExpressionEdit), left_(new QLabel),
      strip_(new SpreadStrip), note_(new ElidedLabel), effect_(new QLabel), remove_(new QToolButton)
{
    isOn_->setToolTip(tr("Let this criterion count"));
    isOn_->setAccessibleName(tr("Criterion counts"));
    remove_->setIcon(iconOf(QStringLiteral("remove"), look().softInk));
    remove_->setIconSize({12, 12});
    remove_->setToolTip(tipOf(ActionId::TakeCriterionOut));
    remove_->setAccessibleName(tr("Take criterion out"));
    left_->setFont(fontOf(Weight::SemiBold));
    left_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    left_->setFixedWidth(left_->fontMetrics().horizontalAdvance(QStringLiteral("100,000")));
    left_->setToolTip(tr("Stocks left after this criterion"));
    for (QLabel* label : std::initializer_list<QLabel*>{note_, effect_}) {
        label->setFont(fontOf(Weight::Regular, 0.88));
        setTone(label, Tone::Soft);
    }
    effect_->setToolTip(
        tr("How many pass this criterion alone; how many more the screen would find "
           "without it; of how many it cannot be said"));

    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(ribbonWidth + 12, 4, 4, 3);
    layout->setHorizontalSpacing(4);
    layout->setVerticalSpacing(0);
    layout->addWidget(isOn_, 0, 0);
    layout->addWidget(edit_, 0, 1);
    layout->addWidget(left_, 0, 2);
    layout->addWidget(remove_, 0, 3);
    auto* said = new QVBoxLayout;
    said->setSpacing(0);
    said->addWidget(effect_, 0, Qt::AlignRight);
    said->addWidget(note_);
    auto* below = new QHBoxLayout;
    below->setSpacing(10);
    below->addWidget(strip_, 5);
    below->addLayout(said, 6);
    layout->addLayout(below, 1, 1, 1, 2);
    layout->setColumnStretch(1, 1);
    strip_->hide();

    connect(edit_, &QLineEdit::textEdited, this, &Band::changed);
    connect(edit_, &QLineEdit::editingFinished, this, [this] {
        edit_->setModified(false); // given: from now on Ctrl+Z is for the step, not for letters
        Q_EMIT committed();
    });
    connect(edit_, &ExpressionEdit::leftByKey, this, &Band::focusMoved);
    connect(edit_, &ExpressionEdit::stepped, this, &Band::stepBound);
    connect(isOn_, &QCheckBox::clicked, this, [this] {
        Q_EMIT changed();
        Q_EMIT committed();
    });
    connect(remove_, &QToolButton::clicked, this, &Band::removeWanted);
    connect(strip_, &SpreadStrip::gripMoved, this, &Band::moveBound);
    connect(strip_, &SpreadStrip::gripLeft, this, &Band::committed);
    connect(strip_, &SpreadStrip::percentWanted, this, &Band::percentWanted);
    setContextMenuPolicy(Qt::ActionsContextMenu);
    makeAction(this, ActionId::CommentCriterion, [this] { editComment(); });
    makeAction(this, ActionId::MoveCriterionUp, [this] { Q_EMIT moveWanted(-1); });
    makeAction(this, ActionId::MoveCriterionDown, [this] { Q_EMIT moveWanted(1); });
    makeAction(this, ActionId::TakeCriterionOut, [this] { Q_EMIT removeWanted(); });
}

void Band::setCriterion(const screens::Criterion& criterion)
{
    const QString shown = text(criterion.text);
    if (edit_->text() != shown) {
        edit_->setText(shown);
        edit_->setCursorPosition(0);
    }
    isOn_->setChecked(criterion.isOn);
    comment_ = text(criterion.comment);
    remarks_ = criterion.remarks;
    showNote();
}

screens::Criterion Band::criterion() const
{
    return {utf8(edit_->text()), isOn_->isChecked(), utf8(comment_), remarks_};
}

void Band::setCounts(const screens::CriterionCount& counts, std::size_t before,
                     std::size_t universe, const screens::Distribution& spread)
{
    counts_ = counts;
    counted_ = utf8(edit_->text());
    const double all = universe == 0 ? 1.0 : static_cast<double>(universe);
    const std::pair shares(static_cast<double>(before) / all,
                           static_cast<double>(counts.leftAfter) / all);
    if (shares != std::pair(shareIn_, shareOut_)) // the rest of the band need not be painted again
        update(0, 0, ribbonWidth + 8, height());
    std::tie(shareIn_, shareOut_) = shares;
    left_->setText(countText(counts.leftAfter));
    edit_->setFault(counts.error);
    QStringList effect{tr("alone %1").arg(countText(counts.alone))};
    if (isOn_->isChecked() && counts.moreWithout > 0)
        effect << tr("without +%1").arg(countText(counts.moreWithout));
    if (counts.noData > 0)
        effect << tr("no data %1").arg(countText(counts.noData));
    effect_->setText(counts.error ? QString() : effect.join(QStringLiteral(" · ")));
    showSpread(spread);
    setChosen(chosen_);
    showNote();
}

void Band::showSpread(const screens::Distribution& spread)
{
    spread_ = spread;
    std::vector<SpreadStrip::Grip> grips;
    for (const screens::LimitFigures& limit : counts_.limits)
        grips.push_back(
            {limit.shownBound(), limit.limit.wantsMore(), limit.limit.fixed.has_value()});
    strip_->show(spread, std::move(grips),
                 counts_.limits.empty() ? Unit::Plain : counts_.limits[0].shownUnit());
}

void Band::setChosen(std::optional<std::size_t> stock)
{
    chosen_ = stock;
    const bool isShown = stock && !counts_.limits.empty() && counts_.limits[0].field &&
                         *stock < counts_.limits[0].field->size();
    strip_->setChosen(isShown ? counts_.limits[0].shown(*stock) : missing);
}

/// Writes a bound into the sentence, from the text that was counted: the places in it still hold.
void Band::moveBound(std::size_t limit, double bound)
{
    if (limit >= counts_.limits.size())
        return;
    edit_->setText(text(screens::withBound(counted_, counts_.limits[limit].limit, bound)));
    edit_->setCursorPosition(0);
    Q_EMIT changed();
}

void Band::setBound(std::size_t limit, double bound)
{
    moveBound(limit, bound);
    Q_EMIT committed();
}

/// Moves the limit in whose number the cursor stands, or the first, by a round step.
void Band::stepBound(int by)
{
    std::optional<std::size_t> chosen;
    const auto cursor = static_cast<std::size_t>(edit_->cursorPosition()) + 1;
    for (std::size_t i = 0; i < counts_.limits.size(); ++i) {
        const SourceRange& where = counts_.limits[i].limit.where;
        const bool isHere = cursor >= where.column && cursor <= where.column + where.length;
        if (counts_.limits[i].limit.fixed && (!chosen || isHere))
            chosen = i;
    }
    if (!chosen)
        return;
    const double bound = *counts_.limits[*chosen].limit.fixed;
    const double step = spread_.stepAt(bound, 0.02);
    if (isMissing(step))
        return;
    const int cursorWas = edit_->cursorPosition();
    setBound(*chosen, (std::round(bound / step) + by) * step);
    edit_->setCursorPosition(cursorWas);
}

void Band::setPosition(int number)
{
    position_ = number;
    edit_->setAccessibleName(tr("Criterion %1").arg(number));
}

void Band::showNote()
{
    QString note = comment_;
    bool isFault = false;
    if (counts_.error) {
        note = text(counts_.error->problem + ": " + counts_.error->remedy);
        isFault = true;
    } else if (!counts_.warnings.empty()) {
        note = text(counts_.warnings.front().problem + ": " + counts_.warnings.front().remedy);
        isFault = true;
    } else if (!isOn_->isChecked()) {
        note = note.isEmpty() ? tr("switched off") : tr("switched off. %1").arg(note);
    }
    setTone(note_, isFault ? Tone::Caution : Tone::Soft);
    note_->setAlignment(strip_->isHidden() ? Qt::AlignLeft : Qt::AlignRight);
    note_->setText(note);
    note_->setToolTip(note);
    note_->setVisible(!note.isEmpty());
}

void Band::editComment()
{
    bool isAccepted = false;
    const QString comment =
        QInputDialog::getText(this, tr("Comment"), tr("Why this criterion is here:"),
                              QLineEdit::Normal, comment_, &isAccepted);
    if (!isAccepted)
        return;
    comment_ = comment;
    showNote();
    Q_EMIT changed();
    Q_EMIT committed();
}

void Band::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    paintRibbon(painter, QRectF(4, 0, ribbonWidth, height()), shareIn_, shareOut_);
    painter.setPen(look().rule);
    painter.drawLine(ribbonWidth + 12, height() - 1, width(), height() - 1);
}

void Band::mousePressEvent(QMouseEvent* event)
{
    dragFrom_ = event->position().toPoint().x() <= ribbonWidth + 12
                    ? event->globalPosition().toPoint().y()
                    : -1;
}

void Band::mouseMoveEvent(QMouseEvent* event)
{
    if (dragFrom_ < 0)
        return;
    const int moved = event->globalPosition().toPoint().y() - dragFrom_;
    if (std::abs(moved) < height() * 3 / 5)
        return;
    dragFrom_ += moved > 0 ? height() : -height();
    Q_EMIT moveWanted(moved > 0 ? 1 : -1);
}

} // namespace sieve::app
