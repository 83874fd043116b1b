#include "app/sift/criterion_finder.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/sift/spread_strip.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QScrollBar>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

constexpr const char* recentCriteriaKey = "sift.recent_criteria";
constexpr std::size_t mostRecent = 12;

QString whatText(screens::Offer::What what)
{
    using What = screens::Offer::What;
    switch (what) {
    case What::Condition:
        return CriterionFinder::tr("as typed");
    case What::Phrase:
        return CriterionFinder::tr("phrase");
    case What::Field:
        return CriterionFinder::tr("field");
    case What::Function:
        return CriterionFinder::tr("function");
    case What::Screen:
        return CriterionFinder::tr("screen");
    case What::Checklist:
        return CriterionFinder::tr("checklist");
    case What::List:
        break;
    }
    return CriterionFinder::tr("list");
}

} // namespace

CriterionFinder::CriterionFinder(Desk& desk, QLineEdit* line,
                                 std::function<screens::Screen()> screen)
    : QFrame(line->window()), desk_(desk), line_(line), screen_(std::move(screen)), asker_(this),
      fieldAsker_(this), list_(new QListWidget), title_(new QLabel), meaning_(new QLabel),
      spread_(new SpreadStrip), figures_(new QLabel)
{
    setObjectName(QStringLiteral("finder"));
    setAttribute(Qt::WA_StyledBackground);
    list_->setFocusPolicy(Qt::NoFocus);
    list_->setAccessibleName(tr("Criteria found"));
    title_->setFont(fontOf(Weight::SemiBold));
    title_->setWordWrap(true);
    meaning_->setWordWrap(true);
    meaning_->setTextFormat(Qt::PlainText);
    setTone(figures_, Tone::Soft);
    figures_->setWordWrap(true);
    spread_->setMinimumHeight(44);
    auto* details = new QVBoxLayout;
    details->addWidget(title_);
    details->addWidget(meaning_);
    details->addWidget(spread_);
    details->addWidget(figures_);
    details->addStretch(1);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 8);
    layout->setSpacing(12);
    layout->addWidget(list_, 5);
    layout->addLayout(details, 4);
    line_->installEventFilter(this);
    for (const Asker* asker : {&asker_, &fieldAsker_})
        connect(asker, &Asker::failed, &desk_, &Desk::noticed);
    connect(line_, &QLineEdit::textEdited, this, &CriterionFinder::open);
    connect(list_, &QListWidget::currentRowChanged, this, &CriterionFinder::choose);
    connect(list_, &QListWidget::itemClicked, this, &CriterionFinder::useChosen);
    hide();
}

/// Texts that were taken lately, the newest first.
std::vector<std::string> CriterionFinder::recent() const
{
    std::vector<std::string> all;
    for (const QString& each :
         text(desk_.settings().value(recentCriteriaKey)).split(u'\n', Qt::SkipEmptyParts))
        all.push_back(utf8(each));
    return all;
}

void CriterionFinder::open()
{
    if (!desk_.market().isOpen() || !isPlainWords(line_->text()))
        return hide(); // an expression is completed word by word
    asker_.ask([words = utf8(line_->text()), book = desk_.work().nameBook(),
                recent = recent()](const Progress&) { return offersFor(words, *book, recent); },
               [this](std::vector<screens::Offer> offers) { show(std::move(offers)); });
}

void CriterionFinder::show(std::vector<screens::Offer> offers)
{
    offers_ = std::move(offers);
    {
        const QSignalBlocker quiet(list_);
        list_->clear();
        for (const screens::Offer& offer : offers_) {
            auto* item = new QListWidgetItem(
                QStringLiteral("%1   %2").arg(text(offer.title), whatText(offer.what)), list_);
            item->setToolTip(text(offer.text));
        }
        list_->setCurrentRow(offers_.empty() ? -1 : 0);
    }
    if (offers_.empty() || !line_->hasFocus())
        return hide();
    place();
    QFrame::show();
    raise();
    choose();
}

/// Over the stack, above the line or below it, wherever there is more room.
void CriterionFinder::place()
{
    QWidget* window = line_->window();
    setParent(window);
    const QPoint at = line_->mapTo(window, QPoint(0, 0));
    const int below = window->height() - at.y() - line_->height() - 8;
    const int wanted = 330;
    const bool isBelow = below >= wanted || below > at.y();
    const int high = std::min(wanted, (isBelow ? below : at.y()) - 8);
    const int wide = std::min(720, window->width() - at.x() - 16);
    setGeometry(at.x(), isBelow ? at.y() + line_->height() + 2 : at.y() - high - 2, wide, high);
}

