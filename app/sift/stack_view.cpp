#include "app/sift/stack_view.h"

#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/actions.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/sift/band.h"
#include "app/sift/text_form.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QSpinBox>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <Qsci/qsciscintilla.h>
#include <algorithm>

namespace sieve::app {

/// A row of the stack that has the ribbon running down its left.
class RibbonColumn : public QWidget {
public:
    RibbonColumn() { setContentsMargins(0, 0, 0, 0); }
    void setShare(double share)
    {
        share_ = share;
        update();
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter painter(this);
        paintRibbon(painter, QRectF(4, 0, Band::ribbonWidth, height()), share_, share_);
    }

private:
    double share_ = 0.0;
};

namespace {

constexpr std::size_t fewestWorkable = 5; ///< stocks to weigh one by one
constexpr std::size_t mostWorkable = 40;

QHBoxLayout* ribbonRow(RibbonColumn* row)
{
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(Band::ribbonWidth + 12, 6, 6, 6);
    return layout;
}

QLabel* softLabel(const QString& text)
{
    auto* label = new QLabel(text);
    setTone(label, Tone::Soft);
    return label;
}

} // namespace

StackView::StackView(QWidget* parent)
    : QWidget(parent), universe_(new ExpressionEdit), universeCount_(new QLabel),
      universeMenu_(new QMenu(this)), mouth_(new RibbonColumn), fall_(new RibbonColumn),
      bandLayout_(new QVBoxLayout), scroll_(new QScrollArea), forms_(new QStackedWidget),
      textForm_(new TextForm), newLine_(new ExpressionEdit), rankBy_(new ExpressionEdit),
      keep_(new QSpinBox), guidance_(new QLabel), toTray_(new QPushButton)
{
    setObjectName(QStringLiteral("sheet"));
    setAttribute(Qt::WA_StyledBackground);
    universe_->setPlaceholderText(tr("Universe: every stock"));
    universe_->setAccessibleName(tr("Universe"));
    universeCount_->setFont(fontOf(Weight::SemiBold));
    QHBoxLayout* top = ribbonRow(mouth_);
    top->addWidget(softLabel(tr("From")));
    top->addWidget(universe_, 1);
    top->addWidget(universeCount_);
    auto* narrow = new QToolButton;
    narrow->setIcon(iconOf(QStringLiteral("down"), look().softInk));
    narrow->setIconSize({12, 12});
    narrow->setToolTip(
        tr("Choose the universe by exchange, kind, price, trade, lists and screens"));
    narrow->setAccessibleName(tr("Choose the universe"));
    narrow->setPopupMode(QToolButton::InstantPopup);
    narrow->setMenu(universeMenu_);
    top->addWidget(narrow);

    newLine_->setProperty("quiet", false);
    newLine_->setPlainWordsLeftAlone(true);
    newLine_->setPlaceholderText(tr("Add a criterion: type words, such as margin or turned up"));
    newLine_->setAccessibleName(tr("New criterion"));
    QHBoxLayout* bottomRow = ribbonRow(fall_);
    bottomRow->addWidget(newLine_, 1);

    auto* content = new QWidget;
    auto* column = new QVBoxLayout(content);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column_ = column;
    column->addWidget(mouth_);
    bandLayout_->setSpacing(0);
    column->addLayout(bandLayout_);
    column->addWidget(fall_);
    column->addStretch(1);
    scroll_->setWidget(content);
    content->installEventFilter(this);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);

    rankBy_->setAccessibleName(tr("Rank by"));
    rankBy_->setPlaceholderText(tr("symbol"));
    keep_->setRange(0, 9999);
    keep_->setSpecialValueText(tr("all"));
    keep_->setButtonSymbols(QAbstractSpinBox::NoButtons); // arrows and the wheel step it
    keep_->setFixedWidth(64);
    keep_->setAccessibleName(tr("Keep the best"));
    auto* rank = new QHBoxLayout;
    rank->setContentsMargins(12, 0, 12, 0);
    rank->addWidget(softLabel(tr("Rank by")));
    rank->addWidget(rankBy_, 1);
    rank->addWidget(softLabel(tr("keep")));
    rank->addWidget(keep_);

