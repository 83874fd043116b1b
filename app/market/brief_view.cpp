#include "app/market/brief_view.h"

#include "app/desk/alert_keeper.h"
#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/market_reader.h"
#include "app/desk/navigator.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "app/parts/saved_page.h"
#include "core/briefing/brief_page.h"

#include <QAction>
#include <QComboBox>
#include <QDateEdit>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPrintDialog>
#include <QPrinter>
#include <QPushButton>
#include <QSaveFile>
#include <QTextBrowser>
#include <QTextDocument>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

constexpr int pageWidth = 820;  ///< wider, lines are hard to follow
constexpr int dotsPerInch = 96; ///< the page is laid out in pixels of this size

exports::PageLook lookOfWindow()
{
    const Palette& palette = look();
    return {utf8(palette.sheet.name()), utf8(palette.ink.name()),  utf8(palette.softInk.name()),
            utf8(palette.rule.name()),  utf8(palette.mark.name()), familyOfWindow()};
}

/// Up to which session a market's briefs were read ("read"), and the one before ("read_before").
std::string readKey(const char* which, const market::Market& market)
{
    return std::string("brief.") + which + "/" + market.description().name;
}

/// On paper, whatever the window's palette is.
SavedPage forPaper(const briefing::Brief& brief)
{
    briefing::PageStyle style;
    style.look.font = familyOfWindow();
    return {text(briefing::titleOf(brief)), briefing::bodyOf(brief, style)};
}

} // namespace

