#include "app/sift/followed_glance.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QTimer>
#include <algorithm>
#include <cmath>

namespace sieve::app {

namespace {

constexpr int barsAfter = 20;
constexpr int pauseBefore = 1200; // milliseconds
constexpr double heapWidth = 130.0;

} // namespace

FollowedGlance::FollowedGlance(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), pause_(new QTimer(this))
{
    setObjectName(QStringLiteral("followedGlance"));
    setAccessibleName(tr("What followed"));
    setFocusPolicy(Qt::TabFocus);
    setCursor(Qt::PointingHandCursor);
    setToolTip(tr("What followed the matches of this screen after 20 bars, over all years; a click "
                  "leads to the whole answer"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    pause_->setSingleShot(true);
    pause_->setInterval(pauseBefore);
    connect(pause_, &QTimer::timeout, this, &FollowedGlance::ask);
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    // What another market told, or what names meant before, says nothing of this one.
    connect(&desk.market(), &OpenMarket::opened, this, [this] { following_.reset(); });
    for (const auto signal : {&Workbench::screensChanged, &Workbench::fieldsChanged,
                              &Workbench::listsChanged, &Workbench::drawingsChanged})
        connect(&desk.work(), signal, this, [this] { following_.reset(); });
}

QSize FollowedGlance::sizeHint() const
{
    return {300, fontMetrics().height() + 16};
}

void FollowedGlance::setScreen(const screens::Screen& screen)
{
    const bool isSame = screen_.criteria == screen.criteria && screen_.universe == screen.universe;
    const bool isAnswered = following_ && following_->day == desk_.focus().day();
    if (isSame && isAnswered)
        return;
    screen_ = screen;
    following_.reset();
    asker_.stop();
    tell(tr("What followed is asked in a moment…"));
    pause_->start();
}

void FollowedGlance::stop()
{
    asker_.stop();
    pause_->stop();
}

bool FollowedGlance::isWaiting() const
{
    return pause_->isActive() || asker_.isBusy();
}

void FollowedGlance::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    if (!following_)
        pause_->start();
}

void FollowedGlance::tell(const QString& words)
{
    words_ = words;
    setAccessibleDescription(words);
    update();
}

void FollowedGlance::ask()
{
    const bool hasCriteria = std::ranges::any_of(
        screen_.criteria, [](const screens::Criterion& each) { return each.isOn; });
    if (!isVisible() || !desk_.market().isOpen())
        return;
    if (!hasCriteria)
        return tell({});
    studies::FollowingQuestion question;
    question.screen = screen_;
    question.horizons = {barsAfter};
    question.to = desk_.focus().day();
    question.picks = 0;
    question.resamples = 400;
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), question,
         day = desk_.focus().day()](
            const Progress& progress) -> Result<std::shared_ptr<const studies::Following>> {
            auto made = studies::followingOf(question, book->names(), *evaluator, day, progress);
            if (!made)
                return made.error();
            return std::make_shared<const studies::Following>(*std::move(made));
        },
        [this](const Result<std::shared_ptr<const studies::Following>>& answer) {
            if (!answer)
                return tell(text(answer.error().problem));
            following_ = *answer;
            const studies::FollowedHorizon& told = following_->horizons.front();
            if (told.own.known == 0)
                return tell(tr("No match of other years: nothing followed."));
            const QString sure = isMissing(told.sure.mean.low)
                                     ? QString()
                                     : tr(" (%1 to %2)")
                                           .arg(signedText(told.sure.mean.low, Unit::Percent, 1),
                                                signedText(told.sure.mean.high, Unit::Percent, 1));
            tell(tr("After %1 bars, %2 cases: %3%4; all %5")
                     .arg(barsAfter)
                     .arg(countText(told.own.known), signedText(told.own.mean, Unit::Percent, 1),
                          sure, signedText(told.own.mean - told.excess, Unit::Percent, 1)));
        });
}

void FollowedGlance::paintHeap(QPainter& painter, const QRectF& area) const
{
    const studies::FollowedHorizon& told = following_->horizons.front();
    constexpr std::size_t columns = 33;
    constexpr double reach = 0.33;
    std::vector<double> shares(columns);
    const auto weights = told.ownHeap.weights();
    for (std::size_t bin = 0; bin < weights.size(); ++bin) {
        const double change = -1.0 + studies::Histogram::width * (static_cast<double>(bin) + 0.5);
        const double place = std::clamp((change + reach) / (2.0 * reach), 0.0, 0.999);
        shares[static_cast<std::size_t>(place * static_cast<double>(columns))] += weights[bin];
    }
    const double most = std::ranges::max(shares);
    const double wide = area.width() / static_cast<double>(columns);
    for (std::size_t i = 0; i < columns; ++i) {
        const double height = area.height() * shares[i] / most;
        const bool isFall = i < columns / 2;
        painter.fillRect(QRectF(area.left() + static_cast<double>(i) * wide, area.bottom() - height,
                                std::max(1.0, wide - 1.0), height),
                         look().wash(isFall ? look().fall : look().rise, 0.6));
    }
    painter.fillRect(QRectF(area.left(), area.bottom(), area.width(), 1.0), look().rule);
    painter.fillRect(QRectF(area.center().x(), area.top(), 1.0, area.height()), look().softInk);
}

void FollowedGlance::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setFont(fontOf(Weight::Regular, 0.95));
    const QRectF inside = QRectF(rect()).adjusted(4.0, 4.0, -4.0, -4.0);
    QRectF words = inside;
    if (following_ && following_->horizons.front().own.known > 0) {
        paintHeap(painter, QRectF(inside.right() - heapWidth, inside.top(), heapWidth,
                                  inside.height() - 2.0));
        words.setRight(inside.right() - heapWidth - 10.0);
    }
    painter.setPen(look().softInk);
    painter.drawText(
        words, Qt::AlignLeft | Qt::AlignVCenter,
        painter.fontMetrics().elidedText(words_, Qt::ElideRight, static_cast<int>(words.width())));
    if (hasFocus()) {
        painter.setPen(look().mark);
        painter.drawRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5));
    }
}

void FollowedGlance::lead()
{
    desk_.navigator().showFollowed();
}

void FollowedGlance::mouseReleaseEvent(QMouseEvent* event)
{
    if (event->button() == Qt::LeftButton && rect().contains(event->pos()))
        lead();
}

void FollowedGlance::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Space)
        lead();
    else
        QWidget::keyPressEvent(event);
}

} // namespace sieve::app