    setTone(guidance_, Tone::Soft);
    guidance_->setWordWrap(true);
    guidance_->setTextFormat(Qt::RichText);
    guidance_->setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
    guidance_->setAccessibleName(tr("Guidance"));
    connect(guidance_, &QLabel::linkActivated, this, &StackView::follow);
    guidance_->setContentsMargins(12, 0, 12, 0);
    toTray_->setProperty("leading", true);
    toTray_->setToolTip(tipOf(ActionId::TakeInHand));
    auto* bottom = new QHBoxLayout;
    bottom->setContentsMargins(12, 2, 12, 10);
    bottom->addWidget(toTray_, 1);

    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(1, 1, 1, 1);
    layout->setSpacing(6);
    forms_->addWidget(scroll_);
    forms_->addWidget(textForm_);
    layout->addWidget(forms_, 1);
    layout->addWidget(guidance_);
    layout->addLayout(rank);
    layout->addLayout(bottom);

    connect(universe_, &QLineEdit::textEdited, this, &StackView::changed);
    connect(universe_, &QLineEdit::editingFinished, this, [this] {
        universe_->setModified(false);
        Q_EMIT committed(tr("Change the universe"));
    });
    connect(rankBy_, &QLineEdit::textEdited, this, &StackView::changed);
    connect(rankBy_, &QLineEdit::editingFinished, this, [this] {
        rankBy_->setModified(false);
        Q_EMIT committed(tr("Change the rank"));
    });
    connect(keep_, &QSpinBox::valueChanged, this, [this] {
        Q_EMIT changed();
        Q_EMIT committed(tr("Change how many to keep"), true);
    });
    connect(newLine_, &QLineEdit::returnPressed, this, [this] { add(newLine_->text().trimmed()); });
    connect(newLine_, &ExpressionEdit::leftByKey, this, [this](int by) {
        if (by < 0 && !bands_.empty())
            bands_.back()->edit().setFocus();
    });
    connect(toTray_, &QPushButton::clicked, this, &StackView::trayWanted);
    connect(textForm_, &TextForm::changed, this, &StackView::readText);
    connect(textForm_, &TextForm::committed, this, [this] {
        textForm_->editor().setModified(false);
        Q_EMIT committed(tr("Change the screen's text"));
    });
}

void StackView::setScreen(const screens::Screen& screen)
{
    screen_ = screen;
    if (universe_->text() != text(screen.universe)) {
        universe_->setText(text(screen.universe));
        universe_->setCursorPosition(0);
    }
    if (rankBy_->text() != text(screen.rankBy))
        rankBy_->setText(text(screen.rankBy));
    const QSignalBlocker quiet(keep_);
    keep_->setValue(screen.keep);
    showCriteria(screen.criteria);
    if (forms_->currentWidget() == textForm_)
        textForm_->setCriteria(screen.criteria);
}

void StackView::showCriteria(const std::vector<screens::Criterion>& criteria)
{
    setBandCount(criteria.size());
    for (std::size_t i = 0; i < bands_.size(); ++i)
        bands_[i]->setCriterion(criteria[i]);
}

void StackView::setUniverse(const QString& condition)
{
    universe_->setText(condition);
    universe_->setCursorPosition(0);
    Q_EMIT changed();
    Q_EMIT committed(tr("Change the universe"));
}

void StackView::setAsText(bool isText)
{
    if (isText)
        textForm_->setCriteria(screen().criteria);
    // From where the criteria take belongs to both forms.
    (isText ? qobject_cast<QVBoxLayout*>(layout()) : column_)->insertWidget(0, mouth_);
    mouth_->setShare(isText ? 0.0 : 1.0);
    forms_->setCurrentWidget(isText ? static_cast<QWidget*>(textForm_) : scroll_);
    if (isText)
        textForm_->editor().setFocus();
}

/// The bands say what the text says, so that each shows the other's edits.
void StackView::readText()
{
    showCriteria(textForm_->criteria());
    Q_EMIT changed();
}

screens::Screen StackView::screen() const
{
    screens::Screen screen = screen_;
    screen.universe = utf8(universe_->text());
    screen.rankBy = utf8(rankBy_->text());
    screen.keep = keep_->value();
    screen.criteria.clear();
    for (const Band* band : bands_)
        screen.criteria.push_back(band->criterion());
    return screen;
}