BriefView::BriefView(Desk& desk)
    : desk_(desk), asker_(this), span_(new QComboBox), from_(new QDateEdit), state_(new QLabel),
      page_(new QTextBrowser)
{
    connect(&asker_, &Asker::failed, &desk, &Desk::noticed);
    span_->setAccessibleName(tr("Since when"));
    from_->setAccessibleName(tr("Since the day"));
    from_->setCalendarPopup(true);
    from_->setDisplayFormat(QStringLiteral("d MMM yyyy"));
    from_->hide();
    page_->setOpenLinks(false);
    page_->setFrameShape(QFrame::NoFrame);
    page_->setAccessibleName(tr("The brief"));
    page_->setMaximumWidth(pageWidth);
    page_->document()->setDocumentMargin(20);
    connect(page_, &QTextBrowser::anchorClicked, this,
            [this](const QUrl& address) { follow(address.toString()); });
    connect(&desk.market(), &OpenMarket::opened, this,
            [this] { // the former one's is no brief of it
                brief_.reset();
                page_->clear();
            });
    connect(span_, &QComboBox::activated, this, [this] {
        from_->setVisible(Since(span_->currentData().toInt()) == Since::AnyDay);
        ask();
    });
    connect(from_, &QDateEdit::dateChanged, this, [this] {
        if (from_->isVisible())
            ask();
    });
    // No letters of their own: the menus have them.
    const auto button = [this](const QString& title, const QString& tip, auto act) {
        auto* made = new QPushButton(title);
        made->setToolTip(tip);
        connect(made, &QPushButton::clicked, this, act);
        return made;
    };
    makeAction(this, ActionId::PrintBrief, [this] { print(); });
    makeAction(this, ActionId::SaveBrief, [this] { save(); });
    auto* head = new QHBoxLayout;
    head->addWidget(
        button(tr("Back to the market"), tr("Back (Esc)"), [this] { Q_EMIT marketWanted(); }));
    head->addSpacing(12);
    head->addWidget(new QLabel(tr("What changed since")));
    head->addWidget(span_);
    head->addWidget(from_);
    head->addWidget(state_, 1);
    head->addWidget(button(tr("Print…"), tipOf(ActionId::PrintBrief), [this] { print(); }));
    head->addWidget(button(tr("Save…"), tipOf(ActionId::SaveBrief), [this] { save(); }));
    head->addWidget(button(tr("Mail…"), tipOf(ActionId::MailTerms), [this] {
        if (QAction* mail = findAction(*window(), ActionId::MailTerms))
            mail->trigger();
    }));
    auto* middle = new QHBoxLayout;
    middle->addStretch(1);
    middle->addWidget(page_, 100);
    middle->addStretch(1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addLayout(head);
    layout->addLayout(middle, 1);
    setFocusProxy(page_);
}

/// The spans with the days that they begin on by now.
void BriefView::offerSpans()
{
    const market::Market& market = desk_.market().data();
    const Day day = desk_.focus().day();
    const QVariant chosen = span_->currentData();
    span_->clear();
    const auto offer = [this](Since since, const QString& title) {
        span_->addItem(title, static_cast<int>(since));
    };
    if (const auto last = lastTime())
        offer(Since::LastTime, tr("last time (%1)").arg(dayText(*last)));
    if (const auto before = briefing::sessionBefore(market, day))
        offer(Since::SessionBefore, tr("the session before (%1)").arg(dayText(*before)));
    offer(Since::WeekAgo, tr("a week ago"));
    offer(Since::MonthAgo, tr("a month ago"));
    offer(Since::AnyDay, tr("a day of your choice"));
    span_->setCurrentIndex(std::max(0, span_->findData(chosen)));
    from_->setVisible(Since(span_->currentData().toInt()) == Since::AnyDay);
    const QSignalBlocker quiet(from_);
    from_->setMaximumDate(dateOf(day));
    if (from_->date() <= QDate(2000, 1, 1) || from_->date() > dateOf(day))
        from_->setDate(dateOf(day.plusMonths(-1)));
}

/// The newest session that was read before this one.
std::optional<Day> BriefView::lastTime() const
{
    const market::Market& market = desk_.market().data();
    const auto kept = [&](const char* which) {
        return Day::parse(desk_.settings().value(readKey(which, market)));
    };
    const auto read = kept("read");
    const auto last = read && *read < desk_.focus().day() ? read : kept("read_before");
    return last && *last < desk_.focus().day() ? last : std::nullopt;
}

void BriefView::noteRead()
{
    const market::Market& market = desk_.market().data();
    const std::string& read = desk_.settings().value(readKey("read", market));
    const std::string day = desk_.focus().day().iso();
    if (!desk_.focus().isLatest() || read >= day)
        return;
    desk_.settings().set(readKey("read_before", market), read);
    desk_.settings().set(readKey("read", market), day);
}

Day BriefView::since() const
{
    const Day day = desk_.focus().day();
    switch (Since(span_->currentData().toInt())) {
    case Since::LastTime:
        return lastTime().value_or(day);
    case Since::SessionBefore:
        return briefing::sessionBefore(desk_.market().data(), day).value_or(day);
    case Since::WeekAgo:
        return day.plusDays(-7);
    case Since::MonthAgo:
        return day.plusMonths(-1);
    case Since::AnyDay:
        break;
    }
    return dayOf(from_->date());
}

/// The page bears the colours of the palette.
void BriefView::changeEvent(QEvent* event)
{
    QWidget::changeEvent(event);
    if (brief_ && (event->type() == QEvent::PaletteChange || event->type() == QEvent::StyleChange))
        showPage();
}

void BriefView::showPage()
{
    page_->setHtml(text(briefing::bodyOf(*brief_, {lookOfWindow(), true})));
}

void BriefView::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Escape)
        return Q_EMIT marketWanted();
    QWidget::keyPressEvent(event);
}

void BriefView::refresh()
{
    if (!desk_.market().isOpen() || !desk_.work().isLoaded() ||
        desk_.market().data().sessions().empty())
        return;
    offerSpans();
    ask();
}

void BriefView::ask()
{
    const auto& reading = desk_.conditions().reading();
    const auto& groups = desk_.conditions().groups();
    if (!reading || !groups)
        return state_->setText(tr("Reading the market…"));
    state_->setText(tr("Looking…"));
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(),
         work = desk_.work().now(), reading, groups, raised = desk_.alerts().log(), since = since(),
         day = desk_.focus().day()](const Progress& progress) {
            return briefing::makeBrief({work, *reading, *groups, raised}, *evaluator, book->names(),
                                       since, day, progress);
        },
        [this](const briefing::Brief& brief) { show(brief); });
}

