#include "app/frame/finder.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "app/parts/step_through.h"
#include "core/language/vocabulary.h"
#include "core/screens/starter.h"

#include <QApplication>
#include <QClipboard>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr std::size_t mostShown = 40;

/// All stocks of a market; `open` is given the place of the chosen one.
void addStocks(std::vector<Findable>& all, const market::Market& market,
               const std::function<void(std::size_t)>& open)
{
    for (std::size_t i = 0; i < market.size(); ++i) {
        const market::Instrument& each = market.instrument(i);
        all.push_back(
            {text(each.symbol),
             text(each.name + "  ·  " + (each.industry.empty() ? each.exchange : each.industry)),
             [open, i] { open(i); }});
    }
}

} // namespace

Finder::Finder(Desk& desk, std::vector<Findable> commands, QWidget* parent)
    : QFrame(parent), desk_(desk), asker_(this, Asker::About::Else),
      commands_(std::make_shared<const std::vector<Findable>>(std::move(commands))),
      words_(new QLineEdit), list_(new QListWidget)
{
    setObjectName(QStringLiteral("finder"));
    setAttribute(Qt::WA_StyledBackground);
    words_->setPlaceholderText(tr("Find a stock, list, screen, place, field or command"));
    words_->setAccessibleName(tr("Find anything"));
    words_->installEventFilter(this);
    list_->setFocusPolicy(Qt::NoFocus);
    list_->setAccessibleName(tr("Found"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 8);
    layout->addWidget(words_);
    layout->addWidget(list_);
    connect(words_, &QLineEdit::textChanged, this, &Finder::find);
    connect(words_, &QLineEdit::returnPressed, this, &Finder::openChosen);
    connect(list_, &QListWidget::itemClicked, this, &Finder::openChosen);
    connect(&desk_.market(), &OpenMarket::opened, this, [this] {
        if (!isVisible())
            return;
        found_ = {}; // what was found leads into the former market
        list_->clear();
        find();
    });
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    hide();
}

void Finder::openOver(QWidget* window)
{
    if (!isVisible())
        focusBefore_ = window->focusWidget();
    const QSignalBlocker once(words_);
    words_->clear();
    list_->clear();
    found_ = {};
    find();
    move((window->width() - width()) / 2, 64);
    show();
    raise();
    words_->setFocus();
}

/// What collects all that can be found now: for a job, which owns all that it uses.
std::function<std::vector<Findable>()> Finder::collector()
{
    const auto openStock = [this](std::size_t stock) {
        desk_.focus().select(stock);
        desk_.navigator().show(PlaceId::Weigh);
    };
    const auto openScreen = [this](const screens::Screen& screen) {
        desk_.work().edit(tr("Choose another screen"),
                          [&](Work& work) { library::takeInHand(work, screen); });
        desk_.navigator().show(PlaceId::Sift);
    };
    const auto openList = [this](std::int64_t list) { desk_.navigator().showList(list); };
    const auto copyName = [this](const language::Field& field) {
        QApplication::clipboard()->setText(text(field.name));
        Q_EMIT desk_.told(
            tr("%1: %2. Its name was copied.").arg(text(field.title), text(field.meaning)));
    };
    return [=, commands = commands_, work = desk_.work().now(),
            market = desk_.market().isOpen() ? desk_.market().evaluator()->marketPtr() : nullptr] {
        std::vector<Findable> all = *commands;
        if (market)
            addStocks(all, *market, openStock);
        const auto addScreen = [&](const screens::Screen& screen) {
            all.push_back({text(screen.name), tr("screen"), [=] { openScreen(screen); }});
        };
        for (const auto& kept : work.screens)
            addScreen(kept->screen);
        std::ranges::for_each(screens::starterScreens(), addScreen);
        for (const auto& list : work.lists)
            all.push_back({text(list->name), tr("watchlist, %1 entries").arg(list->entries.size()),
                           [=, id = list->id] { openList(id); }});
        for (const language::Field& field : language::Vocabulary::builtIn().fields())
            all.push_back({text(field.name), tr("field: %1").arg(text(field.title)),
                           [=] { copyName(field); }});
        return all;
    };
}

void Finder::find()
{
    opensWhenFound_ = false;
    asker_.ask(
        [all = found_.all, collect = collector(),
         words = words_->text().trimmed()](const Progress& progress) {
            Found found{all ? all : std::make_shared<const std::vector<Findable>>(collect()), {}};
            found.places = findAmong(*found.all, words, mostShown, progress);
            return found;
        },
        [this](Found found) { showFound(std::move(found)); });
}

void Finder::showFound(Found found)
{
    found_ = std::move(found);
    list_->clear();
    for (const std::size_t place : found_.places) {
        const Findable& each = (*found_.all)[place];
        list_->addItem(each.name + QStringLiteral("     ") + each.what);
    }
    list_->setCurrentRow(0);
    const int rows = std::clamp(list_->count(), 1, 14);
    const int row = list_->count() > 0 ? list_->sizeHintForRow(0) : fontMetrics().height();
    list_->setFixedHeight(rows * row + 4);
    adjustSize();
    resize(parentWidget()->width() > 0 ? std::min(620, parentWidget()->width() - 40) : 620,
           height());
    if (std::exchange(opensWhenFound_, false))
        openChosen();
}

void Finder::openChosen()
{
    if (asker_.isBusy()) { // who types fast means what the last letter leaves
        opensWhenFound_ = true;
        return;
    }
    const int row = list_->currentRow();
    close();
    if (row >= 0 && row < static_cast<int>(found_.places.size()))
        (*found_.all)[found_.places[static_cast<std::size_t>(row)]].open();
}

/// Left to itself, Qt would give the focus to any neighbour, where the place's keys mean nothing.
void Finder::close()
{
    if (focusBefore_)
        focusBefore_->setFocus();
    hide();
}

void Finder::hideEvent(QHideEvent* event)
{
    QFrame::hideEvent(event);
    asker_.stop(); // nothing opens any more
}

bool Finder::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::FocusOut)
        hide();
    if (event->type() != QEvent::KeyPress)
        return QFrame::eventFilter(watched, event);
    const auto& key = *static_cast<QKeyEvent*>(event);
    if (key.key() == Qt::Key_Escape) {
        close();
        return true;
    }
    return stepThrough(*list_, key) || QFrame::eventFilter(watched, event);
}

} // namespace sieve::app
