#include "app/frame/finder.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
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

/// Lower is better: the name itself, its beginning, a word's beginning, anywhere; -1 is no match.
int distanceOf(const QString& name, const QString& what, const QString& words)
{
    if (name.compare(words, Qt::CaseInsensitive) == 0)
        return 0;
    if (name.startsWith(words, Qt::CaseInsensitive))
        return 1;
    if (name.contains(QLatin1Char(' ') + words, Qt::CaseInsensitive) ||
        what.startsWith(words, Qt::CaseInsensitive))
        return 2;
    const QString all = name + QLatin1Char(' ') + what;
    for (const QString& word : words.split(QLatin1Char(' '), Qt::SkipEmptyParts))
        if (!all.contains(word, Qt::CaseInsensitive))
            return -1;
    return 3;
}

} // namespace

Finder::Finder(Desk& desk, std::vector<Thing> commands, QWidget* parent)
    : QFrame(parent), desk_(desk), commands_(std::move(commands)), words_(new QLineEdit),
      list_(new QListWidget)
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
    connect(words_, &QLineEdit::textChanged, this, &Finder::filter);
    connect(words_, &QLineEdit::returnPressed, this, &Finder::openChosen);
    connect(list_, &QListWidget::itemClicked, this, &Finder::openChosen);
    hide();
}

void Finder::openOver(QWidget* window)
{
    if (!isVisible())
        focusBefore_ = window->focusWidget();
    collect();
    words_->clear();
    filter();
    move((window->width() - width()) / 2, 64);
    show();
    raise();
    words_->setFocus();
}

void Finder::collect()
{
    things_ = commands_;
    if (desk_.market().isOpen())
        for (std::size_t i = 0; i < desk_.market().data().size(); ++i) {
            const market::Instrument& each = desk_.market().data().instrument(i);
            things_.push_back({text(each.symbol),
                               text(each.name + "  ·  " +
                                    (each.industry.empty() ? each.exchange : each.industry)),
                               [this, i] {
                                   desk_.focus().select(i);
                                   desk_.navigator().show(PlaceId::Weigh);
                               }});
        }
    const auto addScreen = [this](const screens::Screen& screen) {
        things_.push_back({text(screen.name), tr("screen"), [this, screen] {
                               desk_.work().edit(tr("Choose another screen"), [&](Work& work) {
                                   library::takeInHand(work, screen);
                               });
                               desk_.navigator().show(PlaceId::Sift);
                           }});
    };
    std::ranges::for_each(desk_.screenShelf().all(), addScreen);
    std::ranges::for_each(screens::starterScreens(), addScreen);
    for (const auto& list : desk_.work().now().lists)
        things_.push_back({text(list->name), tr("watchlist, %1 entries").arg(list->entries.size()),
                           [this, id = list->id] { desk_.navigator().showList(id); }});
    for (const language::Field& field : language::Vocabulary::builtIn().fields())
        things_.push_back({text(field.name), tr("field: %1").arg(text(field.title)), [this, field] {
                               QApplication::clipboard()->setText(text(field.name));
                               Q_EMIT desk_.told(tr("%1: %2. Its name was copied.")
                                                     .arg(text(field.title), text(field.meaning)));
                           }});
}

void Finder::filter()
{
    const QString words = words_->text().trimmed();
    std::vector<std::pair<int, std::size_t>> found;
    for (std::size_t i = 0; i < things_.size(); ++i)
        if (const int distance = distanceOf(things_[i].name, things_[i].what, words); distance >= 0)
            found.emplace_back(words.isEmpty() ? 0 : distance, i);
    std::ranges::stable_sort(found, {}, [](const auto& each) { return each.first; });
    list_->clear();
    shown_.clear();
    for (const auto& [distance, i] : found) {
        if (shown_.size() == mostShown)
            break;
        list_->addItem(things_[i].name + QStringLiteral("     ") + things_[i].what);
        shown_.push_back(i);
    }
    list_->setCurrentRow(0);
    const int rows = std::clamp(list_->count(), 1, 14);
    const int row = list_->count() > 0 ? list_->sizeHintForRow(0) : fontMetrics().height();
    list_->setFixedHeight(rows * row + 4);
    adjustSize();
    resize(parentWidget()->width() > 0 ? std::min(620, parentWidget()->width() - 40) : 620,
           height());
}

void Finder::openChosen()
{
    const int row = list_->currentRow();
    close();
    if (row >= 0 && row < static_cast<int>(shown_.size()))
        things_[shown_[static_cast<std::size_t>(row)]].open();
}

/// Left to itself, Qt would give the focus to any neighbour, where the place's keys mean nothing.
void Finder::close()
{
    if (focusBefore_)
        focusBefore_->setFocus();
    hide();
}

bool Finder::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::FocusOut)
        hide();
    if (event->type() != QEvent::KeyPress)
        return QFrame::eventFilter(watched, event);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Escape) {
        close();
        return true;
    }
    if (key == Qt::Key_Down || key == Qt::Key_Up) {
        const int step = key == Qt::Key_Down ? 1 : -1;
        list_->setCurrentRow(std::clamp(list_->currentRow() + step, 0, list_->count() - 1));
        return true;
    }
    return QFrame::eventFilter(watched, event);
}

} // namespace sieve::app
