#include "app/lists/entry_page.h"

#include "app/lists/entry_words.h"
#include "app/lists/plan_bar.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"
#include "core/watchlists/list_sets.h"

#include <QComboBox>
#include <QDateEdit>
#include <QDesktopServices>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QScrollArea>
#include <QTextBrowser>
#include <QTextDocument>
#include <QTimer>
#include <QToolButton>
#include <QUrl>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

using watchlists::Entry;
using watchlists::EntryTold;

const QDate noReviewDay(1900, 1, 1); // a date edit has no empty state; this one is shown as words

QLabel* wrapped()
{
    auto* label = new QLabel;
    label->setWordWrap(true);
    label->setTextFormat(Qt::PlainText);
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    return label;
}

/// A note's markup as the browser shows it: without any HTML of the person's, without pictures,
/// which would be read from wherever they point, and without links that look like the page's own.
QString htmlOf(const std::string& markdown)
{
    QTextDocument document;
    document.setMarkdown(text(markdown), QTextDocument::MarkdownNoHTML);
    QString html = document.toHtml();
    html.remove(QRegularExpression(QStringLiteral("<img[^>]*>")));
    html.replace(QLatin1String("href=\"entry:"), QLatin1String("href=\"#"));
    const qsizetype from = html.indexOf(QLatin1String("<body"));
    const qsizetype begin = html.indexOf(u'>', from) + 1;
    return html.mid(begin, html.lastIndexOf(QLatin1String("</body>")) - begin);
}

QIcon iconOfSign(watchlists::Sign sign)
{
    QPixmap picture(32, 32);
    picture.setDevicePixelRatio(2.0);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    paintSign(painter, QRectF(0, 0, 16, 16), sign);
    return picture;
}

} // namespace

EntryPage::EntryPage()
    : page_(new QWidget), none_(new QLabel(tr("Choose an entry to read and write its page."))),
      name_(new QLabel), state_(wrapped()), added_(wrapped()), reason_(new QLineEdit),
      category_(new QComboBox), tags_(new QLineEdit), sign_(new QComboBox), review_(new QDateEdit),
      noReview_(new QPushButton(tr("None"))), plan_(wrapped()), planButton_(new QPushButton),
      position_(wrapped()), sold_(new QPushButton(tr("S&old…"))), notes_(new QTextBrowser),
      note_(new QPlainTextEdit), links_(new QLabel), link_(new QLineEdit), course_(wrapped()),
      pictureTitle_(new QLabel(tr("The chart as it was kept"))), picture_(new QLabel),
      pictures_(this, Asker::About::Else)
{
    connect(&pictures_, &Asker::failed, this, &EntryPage::failed);
    setTone(none_, Tone::Soft);
    none_->setAlignment(Qt::AlignCenter);
    none_->setWordWrap(true);
    name_->setFont(fontOf(Weight::SemiBold, 1.1));
    name_->setTextFormat(Qt::PlainText);
    auto* inside = new QVBoxLayout(page_);
    inside->setContentsMargins(10, 8, 10, 8);
    inside->setSpacing(6);
    inside->addWidget(name_);
    inside->addWidget(state_);
    inside->addWidget(makeFacts());
    inside->addWidget(makeNotes());
    inside->addWidget(makeLinks());
    auto* title = new QLabel(tr("How it went"));
    title->setFont(fontOf(Weight::SemiBold));
    inside->addWidget(title);
    inside->addWidget(course_);
    pictureTitle_->setFont(fontOf(Weight::SemiBold));
    picture_->setAccessibleName(tr("The chart as it was kept"));
    inside->addWidget(pictureTitle_);
    inside->addWidget(picture_);
    inside->addStretch(1);
    auto* scroll = new QScrollArea;
    scroll->setWidgetResizable(true);
    scroll->setWidget(page_);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->viewport()->installEventFilter(this); // see fitHeight
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(none_, 1);
    layout->addWidget(scroll, 1);
    show(nullptr, -1);
}

EntryPage::~EntryPage()
{
    for (QWidget* line : {static_cast<QWidget*>(reason_), static_cast<QWidget*>(tags_),
                          static_cast<QWidget*>(link_), static_cast<QWidget*>(review_)})
        line->disconnect(this); // they lose the focus with it
    note_->removeEventFilter(this);
    category_->lineEdit()->disconnect(this);
}

