#include "app/desk/alert_dialog.h"

#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QLabel>
#include <QSpinBox>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

using watchlists::Alert;

namespace {

constexpr qlonglong oneStock = -1;
constexpr qlonglong allLists = 0;

} // namespace

AlertDialog::AlertDialog(const library::Work& work, const Alert& alert, Asked asked,
                         QWidget* parent)
    : QDialog(parent), alert_(alert), asked_(std::move(asked)), form_(new QFormLayout),
      what_(new QComboBox), about_(new QComboBox), symbol_(new QLineEdit),
      level_(new QDoubleSpinBox), rule_(new ExpressionEdit), marketRule_(new QComboBox),
      days_(new QSpinBox), repeat_(new QComboBox), holdOff_(new QSpinBox), words_(new QLineEdit),
      fault_(new QLabel)
{
    setWindowTitle(alert.id == 0 ? tr("New alert") : tr("Alert"));
    const std::pair<Alert::What, QString> kinds[] = {
        {Alert::What::Level, tr("a price reaches a level")},
        {Alert::What::Rule, tr("a condition comes true")},
        {Alert::What::State, tr("a plan comes into another state")},
        {Alert::What::Change, tr("somebody comes to a list or goes")},
        {Alert::What::Report, tr("a report is near")},
        {Alert::What::Review, tr("a day of review is there")},
        {Alert::What::Market, tr("a rule of the market turns")},
    };
    for (const auto& [kind, title] : kinds)
        what_->addItem(title, static_cast<int>(kind));
    what_->setCurrentIndex(what_->findData(static_cast<int>(alert.what)));
    about_->addItem(tr("one stock"), oneStock);
    about_->addItem(tr("every stock on your lists"), allLists);
    for (const auto& list : work.lists)
        if (!list->head.isArchived || list->id == alert.about.list)
            about_->addItem(tr("every stock on “%1”").arg(text(list->name)),
                            static_cast<qlonglong>(list->id));
    about_->setCurrentIndex(std::max(about_->findData(alert.about.symbol.empty()
                                                          ? static_cast<qlonglong>(alert.about.list)
                                                          : oneStock),
                                     0));
    symbol_->setText(text(alert.about.symbol));
    level_->setRange(0.0, 1e9);
    level_->setDecimals(isMissing(alert.level) || alert.level >= 1.0 ? 2 : 4);
    level_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    level_->setValue(isMissing(alert.level) ? 0.0 : alert.level);
    rule_->setProperty("quiet", false);
    rule_->setPlaceholderText(tr("such as rsi(close, 14) < 30 or close > drawing(\"pivot\")"));
    if (alert.what == Alert::What::Rule)
        rule_->setText(text(alert.rule));
    marketRule_->addItem(tr("any of them"), QString());
    for (const conditions::TimingRule& rule : work.marketBook->rules)
        marketRule_->addItem(text(rule.title), text(rule.title));
    if (alert.what == Alert::What::Market)
        marketRule_->setCurrentIndex(std::max(marketRule_->findData(text(alert.rule)), 0));
    for (QSpinBox* box : {days_, holdOff_})
        box->setButtonSymbols(QAbstractSpinBox::NoButtons); // the keys step it
    days_->setRange(0, 250);
    days_->setValue(alert.days);
    days_->setSuffix(tr(" weekdays ahead"));
    repeat_->addItem(tr("once"), static_cast<int>(Alert::Repeat::Once));
    repeat_->addItem(tr("each time that it comes true"),
                     static_cast<int>(Alert::Repeat::EachCrossing));
    repeat_->addItem(tr("once a day, as long as it is true"),
                     static_cast<int>(Alert::Repeat::OnceADay));
    repeat_->setCurrentIndex(repeat_->findData(static_cast<int>(alert.repeat)));
    holdOff_->setRange(0, 1000);
    holdOff_->setValue(alert.holdOff);
    holdOff_->setSpecialValueText(tr("not at all"));
    holdOff_->setSuffix(tr(" sessions after it was told"));
    words_->setText(text(alert.words));
    words_->setPlaceholderText(tr("what to think of then"));
    const auto add = [&](const QString& title, QWidget* line) {
        line->setAccessibleName(QString(title).remove(u'&'));
        form_->addRow(title, line);
    };
    add(tr("&When"), what_);
    add(tr("&Of"), about_);
    add(tr("&Symbol"), symbol_);
    add(tr("&Level"), level_);
    add(tr("&Condition"), rule_);
    add(tr("&Rule"), marketRule_);
    add(tr("&Report"), days_);
    add(tr("&Told"), repeat_);
    add(tr("&Held off"), holdOff_);
    add(tr("&Note"), words_);
    fault_->setWordWrap(true);
    setTone(fault_, Tone::Caution);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(what_, &QComboBox::currentIndexChanged, this, &AlertDialog::arrange);
    connect(about_, &QComboBox::currentIndexChanged, this, &AlertDialog::arrange);
    connect(rule_, &QLineEdit::textEdited, this, [this](const QString& typed) {
        rule_->setFault(typed.trimmed().isEmpty() ? std::nullopt : asked_.fault(typed));
    });
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(form_);
    layout->addWidget(fault_);
    layout->addWidget(buttons);
    resize(520, sizeHint().height());
    arrange();
}