void CriterionFinder::choose()
{
    const int row = list_->currentRow();
    if (row < 0 || row >= static_cast<int>(offers_.size()))
        return;
    const screens::Offer& offer = offers_[static_cast<std::size_t>(row)];
    today_.reset();
    isTakenWhenKnown_ = false;
    describe(offer, std::nullopt);
    if (offer.what != screens::Offer::What::Field)
        return fieldAsker_.stop();
    fieldAsker_.ask(
        [field = offer.text, screen = screen_(), book = desk_.work().nameBook(),
         evaluator = desk_.market().evaluator(),
         day = desk_.focus().day()](const Progress& progress) {
            return fieldToday(field, screen, book->names(), *evaluator, day, progress);
        },
        [this, offer](std::optional<screens::FieldToday> today) {
            today_ = std::move(today);
            describe(offer, today_);
            if (isTakenWhenKnown_)
                useChosen();
        });
}

void CriterionFinder::describe(const screens::Offer& offer,
                               const std::optional<screens::FieldToday>& today)
{
    title_->setText(text(offer.title));
    const bool isField = offer.what == screens::Offer::What::Field;
    const auto book = isField ? desk_.work().nameBook() : nullptr; // keeps the field alive
    const language::Field* field = isField ? book->names().vocabulary.field(offer.text) : nullptr;
    QStringList said;
    if (!offer.meaning.empty())
        said << text(offer.meaning);
    if (field && !field->formula.empty())
        said << tr("Formula: %1").arg(text(field->formula));
    if (!field && offer.text != offer.title)
        said << text(offer.text);
    meaning_->setText(said.join(u'\n'));
    spread_->show(today ? today->spread : screens::Distribution(), {},
                  today ? today->unit : Unit::Plain);
    if (!today)
        return figures_->setText(field ? tr("…") : QString());
    QStringList figures;
    if (today->stocks == 0)
        figures << tr("No stock passes the screen as it stands");
    else
        figures
            << tr("Known of %1 of the %2 stocks that pass").arg(today->known).arg(today->stocks);
    if (!isMissing(today->median))
        figures << tr("median %1").arg(numberText(today->median, today->unit, 2));
    if (!today->criterion.empty())
        figures << tr("Return adds: %1").arg(text(today->criterion));
    figures_->setText(figures.join(u'\n'));
}

void CriterionFinder::useChosen()
{
    const int row = list_->currentRow();
    if (row < 0 || row >= static_cast<int>(offers_.size()))
        return;
    const screens::Offer offer = offers_[static_cast<std::size_t>(row)];
    switch (offer.what) {
    case screens::Offer::What::Function: // to go on with
        line_->setText(text(offer.text.substr(0, offer.text.find('(') + 1)));
        return hide();
    case screens::Offer::What::Field:
        if (!today_ && fieldAsker_.isBusy()) {
            isTakenWhenKnown_ = true;
            return;
        }
        return useText(today_ && !today_->criterion.empty() ? today_->criterion
                                                            : "known(" + offer.text + ")",
                       offer.text);
    default:
        return useText(offer.text, offer.text);
    }
}

void CriterionFinder::useText(const std::string& condition, const std::string& used)
{
    std::vector<std::string> all = recent();
    std::erase(all, used);
    all.insert(all.begin(), used);
    all.resize(std::min(all.size(), mostRecent));
    QStringList kept;
    for (const std::string& each : all)
        kept << text(each);
    desk_.settings().set(recentCriteriaKey, utf8(kept.join(u'\n')));
    hide();
    Q_EMIT criterionTaken(text(condition));
}

bool CriterionFinder::eventFilter(QObject* watched, QEvent* event)
{
    if (watched == line_ && event->type() == QEvent::FocusOut)
        hide();
    if (watched != line_ || event->type() != QEvent::KeyPress)
        return QFrame::eventFilter(watched, event);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (!isVisible()) {
        if (key == Qt::Key_Down && line_->text().isEmpty()) {
            open(); // what was used lately, and the phrases
            return true;
        }
        return QFrame::eventFilter(watched, event);
    }
    switch (key) {
    case Qt::Key_Up:
    case Qt::Key_Down:
        list_->setCurrentRow(
            std::clamp(list_->currentRow() + (key == Qt::Key_Up ? -1 : 1), 0, list_->count() - 1));
        return true;
    case Qt::Key_Return:
    case Qt::Key_Enter:
        useChosen();
        return true;
    case Qt::Key_Escape:
        hide();
        return true;
    default:
        return QFrame::eventFilter(watched, event);
    }
}

} // namespace sieve::app