QWidget* EntryPage::makeFacts()
{
    auto* sheet = new QWidget;
    auto* grid = new QGridLayout(sheet); // a form layout cuts wrapped lines off
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setVerticalSpacing(4);
    grid->setColumnStretch(1, 1);
    const auto add = [grid](const QString& title, QWidget* field,
                            std::initializer_list<QPushButton*> buttons = {}) {
        auto* label = new QLabel(title);
        label->setBuddy(field);
        const int row = grid->rowCount();
        const bool isText = qobject_cast<QLabel*>(field) != nullptr;
        grid->addWidget(label, row, 0, isText ? Qt::AlignTop : Qt::AlignVCenter);
        auto* line = new QHBoxLayout;
        line->setSpacing(6);
        line->addWidget(field, 1);
        for (QPushButton* button : buttons) {
            button->setAutoDefault(false);
            line->addWidget(button, 0, Qt::AlignTop);
        }
        grid->addLayout(line, row, 1);
        field->setMinimumWidth(60);
        field->setAccessibleName(QString(title).remove(u'&'));
    };
    add(tr("Added"), added_);
    add(tr("&Reason"), reason_);
    category_->setEditable(true);
    category_->setInsertPolicy(QComboBox::NoInsert);
    add(tr("&Category"), category_);
    tags_->setPlaceholderText(tr("parted by commas"));
    add(tr("&Tags"), tags_);
    for (const watchlists::Sign sign : watchlists::signs)
        sign_->addItem(iconOfSign(sign), signText(sign), static_cast<int>(sign));
    add(tr("S&ign"), sign_);
    review_->setCalendarPopup(true);
    review_->setMinimumDate(noReviewDay);
    review_->setSpecialValueText(tr("no day"));
    review_->setDisplayFormat(QStringLiteral("d MMM yyyy"));
    add(tr("Re&view on"), review_, {noReview_});
    add(tr("Plan"), plan_, {planButton_});
    auto* bought = new QPushButton(tr("&Bought…"));
    add(tr("Trades"), position_, {bought, sold_});
    connect(reason_, &QLineEdit::editingFinished, this, &EntryPage::takeReason);
    connect(tags_, &QLineEdit::editingFinished, this, &EntryPage::takeTags);
    connect(category_->lineEdit(), &QLineEdit::editingFinished, this, &EntryPage::takeCategory);
    connect(category_, &QComboBox::activated, this, &EntryPage::takeCategory);
    connect(sign_, &QComboBox::activated, this, [this](int at) {
        edit(tr("Sign %1"), [sign = watchlists::signs.at(static_cast<std::size_t>(at))](
                                Entry& entry) { entry.page.sign = sign; });
    });
    connect(review_, &QDateEdit::dateChanged, this, [this] { isReviewTyped_ = true; });
    connect(review_, &QDateEdit::editingFinished, this, &EntryPage::takeReview);
    connect(noReview_, &QPushButton::clicked, this, [this] {
        edit(tr("No day of review for %1"), [](Entry& entry) { entry.page.reviewOn.reset(); });
    });
    connect(planButton_, &QPushButton::clicked, this, &EntryPage::planAsked);
    connect(bought, &QPushButton::clicked, this, [this] { Q_EMIT tradeAsked(false); });
    connect(sold_, &QPushButton::clicked, this, [this] { Q_EMIT tradeAsked(true); });
    return sheet;
}

QWidget* EntryPage::makeNotes()
{
    auto* sheet = new QWidget;
    auto* layout = new QVBoxLayout(sheet);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    auto* title = new QLabel(tr("Notes"));
    title->setFont(fontOf(Weight::SemiBold));
    notes_->setAccessibleName(tr("Notes"));
    notes_->setOpenLinks(false);
    notes_->setFrameShape(QFrame::NoFrame);
    notes_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(notes_, &QTextBrowser::anchorClicked, this, &EntryPage::followLink);
    note_->setAccessibleName(tr("A note"));
    note_->setPlaceholderText(tr("A note of today. *slanted*, **bold**, - a list."));
    note_->setTabChangesFocus(true);
    note_->setFixedHeight(QFontMetrics(note_->font()).lineSpacing() * 3 + 14);
    note_->installEventFilter(this);
    layout->addWidget(title);
    layout->addWidget(notes_);
    layout->addWidget(note_);
    return sheet;
}