void BriefView::show(const briefing::Brief& brief)
{
    state_->clear();
    const bool isOther = !(brief_ && *brief_ == brief);
    brief_ = brief;
    if (isOther)
        showPage();
    noteRead();
}

/// "line:2.5" or "part:2", see briefing::PageStyle.
void BriefView::follow(const QString& address)
{
    if (!brief_)
        return;
    const QString places = address.section(QLatin1Char(':'), 1);
    const auto part = places.section(QLatin1Char('.'), 0, 0).toULongLong();
    const auto line = places.section(QLatin1Char('.'), 1).toULongLong();
    if (part >= brief_->parts.size())
        return;
    if (address.startsWith(QLatin1String("part:")))
        return lead(brief_->parts[part].lead);
    if (line < brief_->parts[part].lines.size())
        lead(brief_->parts[part].lines[line].lead);
}

void BriefView::lead(const briefing::Lead& lead)
{
    using To = briefing::Lead::To;
    const auto trigger = [this](ActionId id) {
        if (QAction* action = findAction(*window(), id))
            action->trigger();
    };
    switch (lead.to) {
    case To::Nothing:
        return;
    case To::Market:
        return Q_EMIT marketWanted();
    case To::Group:
        return Q_EMIT groupWanted(text(lead.name));
    case To::Stock:
        if (lead.list != 0) {
            desk_.navigator().showList(lead.list);
            return desk_.focus().selectSymbol(lead.name);
        }
        desk_.focus().selectSymbol(lead.name);
        return desk_.navigator().show(PlaceId::Weigh);
    case To::List:
        return desk_.navigator().showList(lead.list);
    case To::Screen:
        return openScreen(lead.name);
    case To::Alerts:
        return trigger(ActionId::ShowAlerts);
    case To::Agenda:
        desk_.navigator().show(PlaceId::Lists);
        return trigger(ActionId::ShowAgenda);
    }
}

void BriefView::openScreen(const std::string& name)
{
    const screens::Screen* screen = desk_.screenShelf().find(name);
    if (!screen)
        return;
    desk_.work().edit(tr("Choose another screen"),
                      [&](Work& work) { library::takeInHand(work, *screen); });
    desk_.navigator().show(PlaceId::Sift);
}

void BriefView::print()
{
    if (!brief_)
        return;
    QPrinter printer(QPrinter::HighResolution);
    printer.setResolution(dotsPerInch);
    printer.setDocName(text(briefing::titleOf(*brief_)));
    QPrintDialog dialog(&printer, this);
    if (dialog.exec() != QDialog::Accepted)
        return;
    QTextDocument document;
    fillForPaper(document, forPaper(*brief_));
    document.print(&printer);
}

void BriefView::save()
{
    if (!brief_)
        return;
    const QString path = QFileDialog::getSaveFileName(
        this, tr("Save the brief"), QStringLiteral("brief-%1.pdf").arg(text(brief_->day.iso())),
        tr("PDF (*.pdf);;HTML (*.html);;Text (*.txt)"));
    if (path.isEmpty())
        return;
    QString fault;
    if (path.endsWith(QLatin1String(".txt"), Qt::CaseInsensitive)) {
        QSaveFile file(path);
        if (file.open(QIODevice::WriteOnly))
            file.write(QByteArray::fromStdString(briefing::textOf(*brief_)));
        if (!file.commit())
            fault = file.errorString();
    } else {
        fault = savePage(path, forPaper(*brief_));
    }
    if (fault.isEmpty())
        Q_EMIT desk_.told(tr("The brief is saved in %1").arg(path));
    else
        Q_EMIT desk_.noticed(tr("The brief could not be saved in %1: %2").arg(path, fault));
}

} // namespace sieve::app
