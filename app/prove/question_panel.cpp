#include "app/prove/question_panel.h"

#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"

#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QSpinBox>
#include <QStyle>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr int leastWidth = 250;

} // namespace

QuestionPanel::QuestionPanel(const QString& title, QWidget* parent)
    : QFrame(parent), scroll_(new QScrollArea), fields_(new QGridLayout),
      ask_(new QPushButton(tr("&Ask")))
{
    auto* head = new QLabel(title);
    head->setFont(fontOf(Weight::SemiBold, 1.15));
    head->setWordWrap(true);
    auto* inside = new QWidget;
    auto* rows = new QVBoxLayout(inside); // keeps the fields together at the top
    rows->setContentsMargins(0, 0, 0, 0);
    rows->addLayout(fields_);
    rows->addStretch(1);
    shapeFields(*fields_);
    fields_->setContentsMargins(0, 0, 8, 0);
    scroll_->setWidget(inside);
    scroll_->setWidgetResizable(true);
    scroll_->setFrameShape(QFrame::NoFrame);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    ask_->setProperty("leading", true);
    ask_->setObjectName(QStringLiteral("ask"));
    connect(ask_, &QPushButton::clicked, this,
            [this] { isBusy_ ? Q_EMIT stopped() : Q_EMIT asked(); });
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    layout->addWidget(head);
    layout->addWidget(scroll_, 1);
    layout->addWidget(ask_);
    setMinimumWidth(leastWidth);
}

void QuestionPanel::showEvent(QShowEvent* event)
{
    QFrame::showEvent(event);
    const int bar = style()->pixelMetric(QStyle::PM_ScrollBarExtent);
    setMinimumWidth(std::max(leastWidth, scroll_->widget()->minimumSizeHint().width() + bar));
}

void QuestionPanel::addHead(const QString& head)
{
    auto* label = new QLabel(head);
    label->setFont(fontOf(Weight::SemiBold));
    const int row = fields_->rowCount();
    fields_->setRowMinimumHeight(row, 26);
    fields_->addWidget(label, row, 0, 1, 2, Qt::AlignBottom | Qt::AlignLeft);
}

void QuestionPanel::addField(const QString& label, QWidget* field, const QString& tip)
{
    addLabelled(*fields_, label, field, tip);
}

void QuestionPanel::addPair(const QString& label, QWidget* left, QWidget* right, const QString& tip)
{
    auto* both = new QWidget;
    auto* layout = new QHBoxLayout(both);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(6);
    layout->addWidget(left, 1);
    layout->addWidget(right, 1);
    left->setToolTip(tip);
    right->setToolTip(tip);
    addField(label, both, tip);
}

void QuestionPanel::addWide(QWidget* widget)
{
    fields_->addWidget(widget, fields_->rowCount(), 0, 1, 2);
}

void QuestionPanel::addAside(QDateEdit* box)
{
    addField(tr("Set aside"), box,
             tr("Choose the day before you try variants: what came before it and from it on is "
                "told apart, so that what was not looked at can test the idea"));
}

void QuestionPanel::addIdea(const QString& unnamed)
{
    idea_ = new QLineEdit;
    idea_->setAccessibleName(tr("Idea"));
    idea_->setPlaceholderText(unnamed);
    addField(tr("Idea"), idea_,
             tr("What you are trying, in a word. Each variant of it that is asked is counted: the "
                "best of many is good by luck alone."));
    connect(idea_, &QLineEdit::returnPressed, this, &QuestionPanel::asked);
}

QString QuestionPanel::idea() const
{
    return idea_ ? idea_->text().trimmed() : QString();
}

void QuestionPanel::setIdea(const QString& idea)
{
    if (idea_)
        idea_->setText(idea);
}

void QuestionPanel::setBusy(bool isBusy)
{
    isBusy_ = isBusy;
    ask_->setText(isBusy ? tr("&Stop") : tr("&Ask"));
}

void QuestionPanel::tellProgress(double fraction)
{
    if (isBusy_)
        ask_->setText(tr("&Stop (%1 %)").arg(static_cast<int>(100.0 * fraction)));
}

void shapeFields(QGridLayout& fields)
{
    fields.setContentsMargins(0, 0, 0, 0);
    fields.setHorizontalSpacing(8);
    fields.setVerticalSpacing(5);
    fields.setColumnStretch(1, 1);
}

void addLabelled(QGridLayout& fields, const QString& label, QWidget* field, const QString& tip)
{
    const int row = fields.rowCount();
    auto* name = new QLabel(label);
    setTone(name, Tone::Soft);
    name->setBuddy(field);
    name->setToolTip(tip);
    field->setToolTip(tip);
    field->setProperty("quiet", false); // a line of a form has a frame
    fields.addWidget(name, row, 0);
    fields.addWidget(field, row, 1);
}

QDoubleSpinBox* percentBox(const QString& name, double value, double most, const QString& none)
{
    auto* box = new QDoubleSpinBox;
    box->setAccessibleName(name);
    box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    box->setDecimals(2);
    box->setRange(0.0, most);
    box->setValue(100.0 * value);
    box->setSuffix(QStringLiteral(" %"));
    box->setSpecialValueText(none);
    return box;
}

QSpinBox* countBox(const QString& name, int value, int least, int most, const QString& suffix,
                   const QString& none)
{
    auto* box = new QSpinBox;
    box->setAccessibleName(name);
    box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    box->setRange(least, most);
    box->setValue(value);
    box->setSuffix(suffix);
    box->setSpecialValueText(none);
    return box;
}

QDateEdit* dayBox(const QString& name)
{
    auto* box = new QDateEdit;
    box->setAccessibleName(name);
    box->setCalendarPopup(true);
    box->setDisplayFormat(QStringLiteral("d MMM yyyy"));
    box->setLocale(QLocale::c());
    return box;
}

void offerDays(QDateEdit* from, QDateEdit* to, const market::Market& market)
{
    const QDate first = dateOf(market.sessions().front());
    const QDate last = dateOf(market.sessions().back());
    const bool isOther = from->minimumDate() != first || to->maximumDate() != last;
    for (QDateEdit* box : {from, to})
        box->setDateRange(first, last);
    if (!isOther)
        return;
    from->setDate(first);
    to->setDate(last);
}

QDateEdit* asideBox()
{
    QDateEdit* box = dayBox(QuestionPanel::tr("Set aside from"));
    box->setSpecialValueText(QuestionPanel::tr("nothing"));
    return box;
}

void offerAside(QDateEdit* box, const market::Market& market)
{
    const QDate first = dateOf(market.sessions().front());
    const bool isOther = box->minimumDate() != first;
    box->setDateRange(first, dateOf(market.sessions().back()));
    if (isOther)
        box->setDate(first);
}

std::optional<Day> asideOf(const QDateEdit* box)
{
    return box->date() == box->minimumDate() ? std::nullopt : std::optional(dayOf(box->date()));
}

void chooseAside(QDateEdit* box, std::optional<Day> day)
{
    box->setDate(day ? std::clamp(dateOf(*day), box->minimumDate(), box->maximumDate())
                     : box->minimumDate());
}

QString cautionsText(const std::vector<studies::Caution>& cautions)
{
    QStringList lines;
    for (const studies::Caution& each : cautions)
        lines << QStringLiteral("⚠ ") + text(each.words);
    return lines.join(QLatin1Char('\n'));
}

} // namespace sieve::app