QWidget* EntryPage::makeLinks()
{
    auto* sheet = new QWidget;
    auto* layout = new QVBoxLayout(sheet);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    auto* title = new QLabel(tr("Links"));
    title->setFont(fontOf(Weight::SemiBold));
    links_->setTextFormat(Qt::RichText);
    links_->setWordWrap(true);
    connect(links_, &QLabel::linkActivated, this,
            [this](const QString& link) { followLink(QUrl(link)); });
    link_->setAccessibleName(tr("A link"));
    link_->setPlaceholderText(tr("https://… and Return"));
    connect(link_, &QLineEdit::editingFinished, this, &EntryPage::takeLink);
    layout->addWidget(title);
    layout->addWidget(links_);
    layout->addWidget(link_);
    return sheet;
}

void EntryPage::show(std::shared_ptr<const ShownList> shown, int row)
{
    const bool isChosen = shown && row >= 0;
    const auto isSame = [&](const Entry& other) {
        return entry_ && watchlists::isSameEntry(*entry_, other) && shown_ &&
               shown_->told.list.id == shown->told.list.id;
    };
    if (!isChosen || !isSame(shown->told.list.entries.at(static_cast<std::size_t>(row))))
        takeTyped();
    shown_ = std::move(shown);
    row_ = row;
    entry_ = isChosen ? std::optional(shown_->told.list.entries[static_cast<std::size_t>(row)])
                      : std::nullopt;
    none_->setVisible(!isChosen);
    page_->parentWidget()->parentWidget()->setVisible(isChosen);
    if (isChosen)
        fill();
}

void EntryPage::setCategories(const QStringList& categories)
{
    const QSignalBlocker quiet(category_);
    const QString typed = category_->currentText();
    category_->clear();
    category_->addItems(categories);
    category_->setEditText(typed);
}

void EntryPage::fill()
{
    const EntryTold& told = shown_->told.entries[static_cast<std::size_t>(row_)];
    const market::Market* market = shown_->market.get();
    const auto stock = told.result.stock;
    const auto put = [](QLineEdit* line, const std::string& words) {
        if (!line->hasFocus() || !line->isModified())
            line->setText(text(words));
    };
    name_->setText(stock ? text(market->instrument(*stock).symbol) + QStringLiteral("  ") +
                               text(market->instrument(*stock).name)
                         : text(entry_->symbol));
    state_->setText(market ? stateSentence(told, *market, shown_->call) : QString());
    setTone(state_, toneOf(told.course.state()));
    const auto price = [&](double figure) {
        return stock ? priceText(figure, *market, *stock) : numberText(figure, Unit::Money, 2);
    };
    QString added = tr("%1 at %2").arg(shortDayText(entry_->addedOn), price(entry_->priceThen));
    if (stock && !isMissing(told.result.priceThen) &&
        std::abs(told.result.priceThen / entry_->priceThen - 1.0) > 1e-9)
        added += tr(", %1 in today's shares").arg(price(told.result.priceThen));
    if (!isMissing(told.result.gain))
        added += tr("; since then %1, between %2 and %3 in %4 sessions")
                     .arg(signedText(told.result.gain, Unit::Percent, 1), price(told.result.lowest),
                          price(told.result.highest))
                     .arg(told.result.sessions);
    added += entry_->source.empty() ? tr("; by hand") : tr("; from %1").arg(text(entry_->source));
    if (told.verdict)
        added += tr("; “%1” answered %2 of %3 by yes")
                     .arg(text(told.verdict->checklist))
                     .arg(told.verdict->met())
                     .arg(told.verdict->said.size());
    added_->setText(added + QLatin1Char('.'));
    put(reason_, entry_->reason);
    put(category_->lineEdit(), entry_->page.category);
    QStringList tags;
    for (const std::string& tag : entry_->page.tags)
        tags << text(tag);
    put(tags_, utf8(tags.join(QStringLiteral(", "))));
    sign_->setCurrentIndex(static_cast<int>(entry_->page.sign));
    if (!isReviewTyped_) {
        const QSignalBlocker quiet(review_);
        review_->setDate(entry_->page.reviewOn ? dateOf(*entry_->page.reviewOn) : noReviewDay);
    }
    noReview_->setEnabled(entry_->page.reviewOn.has_value());
    QStringList plan;
    if (const auto& now = told.course.plan) {
        plan << tr("Stop %1, entry %2").arg(price(now->stop), price(now->entry));
        for (const double target : now->targets)
            plan << tr("target %1").arg(price(target));
        for (const auto& [title, rule] : {std::pair{tr("entry"), &now->entryRule},
                                          {tr("stop"), &now->stopRule},
                                          {tr("leave when"), &now->exitRule}})
            if (!rule->empty())
                plan << QStringLiteral("%1: %2").arg(title, text(*rule));
        if (now->isHalfNow)
            plan << tr("one half now, the other later");
    }
    plan_->setText(plan.join(QStringLiteral(", ")));
    planButton_->setText(entry_->plan ? tr("&Plan…") : tr("Make a &plan…"));
    QString trades = positionText(told.position);
    for (const watchlists::Trade& trade : entry_->page.trades)
        trades += (trades.isEmpty() ? QString() : QStringLiteral("\n")) +
                  (trade.shares > 0.0 ? tr("%1 bought %2 at %3") : tr("%1 sold %2 at %3"))
                      .arg(shortDayText(trade.on),
                           numberText(std::abs(trade.shares), Unit::Plain, 0), price(trade.price)) +
                  (trade.why.empty() ? QString() : QStringLiteral(": ") + text(trade.why));
    position_->setText(trades);
    sold_->setEnabled(told.position.isHeld());
    showNotes();
    QString links;
    for (std::size_t i = 0; i < entry_->page.links.size(); ++i)
        links += QStringLiteral("<a href=\"%1\">%2</a> &nbsp; <a href=\"entry:link/%3\">%4</a><br>")
                     .arg(text(entry_->page.links[i]).toHtmlEscaped(),
                          text(entry_->page.links[i]).toHtmlEscaped())
                     .arg(i)
                     .arg(tr("remove"));
    links_->setText(links);
    links_->setVisible(!links.isEmpty());
    showCourse();
    showPicture();
    fitHeight();
}

