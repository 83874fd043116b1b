#include "app/frame/tray_bar.h"

#include "app/desk/desk.h"
#include "app/desk/dropped_stocks.h"
#include "app/desk/focus.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/mini_line.h"
#include "app/parts/number_text.h"
#include "core/market/as_of.h"
#include "core/watchlists/stocks.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <QScrollArea>

namespace sieve::app {

using watchlists::Mark;

namespace {

constexpr int cardWidth = 92;
constexpr int cardHeight = 46;
constexpr int gap = 6;
constexpr std::size_t cardLineSessions = 30;

QString sign(Mark mark)
{
    switch (mark) {
    case Mark::Kept:
        return QStringLiteral("✓");
    case Mark::Dropped:
        return QStringLiteral("✗");
    case Mark::Later:
        return QStringLiteral("…");
    case Mark::Open:
        break;
    }
    return {};
}

std::vector<double> lastCloses(const market::MarketPtr& market, const watchlists::Card& card,
                               Day day)
{
    const auto stock = stockOf(card, *market);
    if (!stock)
        return {};
    std::vector<double> closes = market::AsOf(market, day).adjustedBars(*stock).close;
    if (closes.size() > cardLineSessions)
        closes.erase(closes.begin(), closes.end() - static_cast<std::ptrdiff_t>(cardLineSessions));
    return closes;
}

/// The place of the selected stock's card.
std::optional<std::size_t> selectedCard(const Desk& desk)
{
    if (!desk.market().isOpen() || !desk.focus().selected())
        return std::nullopt;
    return placeIn(*desk.work().now().tray, desk.market().data(), *desk.focus().selected());
}

} // namespace

TrayCards::TrayCards(Desk& desk, QWidget* parent) : QWidget(parent), desk_(desk)
{
    setAccessibleName(tr("Candidates in hand"));
    connect(&desk_.work(), &Workbench::trayChanged, this, &TrayCards::arrange);
    connect(&desk_.focus(), &Focus::selectionChanged, this, qOverload<>(&QWidget::update));
    arrange();
}

void TrayCards::arrange()
{
    const auto count = static_cast<int>(desk_.work().now().tray->cards().size());
    setFixedSize(std::max(1, count * (cardWidth + gap)), cardHeight + 2);
    update();
}

void TrayCards::setLines(Lines lines)
{
    lines_ = std::move(lines);
    update();
}

QRect TrayCards::card(std::size_t place) const
{
    return {static_cast<int>(place) * (cardWidth + gap), 1, cardWidth, cardHeight};
}

std::optional<std::size_t> TrayCards::placeAt(const QPoint& at) const
{
    const auto place = static_cast<std::size_t>(std::max(0, at.x()) / (cardWidth + gap));
    if (place >= desk_.work().now().tray->cards().size() || !card(place).contains(at))
        return std::nullopt;
    return place;
}

QString TrayCards::symbolShown(const watchlists::Card& card) const
{
    const auto stock =
        desk_.market().isOpen() ? stockOf(card, desk_.market().data()) : std::nullopt;
    return text(stock ? desk_.market().data().instrument(*stock).symbol : card.symbol);
}

void TrayCards::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const auto& cards = desk_.work().now().tray->cards();
    const auto selected = selectedCard(desk_);
    for (std::size_t place = 0; place < cards.size(); ++place) {
        const QRect area = card(place);
        const bool isSelected = place == selected;
        const bool isDropped = cards[place].mark == Mark::Dropped;
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(isSelected ? look().mark : look().rule, isSelected ? 2.0 : 1.0));
        painter.setBrush(isDropped ? look().ground : look().sheet);
        painter.drawRoundedRect(QRectF(area).adjusted(1, 1, -1, -1), 4, 4);
        painter.setRenderHint(QPainter::Antialiasing, false);
        painter.setFont(fontOf(Weight::Medium, 0.92));
        painter.setPen(isDropped ? look().softInk : look().ink);
        const QRect head(area.left() + 7, area.top() + 4, area.width() - 14, 16);
        painter.drawText(head, Qt::AlignLeft | Qt::AlignVCenter, symbolShown(cards[place]));
        painter.setPen(cards[place].mark == Mark::Kept ? look().mark : look().softInk);
        painter.drawText(head, Qt::AlignRight | Qt::AlignVCenter, sign(cards[place].mark));
        if (place < lines_.size())
            paintMiniLine(painter, QRectF(area.left() + 7, area.top() + 23, area.width() - 14, 17),
                          lines_[place], isDropped ? look().rule : look().mark);
    }
}

void TrayCards::mousePressEvent(QMouseEvent* event)
{
    if (const auto place = placeAt(event->position().toPoint()))
        Q_EMIT chosen(*place);
}