/// Only what the kind has a use for is shown.
void AlertDialog::arrange()
{
    const auto what = static_cast<Alert::What>(what_->currentData().toInt());
    const bool isOfStocks = what != Alert::What::Market;
    const bool isOneStock = isOfStocks && about_->currentData().toLongLong() == oneStock;
    if (what == Alert::What::Level && !isOneStock)
        return about_->setCurrentIndex(0);
    const bool needsLists =
        what == Alert::What::State || what == Alert::What::Change || what == Alert::What::Review;
    if (needsLists && isOneStock)
        return about_->setCurrentIndex(what == Alert::What::Change && about_->count() > 2 ? 2 : 1);
    form_->setRowVisible(about_, isOfStocks && what != Alert::What::Level);
    form_->setRowVisible(symbol_, isOneStock);
    form_->setRowVisible(level_, what == Alert::What::Level);
    form_->setRowVisible(rule_, what == Alert::What::Rule);
    form_->setRowVisible(marketRule_, what == Alert::What::Market);
    form_->setRowVisible(days_, what == Alert::What::Report);
    adjustSize();
    resize(520, sizeHint().height());
}

/// As it is typed, or in capitals where the market has it so.
QString AlertDialog::symbolMeant() const
{
    const QString typed = symbol_->text().trimmed();
    return asked_.isStock(typed) ? typed : typed.toUpper();
}

Alert AlertDialog::alert() const
{
    Alert alert = alert_;
    alert.what = static_cast<Alert::What>(what_->currentData().toInt());
    const qlonglong about = about_->currentData().toLongLong();
    alert.about = {};
    if (alert.what != Alert::What::Market && about == oneStock)
        alert.about.symbol = utf8(symbolMeant());
    else if (alert.what != Alert::What::Market)
        alert.about.list = about;
    alert.level = alert.what == Alert::What::Level ? level_->value() : missing;
    alert.rule = alert.what == Alert::What::Rule     ? utf8(rule_->text().trimmed())
                 : alert.what == Alert::What::Market ? utf8(marketRule_->currentData().toString())
                                                     : std::string();
    alert.days = alert.what == Alert::What::Report ? days_->value() : 0;
    alert.repeat = static_cast<Alert::Repeat>(repeat_->currentData().toInt());
    alert.holdOff = holdOff_->value();
    alert.words = utf8(words_->text().trimmed());
    return alert;
}

QString AlertDialog::fault() const
{
    const Alert alert = this->alert();
    if (!alert.about.symbol.empty() && !asked_.isStock(text(alert.about.symbol)))
        return tr("This market has no stock “%1”.").arg(text(alert.about.symbol));
    if (const std::string why = watchlists::faultOf(alert); !why.empty())
        return text(why);
    if (about_->currentData().toLongLong() == oneStock && alert.about.symbol.empty() &&
        alert.what != Alert::What::Market)
        return tr("Which stock? Write its symbol.");
    if (alert.what == Alert::What::Rule)
        if (const auto error = asked_.fault(text(alert.rule)))
            return text(sentence(*error));
    return {};
}

void AlertDialog::accept()
{
    const QString why = fault();
    fault_->setText(why);
    if (why.isEmpty())
        QDialog::accept();
}

} // namespace sieve::app