void EntryPage::setPicturePath(std::function<QString(const std::string&)> path)
{
    picturePath_ = std::move(path);
}

/// Read and scaled beside the window's thread; where the file is gone nothing is shown.
void EntryPage::showPicture()
{
    const QString path = picturePath_ && !entry_->page.picture.empty()
                             ? picturePath_(entry_->page.picture)
                             : QString();
    pictureTitle_->hide();
    picture_->hide();
    pictures_.stop();
    if (path.isEmpty())
        return;
    const int width = std::max(page_->parentWidget()->width() - 24, 100);
    pictures_.ask(
        [path, width](const Progress&) {
            const QImage image(path);
            return image.isNull() ? image
                                  : image.scaledToWidth(std::min(width, image.width()),
                                                        Qt::SmoothTransformation);
        },
        [this](const QImage& image) {
            pictureTitle_->setVisible(!image.isNull());
            picture_->setVisible(!image.isNull());
            picture_->setPixmap(QPixmap::fromImage(image));
            fitHeight();
        });
}

void EntryPage::showNotes()
{
    QString html;
    for (std::size_t i = entry_->page.notes.size(); i-- > 0;) {
        const watchlists::Note& note = entry_->page.notes[i];
        html += QStringLiteral("<p style=\"margin:6px 0 0 0\"><b>%1</b> &nbsp; "
                               "<a href=\"entry:note/%2\">%3</a> &nbsp; "
                               "<a href=\"entry:drop/%2\">%4</a></p>%5")
                    .arg(shortDayText(note.on))
                    .arg(i)
                    .arg(tr("write anew"), tr("remove"), htmlOf(note.text));
    }
    notes_->setHtml(html);
    notes_->setVisible(!html.isEmpty());
    const auto fit = [this] {
        notes_->document()->setTextWidth(notes_->viewport()->width());
        notes_->setFixedHeight(static_cast<int>(notes_->document()->size().height()) + 4);
        fitHeight();
    };
    fit();
    QTimer::singleShot(0, notes_, fit); // once its width is known
}

void EntryPage::showCourse()
{
    const EntryTold& told = shown_->told.entries[static_cast<std::size_t>(row_)];
    QStringList lines;
    for (auto at = told.course.changes.rbegin(); at != told.course.changes.rend(); ++at)
        if (at->state != watchlists::PlanState::None)
            lines << tr("%1  %2, close %3")
                         .arg(shortDayText(at->on), stateText(at->state, at->target),
                              numberText(at->price, Unit::Money, 2));
    course_->setText(lines.isEmpty() ? tr("Nothing yet: the states of a plan are told here, each "
                                          "with its day.")
                                     : lines.join(QLatin1Char('\n')));
}

void EntryPage::edit(const QString& what, const Change& change)
{
    if (!entry_ || !shown_)
        return;
    Entry after = *entry_;
    change(after);
    if (!(after == *entry_))
        Q_EMIT edited(*shown_, *entry_, what.arg(text(entry_->symbol)), change);
}