void TrayCards::mouseDoubleClickEvent(QMouseEvent* event)
{
    if (const auto place = placeAt(event->position().toPoint()))
        Q_EMIT opened(*place);
}

TrayBar::TrayBar(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), cards_(new TrayCards(desk)),
      scroll_(new QScrollArea), counts_(new QLabel)
{
    setObjectName(QStringLiteral("trayBar"));
    setAttribute(Qt::WA_StyledBackground);
    scroll_->setWidget(cards_);
    scroll_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFixedHeight(cardHeight + 14);
    scroll_->setFocusPolicy(Qt::NoFocus);
    setTone(counts_, Tone::Soft);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(14, 5, 14, 1);
    layout->setSpacing(16);
    layout->addWidget(scroll_, 1);
    layout->addWidget(counts_);
    connect(&desk_.work(), &Workbench::trayChanged, this, &TrayBar::showTray);
    setAcceptDrops(true);
    connect(&desk_.focus(), &Focus::dayChanged, this, &TrayBar::askLines);
    connect(&desk_.market(), &OpenMarket::opened, this, &TrayBar::askLines);
    connect(&desk_.focus(), &Focus::selectionChanged, this, &TrayBar::showSelection);
    const auto select = [this](std::size_t place) {
        if (!desk_.market().isOpen())
            return;
        if (const auto stock =
                stockOf(desk_.work().now().tray->cards().at(place), desk_.market().data()))
            desk_.focus().select(*stock);
    };
    connect(cards_, &TrayCards::chosen, this, select);
    connect(cards_, &TrayCards::opened, this, [this, select](std::size_t place) {
        select(place);
        desk_.navigator().show(PlaceId::Weigh);
    });
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    connect(&asker_, &Asker::failed, this, [this] { asked_ = {}; });
    showTray();
}

void TrayBar::dragEnterEvent(QDragEnterEvent* event)
{
    if (desk_.market().isOpen() && event->mimeData()->hasText())
        event->acceptProposedAction();
}

/// Symbols that are known for certain join those in hand.
void TrayBar::dropEvent(QDropEvent* event)
{
    if (!desk_.market().isOpen() || !event->mimeData()->hasText())
        return;
    event->acceptProposedAction();
    findDropped(desk_, this, event->mimeData()->text(),
                [this](const std::vector<std::size_t>& stocks) { addToTray(stocks); });
}

void TrayBar::addToTray(const std::vector<std::size_t>& stocks)
{
    const Day day = desk_.focus().day();
    const std::string source = utf8(tr("dropped, %1").arg(shortDayText(day)));
    Shared<watchlists::Tray> tray = desk_.work().now().tray;
    const std::size_t more = addTo(tray.edit(), desk_.market().data(), stocks, day, source);
    if (more > 0)
        desk_.work().edit(tr("Take %1 more in hand").arg(more),
                          [&](Work& work) { work.tray = tray; });
}

void TrayBar::showTray()
{
    const watchlists::TrayCounts counts = desk_.work().now().tray->counts();
    if (desk_.work().now().tray->isEmpty())
        counts_->setText(tr("Nothing in hand. What a screen finds can be taken in hand in Sift."));
    else
        counts_->setText(tr("%1 left, %2 kept, %3 dropped, %4 later")
                             .arg(counts.open)
                             .arg(counts.kept)
                             .arg(counts.dropped)
                             .arg(counts.later));
    scroll_->setVisible(!desk_.work().now().tray->isEmpty());
    counts_->setContentsMargins(0, 0, 0, 4);
    askLines();
}

void TrayBar::askLines()
{
    if (!desk_.market().isOpen() || desk_.work().now().tray->isEmpty())
        return;
    LinesAsked now{desk_.market().evaluator()->marketPtr(), desk_.focus().day(), {}};
    for (const watchlists::Card& card : desk_.work().now().tray->cards())
        now.stocks.emplace_back(card.symbol, card.takenOn);
    if (now == asked_)
        return;
    asked_ = std::move(now);
    cards_->setLines({}); // those of other stocks are not these
    asker_.ask(
        [market = asked_.market, cards = desk_.work().now().tray->cards(),
         day = asked_.day](const Progress& progress) {
            TrayCards::Lines lines;
            for (const watchlists::Card& card : cards) {
                if (progress.stopRequested())
                    throw Stopped{};
                lines.push_back(lastCloses(market, card, day));
            }
            return lines;
        },
        [this](TrayCards::Lines lines) { cards_->setLines(std::move(lines)); });
}

void TrayBar::showSelection()
{
    if (const auto place = selectedCard(desk_)) {
        const QRect area = cards_->card(*place);
        scroll_->ensureVisible(area.center().x(), area.center().y(), cardWidth, 0);
    }
}

} // namespace sieve::app