void StackView::setBandCount(std::size_t count)
{
    while (bands_.size() > count) {
        bands_.back()->deleteLater();
        bands_.pop_back();
    }
    while (bands_.size() < count) {
        auto* band = new Band;
        bandLayout_->addWidget(band);
        bands_.push_back(band);
        connect(band, &Band::changed, this, &StackView::changed);
        connect(band, &Band::committed, this, [this, band] {
            Q_EMIT committed(tr("Change criterion %1").arg(band->position()), true);
        });
        connect(band, &Band::removeWanted, this, [this, band] { remove(band); });
        connect(band, &Band::moveWanted, this, [this, band](int by) { move(band, by); });
        connect(band, &Band::percentWanted, this, [this, band](std::size_t limit) {
            const auto place = std::ranges::find(bands_, band) - bands_.begin();
            Q_EMIT percentWanted(static_cast<std::size_t>(place), limit);
        });
        connect(band, &Band::focusMoved, this, [this, band](int by) { moveFocus(band, by); });
    }
    renumber();
}

void StackView::renumber()
{
    for (std::size_t i = 0; i < bands_.size(); ++i)
        bands_[i]->setPosition(static_cast<int>(i) + 1);
}

void StackView::add(const QString& text)
{
    if (text.isEmpty())
        return;
    newLine_->setText(QString()); // and not clear(), which Ctrl+Z would take back
    setBandCount(bands_.size() + 1);
    bands_.back()->setCriterion({utf8(text), true, {}});
    Q_EMIT changed();
    Q_EMIT committed(tr("Add the criterion %1").arg(text));
}

void StackView::remove(Band* band)
{
    const auto place = std::ranges::find(bands_, band);
    if (place == bands_.end())
        return;
    const QString what = tr("Take out the criterion %1").arg(band->edit().text());
    moveFocus(band, 1);
    bands_.erase(place);
    band->hide();
    band->deleteLater();
    renumber();
    Q_EMIT changed();
    Q_EMIT committed(what);
}

void StackView::move(Band* band, int by)
{
    const auto from = std::ranges::find(bands_, band) - bands_.begin();
    const auto to = from + by;
    if (to < 0 || to >= static_cast<std::ptrdiff_t>(bands_.size()))
        return;
    std::swap(bands_[static_cast<std::size_t>(from)], bands_[static_cast<std::size_t>(to)]);
    bandLayout_->removeWidget(band);
    bandLayout_->insertWidget(static_cast<int>(to), band);
    renumber();
    Q_EMIT changed();
    Q_EMIT committed(tr("Move a criterion"));
}

void StackView::moveFocus(Band* band, int by)
{
    const auto to = std::ranges::find(bands_, band) - bands_.begin() + by;
    if (to < 0)
        universe_->setFocus();
    else if (to >= static_cast<std::ptrdiff_t>(bands_.size()))
        newLine_->setFocus();
    else
        bands_[static_cast<std::size_t>(to)]->edit().setFocus();
}

void StackView::setChosen(std::optional<std::size_t> stock)
{
    for (Band* band : bands_)
        band->setChosen(stock);
}

void StackView::setBound(std::size_t criterion, std::size_t limit, double bound)
{
    if (criterion < bands_.size())
        bands_[criterion]->setBound(limit, bound);
}

void StackView::focusNewLine()
{
    newLine_->setFocus();
}

void StackView::setRun(const screens::ScreenRun& run)
{
    universe_->setFault(run.universeError);
    rankBy_->setFault(run.rankError);
    universeCount_->setText(countText(run.universe));
    const bool isText = forms_->currentWidget() == textForm_; // then nothing narrows below it
    mouth_->setShare(run.universe > 0 && !isText ? 1.0 : 0.0);
    std::size_t before = run.universe;
    for (std::size_t i = 0; i < bands_.size() && i < run.criteria.size(); ++i) {
        bands_[i]->setCounts(run.criteria[i], before, run.universe,
                             i < run.guidance.spreads.size() ? run.guidance.spreads[i]
                                                             : screens::Distribution());
        before = run.criteria[i].leftAfter;
    }
    if (forms_->currentWidget() == textForm_)
        textForm_->setRun(run);
    fall_->setShare(run.universe == 0
                        ? 0.0
                        : static_cast<double>(run.passing) / static_cast<double>(run.universe));
    const QStringList said = guidanceOf(run);
    constexpr qsizetype most = 2; // more would not be read
    guidance_->setText(said.mid(0, most).join(QLatin1Char(' ')));
    guidance_->setToolTip(said.size() > most ? said.join(QStringLiteral("<br>")) : QString());
    guidance_->setVisible(!said.isEmpty());
    matches_ = run.matches.size();
    updateTrayButton();
}