void EntryPage::takeTyped()
{
    if (!entry_)
        return;
    takeReason();
    takeTags();
    takeCategory();
    takeReview();
    takeNote();
    takeLink();
    link_->clear(); // one with a fault was told
}

void EntryPage::takeReason()
{
    reason_->setModified(false); // it counts; what comes from the work may be shown again
    edit(tr("Give a reason for %1"),
         [reason = utf8(reason_->text().trimmed())](Entry& entry) { entry.reason = reason; });
}

void EntryPage::takeCategory()
{
    category_->lineEdit()->setModified(false);
    edit(tr("Category of %1"), [category = utf8(category_->currentText().trimmed())](Entry& entry) {
        entry.page.category = category;
    });
}

void EntryPage::takeTags()
{
    tags_->setModified(false);
    edit(tr("Tags of %1"), [tags = watchlists::tagsIn(utf8(tags_->text()))](Entry& entry) {
        entry.page.tags = tags;
    });
}

void EntryPage::takeReview()
{
    isReviewTyped_ = false; // it counts, as a line does
    const QDate date = review_->date();
    edit(tr("Day of review of %1"), [date](Entry& entry) {
        if (date == noReviewDay)
            entry.page.reviewOn.reset();
        else
            entry.page.reviewOn = dayOf(date);
    });
}

void EntryPage::takeNote()
{
    const std::string words = utf8(note_->toPlainText().trimmed());
    const auto at = std::exchange(noteAt_, std::nullopt);
    note_->clear();
    if (words.empty() || !shown_)
        return; // one that is emptied stays as it was; to remove it there is a word
    edit(tr("Note on %1"), [words, at, on = shown_->told.day](Entry& entry) {
        if (at && *at < entry.page.notes.size())
            entry.page.notes[*at].text = words;
        else
            entry.page.notes.push_back({on, words});
    });
}

void EntryPage::takeLink()
{
    const QString typed = link_->text().trimmed();
    if (typed.isEmpty())
        return;
    if (const std::string fault = watchlists::faultOfLink(utf8(typed)); !fault.empty())
        return Q_EMIT failed(text(fault));
    link_->clear();
    edit(tr("Link of %1"),
         [link = utf8(typed)](Entry& entry) { entry.page.links.push_back(link); });
}

/// Of the person's, opened elsewhere; or one of the page's own, to write or to remove something.
void EntryPage::followLink(const QUrl& link)
{
    if (link.scheme() != QLatin1String("entry")) {
        if (watchlists::faultOfLink(utf8(link.toString())).empty())
            QDesktopServices::openUrl(link);
        return;
    }
    const QStringList parts = link.path().split(u'/');
    const auto at = parts.value(1).toULongLong();
    if (!entry_)
        return;
    if (parts.value(0) == QLatin1String("link"))
        return edit(tr("Remove a link of %1"), [at](Entry& entry) {
            if (at < entry.page.links.size())
                entry.page.links.erase(entry.page.links.begin() + static_cast<std::ptrdiff_t>(at));
        });
    if (at >= entry_->page.notes.size())
        return;
    if (parts.value(0) == QLatin1String("drop"))
        return edit(tr("Remove a note of %1"), [at](Entry& entry) {
            if (at < entry.page.notes.size())
                entry.page.notes.erase(entry.page.notes.begin() + static_cast<std::ptrdiff_t>(at));
        });
    takeNote(); // what was begun
    noteAt_ = at;
    note_->setPlainText(text(entry_->page.notes[at].text));
    focusNote();
}

void EntryPage::focusNote()
{
    note_->setFocus();
    note_->moveCursor(QTextCursor::End);
}

/// A scroll area does not ask how high its page is at its width: wrapped lines would be cut off.
void EntryPage::fitHeight()
{
    const int width = page_->parentWidget()->width();
    page_->setMaximumWidth(width);
    page_->setMinimumHeight(std::max(page_->layout()->totalHeightForWidth(width), 0));
}

/// A note is kept when it is left, and by Ctrl+Return.
bool EntryPage::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == page_->parentWidget() && event->type() == QEvent::Resize)
        fitHeight();
    if (watched != note_)
        return QWidget::eventFilter(watched, event);
    if (event->type() == QEvent::FocusOut)
        takeNote();
    if (event->type() == QEvent::KeyPress) {
        const auto* key = static_cast<QKeyEvent*>(event);
        const bool isReturn = key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter;
        if (isReturn && (key->modifiers() & Qt::ControlModifier)) {
            takeNote();
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace sieve::app
