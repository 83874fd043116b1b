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

std::vector<double> lastCloses(const market::MarketPtr& market, const std::string& symbol, Day day)
{
    const auto instrument = market->find(symbol);
    if (!instrument)
        return {};
    std::vector<double> closes = market::AsOf(market, day).adjustedBars(*instrument).close;
    if (closes.size() > cardLineSessions)
        closes.erase(closes.begin(), closes.end() - static_cast<std::ptrdiff_t>(cardLineSessions));
    return closes;
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
    const auto count = static_cast<int>(desk_.work().now().tray.cards().size());
    setFixedSize(std::max(1, count * (cardWidth + gap)), cardHeight + 2);
    update();
}

void TrayCards::setLines(std::map<std::string, std::vector<double>> lines)
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
    if (place >= desk_.work().now().tray.cards().size() || !card(place).contains(at))
        return std::nullopt;
    return place;
}

void TrayCards::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const auto& cards = desk_.work().now().tray.cards();
    const std::string selected =
        desk_.market().isOpen() && desk_.focus().selected()
            ? desk_.market().data().instrument(*desk_.focus().selected()).symbol
            : std::string();
    for (std::size_t place = 0; place < cards.size(); ++place) {
        const QRect area = card(place);
        const bool isSelected = cards[place].symbol == selected;
        const bool isDropped = cards[place].mark == Mark::Dropped;
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(isSelected ? look().mark : look().rule, isSelected ? 2.0 : 1.0));
        painter.setBrush(isDropped ? look().ground : look().sheet);
        painter.drawRoundedRect(QRectF(area).adjusted(1, 1, -1, -1), 4, 4);
        painter.setRenderHint(QPainter::Antialiasing, false);
        painter.setFont(fontOf(Weight::Medium, 0.92));
        painter.setPen(isDropped ? look().softInk : look().ink);
        const QRect head(area.left() + 7, area.top() + 4, area.width() - 14, 16);
        painter.drawText(head, Qt::AlignLeft | Qt::AlignVCenter, text(cards[place].symbol));
        painter.setPen(cards[place].mark == Mark::Kept ? look().mark : look().softInk);
        painter.drawText(head, Qt::AlignRight | Qt::AlignVCenter, sign(cards[place].mark));
        const auto line = lines_.find(cards[place].symbol);
        if (line != lines_.end())
            paintMiniLine(painter, QRectF(area.left() + 7, area.top() + 23, area.width() - 14, 17),
                          line->second, isDropped ? look().rule : look().mark);
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
        desk_.focus().selectSymbol(desk_.work().now().tray.cards().at(place).symbol);
    };
    connect(cards_, &TrayCards::chosen, this, select);
    connect(cards_, &TrayCards::opened, this, [this, select](std::size_t place) {
        select(place);
        desk_.navigator().show(PlaceId::Weigh);
    });
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
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
    std::vector<std::string> symbols;
    for (const watchlists::Card& card : desk_.work().now().tray.cards())
        symbols.push_back(card.symbol);
    const std::size_t before = symbols.size();
    for (const std::size_t stock : stocks)
        if (const std::string& symbol = desk_.market().data().instrument(stock).symbol;
            std::ranges::find(symbols, symbol) == symbols.end())
            symbols.push_back(symbol);
    if (symbols.size() == before)
        return;
    desk_.work().edit(tr("Take %1 more in hand").arg(symbols.size() - before), [&](Work& work) {
        work.tray.add(symbols, utf8(tr("dropped, %1").arg(shortDayText(desk_.focus().day()))));
    });
}

void TrayBar::showTray()
{
    const watchlists::TrayCounts counts = desk_.work().now().tray.counts();
    if (desk_.work().now().tray.isEmpty())
        counts_->setText(tr("Nothing in hand. What a screen finds can be taken in hand in Sift."));
    else
        counts_->setText(tr("%1 left, %2 kept, %3 dropped, %4 later")
                             .arg(counts.open)
                             .arg(counts.kept)
                             .arg(counts.dropped)
                             .arg(counts.later));
    scroll_->setVisible(!desk_.work().now().tray.isEmpty());
    counts_->setContentsMargins(0, 0, 0, 4);
    askLines();
}

void TrayBar::askLines()
{
    if (!desk_.market().isOpen() || desk_.work().now().tray.isEmpty())
        return;
    asker_.ask(
        [market = desk_.market().evaluator()->marketPtr(), cards = desk_.work().now().tray.cards(),
         day = desk_.focus().day()](const Progress& progress) {
            std::map<std::string, std::vector<double>> lines;
            for (const watchlists::Card& card : cards) {
                if (progress.stopRequested())
                    throw Stopped{};
                lines[card.symbol] = lastCloses(market, card.symbol, day);
            }
            return lines;
        },
        [this](std::map<std::string, std::vector<double>> lines) {
            cards_->setLines(std::move(lines));
        });
}

void TrayBar::showSelection()
{
    if (!desk_.focus().selected())
        return;
    if (const auto place = desk_.work().now().tray.find(
            desk_.market().data().instrument(*desk_.focus().selected()).symbol)) {
        const QRect area = cards_->card(*place);
        scroll_->ensureVisible(area.center().x(), area.center().y(), cardWidth, 0);
    }
}

} // namespace sieve::app