/// Bands that cannot shrink further are not cut off: the results beside them give way. What they
/// need is known when their layouts ask for it, which is some events after they were filled.
bool StackView::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == scroll_->widget() && event->type() == QEvent::LayoutRequest)
        scroll_->setMinimumWidth(scroll_->widget()->minimumSizeHint().width() +
                                 scroll_->verticalScrollBar()->sizeHint().width());
    return QWidget::eventFilter(watched, event);
}

void StackView::setSelected(std::size_t stocks)
{
    selected_ = stocks;
    updateTrayButton();
}

void StackView::updateTrayButton()
{
    toTray_->setText(selected_ > 1   ? tr("Take the %1 selected in hand").arg(countText(selected_))
                     : matches_ == 1 ? tr("Take 1 in hand")
                                     : tr("Take %1 in hand").arg(countText(matches_)));
    toTray_->setEnabled(matches_ > 0);
}

/// How to come to a workable number of stocks, what is worth most first; what can be done at once
/// is a link.
QStringList StackView::guidanceOf(const screens::ScreenRun& run) const
{
    QStringList said;
    if (run.passing > run.matches.size())
        said << tr("%1 pass; the best %2 are kept.").arg(run.passing).arg(run.matches.size());
    else if (run.passing > mostWorkable)
        said << tr("%1 are many to go through: set a limit closer, or keep the best 40 by a rank.")
                    .arg(run.passing);
    else if (run.passing < fewestWorkable && run.universe > 0)
        said << fewText(run);
    for (const std::size_t idle : run.guidance.idle)
        said << tr("%1 keeps nobody out.").arg(sentenceOf(idle));
    for (const auto& [first, second] : run.guidance.repetitions)
        said << tr("%1 and %2 let nearly the same stocks pass.")
                    .arg(sentenceOf(first), sentenceOf(second));
    said.removeAll(QString());
    return said;
}

QString StackView::sentenceOf(std::size_t criterion) const
{
    return criterion < bands_.size()
               ? QStringLiteral("<i>%1</i>").arg(bands_[criterion]->edit().text().toHtmlEscaped())
               : QString();
}

QString StackView::fewText(const screens::ScreenRun& run) const
{
    // What can never pass is worth more than what a step would add.
    for (const auto& [first, second] : run.guidance.contradictions)
        return tr("None is left: %1 and %2 let no stock pass together.")
            .arg(sentenceOf(first), sentenceOf(second));
    if (const auto costly = run.guidance.mostCostly) {
        const screens::CriterionCount& counts = run.criteria.at(*costly);
        QString text = run.passing == 0 ? tr("None is left.") : tr("Few are left.");
        text += u' ' + tr("The costliest criterion is %1: without it, %2 more.")
                           .arg(sentenceOf(*costly))
                           .arg(counts.moreWithout);
        if (const auto& step = run.guidance.loosenings.at(*costly)) {
            const screens::Limit& limit = counts.limits.at(step->limit).limit;
            text += u' ' + tr("<a href='%1 %2 %3'>%4 instead of %5</a> would let %6 more in.")
                               .arg(*costly)
                               .arg(step->limit)
                               .arg(step->bound, 0, 'g', 12)
                               .arg(numberText(step->bound, limit.unit, 2),
                                    sieve::app::text(limit.bound).toHtmlEscaped())
                               .arg(step->adds);
        }
        return text;
    }
    return run.passing == 0 ? tr("None is left, and no single criterion is to blame: several must "
                                 "give way. Switch some off to see.")
                            : QString();
}

/// A link of the guidance: criterion, limit and the bound that it offers.
void StackView::follow(const QString& link)
{
    const QStringList parts = link.split(u' ');
    if (parts.size() == 3)
        setBound(parts[0].toULongLong(), parts[1].toULongLong(), parts[2].toDouble());
}

} // namespace sieve::app
