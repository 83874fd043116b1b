#include "app/weigh/dossier.h"

#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"
#include "app/weigh/dossier_page.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidgetAction>
#include <algorithm>
#include <array>

namespace sieve::app {

namespace {

QString markText(watchlists::Mark mark)
{
    switch (mark) {
    case watchlists::Mark::Open:
        return Dossier::tr("undecided");
    case watchlists::Mark::Kept:
        return Dossier::tr("✓ kept");
    case watchlists::Mark::Dropped:
        return Dossier::tr("✗ dropped");
    case watchlists::Mark::Later:
        return Dossier::tr("… later");
    }
    return {};
}

QPushButton* decisionButton(ActionId id)
{
    auto* button =
        new QPushButton(QStringLiteral("%1  %2").arg(plainTitleOf(id), keysOf(id)[0].toString()));
    button->setToolTip(tipOf(id));
    button->setFocusPolicy(Qt::NoFocus); // the keys stay with the place
    return button;
}

} // namespace

Dossier::Dossier(QWidget* blend, QWidget* parent)
    : QWidget(parent), symbol_(new QLabel), name_(new QLabel), group_(new QLabel),
      followed_(new QLabel), mark_(new QLabel), onLists_(new QLabel), reason_(new QLineEdit),
      list_(new QComboBox), figures_(new QComboBox), byYear_(new QToolButton),
      perShare_(new QToolButton), model_(new QToolButton), years_(new QDoubleSpinBox),
      discount_(new QDoubleSpinBox), lasting_(new QDoubleSpinBox), account_(new QDoubleSpinBox),
      risk_(new QDoubleSpinBox), page_(new DossierPage), scroll_(new QScrollArea)
{
    setObjectName(QStringLiteral("sheet"));
    setAttribute(Qt::WA_StyledBackground);
    symbol_->setFont(fontOf(Weight::SemiBold, 1.5));
    name_->setFont(fontOf(Weight::Medium, 1.08));
    for (QLabel* label : {group_, onLists_}) {
        setTone(label, Tone::Soft);
        label->setWordWrap(true);
    }
    mark_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    mark_->setFont(fontOf(Weight::Medium));
    reason_->setPlaceholderText(
        tr("Reason, or what to wait for (%1)").arg(keysOf(ActionId::GiveReason)[0].toString()));
    reason_->setAccessibleName(tr("Reason"));
    list_->setAccessibleName(tr("Watchlist that takes what is kept"));
    list_->setFocusPolicy(Qt::ClickFocus);

    auto* head = new QHBoxLayout;
    head->addWidget(symbol_);
    followed_->setText(tr("followed"));
    setTone(followed_, Tone::Soft);
    followed_->hide();
    head->addWidget(followed_);
    head->addWidget(mark_, 1);
    auto* decisions = new QHBoxLayout;
    decisions->setSpacing(6);
    const std::array marks{std::pair(ActionId::Keep, watchlists::Mark::Kept),
                           std::pair(ActionId::Drop, watchlists::Mark::Dropped),
                           std::pair(ActionId::Later, watchlists::Mark::Later)};
    for (const auto& [id, mark] : marks) {
        QPushButton* button = decisionButton(id);
        button->setProperty("leading", mark == watchlists::Mark::Kept);
        decisions->addWidget(button, 1);
        connect(button, &QPushButton::clicked, this, [this, mark = mark] { Q_EMIT decided(mark); });
    }
    auto* onto = new QHBoxLayout;
    auto* ontoLabel = new QLabel(tr("onto"));
    setTone(ontoLabel, Tone::Soft);
    onto->addWidget(ontoLabel);
    onto->addWidget(list_, 1);

    scroll_->setWidget(page_);
    scroll_->setWidgetResizable(true);
    scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll_->setFocusPolicy(Qt::NoFocus);
    connect(page_, &DossierPage::rowChosen, this, [this](const QRect& place) {
        scroll_->ensureVisible(place.center().x(), place.center().y(), 0, 60);
    });

    auto* top = new QVBoxLayout;
    top->setContentsMargins(14, 10, 14, 6);
    top->setSpacing(5);
    top->addLayout(head);
    top->addWidget(name_);
    top->addWidget(group_);
    top->addSpacing(4);
    top->addWidget(reason_);
    top->addLayout(decisions);
    top->addLayout(onto);
    top->addWidget(onLists_);
    top->addLayout(makeJumps());
    top->addLayout(makeOptions(blend));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(1, 1, 1, 1);
    layout->setSpacing(0);
    layout->addLayout(top);
    layout->addWidget(scroll_, 1);

    connect(reason_, &QLineEdit::editingFinished, this, [this] {
        if (!reason_->isModified())
            return;
        reason_->setModified(false);
        Q_EMIT reasonGiven(reason_->text().trimmed());
    });
    connect(reason_, &QLineEdit::returnPressed, this, &Dossier::reasonLeft);
    connect(list_, &QComboBox::activated, this, &Dossier::listChosen);
}

void Dossier::setInstrument(const market::Instrument& instrument)
{
    symbol_->setText(text(instrument.symbol));
    name_->setText(text(instrument.name));
    QStringList parts{text(instrument.exchange)};
    for (const std::string& part : {instrument.sector, instrument.industry})
        if (!part.empty())
            parts << text(part);
    if (instrument.kind != market::InstrumentKind::Share)
        parts << text(market::instrumentKindName(instrument.kind));
    group_->setText(parts.join(QStringLiteral(" · ")));
}

/// A word for each part, which leads to it.
QLayout* Dossier::makeJumps()
{
    auto* words = new QGridLayout;
    words->setSpacing(2);
    const std::vector<std::string> keys = dossier::partKeys();
    constexpr int aRow = 4;
    for (int i = 0; i < static_cast<int>(keys.size()); ++i) {
        const std::string& key = keys[static_cast<std::size_t>(i)];
        auto* word = new QToolButton;
        word->setText(text(key).replace(0, 1, text(key).at(0).toUpper()));
        word->setAutoRaise(true);
        word->setFocusPolicy(Qt::NoFocus);
        word->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
        connect(word, &QToolButton::clicked, this, [this, key] { jumpTo(key); });
        words->addWidget(word, i / aRow, i % aRow);
    }
    return words;
}

/// What is shown: which figures, by year or quarter, a share or whole, by which model.
QLayout* Dossier::makeOptions(QWidget* blend)
{
    figures_->setAccessibleName(tr("Set of columns that is shown as figures"));
    figures_->setToolTip(tr("Which figures are shown first: one of your sets of columns"));
    figures_->setFocusPolicy(Qt::ClickFocus);
    // The names of sets are long: they make no window wider.
    figures_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    figures_->setMinimumContentsLength(8);
    setColumnSets({});
    connect(figures_, &QComboBox::currentIndexChanged, this, &Dossier::choicesChanged);
    connect(figures_, &QComboBox::activated, this, [this](int at) {
        figuresNamed_ = at == 0 ? QString() : figures_->itemText(at);
        Q_EMIT figuresChosen(figuresNamed_);
    });
    byYear_->setText(tr("Years"));
    byYear_->setToolTip(tr("Results by year instead of by quarter"));
    remember(byYear_, "weigh.by_year");
    perShare_->setText(tr("Per share"));
    perShare_->setToolTip(tr("Results divided by the shares there were"));
    remember(perShare_, "weigh.per_share");
    for (QToolButton* button : {byYear_, perShare_}) {
        button->setCheckable(true);
        button->setFocusPolicy(Qt::NoFocus);
    }
    connect(byYear_, &QToolButton::toggled, this,
            [this](bool isByYear) { page_->setByYear(isByYear); });
    connect(perShare_, &QToolButton::toggled, this, &Dossier::choicesChanged);
    model_->setText(tr("Terms"));
    model_->setToolTip(tr(
        "By which model the growth that the price assumes is told, what a plan may lose, and how "
        "the sides of your own score count"));
    model_->setFocusPolicy(Qt::NoFocus);
    model_->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(model_);
    auto* held = new QWidgetAction(menu);
    held->setDefaultWidget(makeModel(blend));
    menu->addAction(held);
    model_->setMenu(menu);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    row->addWidget(figures_, 1);
    for (QToolButton* button : {byYear_, perShare_, model_})
        row->addWidget(button);
    return row;
}

QWidget* Dossier::makeModel(QWidget* blend)
{
    auto* sheet = new QWidget;
    auto* form = new QFormLayout(sheet);
    const dossier::DiscountModel standard;
    const auto add = [&](QDoubleSpinBox* box, const QString& title, double least, double most,
                         double step, double value, const QString& unit, const char* key) {
        if (key)
            remember(box, key);
        box->setButtonSymbols(QAbstractSpinBox::NoButtons); // the keys step it
        box->setRange(least, most);
        box->setSingleStep(step);
        box->setDecimals(step < 1.0 ? 1 : 0);
        box->setValue(value);
        box->setSuffix(unit);
        box->setAccessibleName(title);
        form->addRow(title, box);
        if (key)
            connect(box, &QDoubleSpinBox::valueChanged, this, &Dossier::choicesChanged);
    };
    const QString percent = QStringLiteral(" %");
    add(years_, tr("Years of growth"), 1.0, 100.0, 1.0, standard.years, {}, "weigh.model_years");
    add(discount_, tr("Discount a year"), 0.5, 100.0, 0.5, 100.0 * standard.discount, percent,
        "weigh.model_discount");
    add(lasting_, tr("Growth after that, a year"), -20.0, 20.0, 0.5, 100.0 * standard.lasting,
        percent, "weigh.model_lasting");
    const watchlists::PlanTerms plan; // part of the person's work, not of the window's
    add(account_, tr("Account"), 100.0, 1e10, 1000.0, plan.account, {}, nullptr);
    add(risk_, tr("Share of it lost at a stop"), 0.1, 100.0, 0.1, 100.0 * plan.risk, percent,
        nullptr);
    for (QDoubleSpinBox* box : {account_, risk_})
        connect(box, &QDoubleSpinBox::valueChanged, this, [this] {
            Q_EMIT termsChosen({account_->value(), risk_->value() / 100.0});
        });
    form->addRow(tr("Sides of the score"), blend);
    return sheet;
}

void Dossier::setTerms(const watchlists::PlanTerms& terms)
{
    const QSignalBlocker blockers[] = {QSignalBlocker(account_), QSignalBlocker(risk_)};
    account_->setValue(terms.account);
    risk_->setValue(100.0 * terms.risk);
}

void Dossier::setColumnSets(std::span<const screens::ColumnSet> sets)
{
    const QSignalBlocker blocker(figures_);
    sets_.assign(sets.begin(), sets.end());
    figures_->clear();
    figures_->addItem(tr("Usual figures"));
    for (const screens::ColumnSet& set : sets_)
        figures_->addItem(text(set.name));
    figures_->setCurrentIndex(std::max(0, figures_->findText(figuresNamed_)));
}

void Dossier::chooseFigures(const QString& set)
{
    figuresNamed_ = set;
    figures_->setCurrentIndex(std::max(0, figures_->findText(set)));
}

dossier::Choices Dossier::choices() const
{
    dossier::Choices choices;
    const int set = figures_->currentIndex() - 1;
    if (set >= 0)
        choices.figures = sets_[static_cast<std::size_t>(set)].columns;
    choices.isPerShare = perShare_->isChecked();
    // Growing for ever as fast as it is discounted, anything would be worth without end.
    choices.model = {years_->value(), discount_->value() / 100.0,
                     std::min(lasting_->value(), discount_->value() - 0.5) / 100.0};
    choices.plan = {account_->value(), risk_->value() / 100.0};
    return choices;
}

void Dossier::setDossier(std::shared_ptr<const dossier::Dossier> dossier, market::MarketPtr market)
{
    page_->show(std::move(dossier), std::move(market));
}

void Dossier::jumpTo(std::string_view part)
{
    if (const auto top = page_->topOf(part))
        scroll_->verticalScrollBar()->setValue(*top);
}

void Dossier::jump(int by)
{
    const std::vector<std::string> keys = dossier::partKeys();
    const std::string now = utf8(page_->partAt(scroll_->verticalScrollBar()->value()));
    const auto at = std::ranges::find(keys, now) - keys.begin() + by;
    if (at >= 0 && at < std::ssize(keys))
        jumpTo(keys[static_cast<std::size_t>(at)]);
}

void Dossier::setDecision(const std::optional<watchlists::Card>& card)
{
    mark_->setText(card ? markText(card->mark) : tr("not in hand"));
    const bool isKept = card && card->mark == watchlists::Mark::Kept;
    setTone(mark_, isKept ? Tone::Mark : Tone::Soft);
}

void Dossier::setOnLists(const QString& onLists)
{
    onLists_->setText(onLists);
    onLists_->setVisible(!onLists.isEmpty());
}

void Dossier::setLists(std::span<const Shared<watchlists::Watchlist>> lists)
{
    const QVariant former = list_->currentData();
    list_->clear();
    int number = 1;
    for (const auto& list : lists) {
        list_->addItem(number <= 9 ? QStringLiteral("%1  %2").arg(number).arg(text(list->name))
                                   : text(list->name),
                       static_cast<qlonglong>(list->id));
        ++number;
    }
    if (lists.empty())
        list_->addItem(tr("a new list, “To watch”"));
    list_->setCurrentIndex(std::max(0, list_->findData(former)));
}

void Dossier::setFollowed(bool isFollowed)
{
    followed_->setVisible(isFollowed);
}

bool Dossier::isByYear() const
{
    return byYear_->isChecked();
}

void Dossier::setReason(const QString& reason)
{
    reason_->setText(reason);
}

QString Dossier::reason() const
{
    return reason_->text().trimmed();
}

std::optional<std::int64_t> Dossier::chosenList() const
{
    const QVariant chosen = list_->currentData();
    return chosen.isValid() ? std::optional<std::int64_t>(chosen.toLongLong()) : std::nullopt;
}

bool Dossier::takeTypedReason()
{
    const bool isTyped = reason_->isModified();
    reason_->setModified(false);
    return isTyped;
}

void Dossier::focusReason()
{
    reason_->setFocus();
    reason_->selectAll();
}

} // namespace sieve::app
