#include "app/weigh/dossier.h"

#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <array>

namespace sieve::app {

namespace {

struct Group {
    const char* title;
    std::size_t count; ///< of the fields that follow
};

const std::array<std::string, 24> shownFields{"close",
                                              "day_change",
                                              "month_change",
                                              "distance_from_high",
                                              "rsi_14",
                                              "atr_percent",
                                              "strength_126",
                                              "average_traded_value",
                                              "market_cap",
                                              "price_to_earnings",
                                              "price_to_sales",
                                              "price_to_book",
                                              "dividend_yield",
                                              "earnings_yield",
                                              "eps_ttm",
                                              "eps_growth",
                                              "eps_growth_quarter",
                                              "revenue_growth",
                                              "gross_margin",
                                              "operating_margin",
                                              "net_margin",
                                              "return_on_equity",
                                              "debt_to_equity",
                                              "current_ratio"};
constexpr std::array groups{Group{QT_TRANSLATE_NOOP("Dossier", "Price and trade"), 8},
                            Group{QT_TRANSLATE_NOOP("Dossier", "Value"), 6},
                            Group{QT_TRANSLATE_NOOP("Dossier", "Results"), 8},
                            Group{QT_TRANSLATE_NOOP("Dossier", "Balance"), 2}};

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

std::span<const std::string> Dossier::fields()
{
    return shownFields;
}

Dossier::Dossier(QWidget* parent)
    : QWidget(parent), symbol_(new QLabel), name_(new QLabel), group_(new QLabel),
      mark_(new QLabel), onLists_(new QLabel), about_(new QLabel), reason_(new QLineEdit),
      list_(new QComboBox), figures_(new QGridLayout)
{
    setObjectName(QStringLiteral("sheet"));
    setAttribute(Qt::WA_StyledBackground);
    symbol_->setFont(fontOf(Weight::SemiBold, 1.5));
    name_->setFont(fontOf(Weight::Medium, 1.08));
    for (QLabel* label : {group_, about_, onLists_}) {
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

    int row = 0;
    std::size_t field = 0;
    figures_->setHorizontalSpacing(10);
    figures_->setVerticalSpacing(3);
    figures_->setColumnStretch(0, 1);
    for (const Group& group : groups) {
        auto* title = new QLabel(tr(group.title));
        title->setFont(fontOf(Weight::SemiBold));
        title->setContentsMargins(0, row == 0 ? 0 : 8, 0, 0);
        figures_->addWidget(title, row++, 0, 1, 2);
        for (std::size_t i = 0; i < group.count; ++i, ++field, ++row) {
            auto* label = new QLabel;
            setTone(label, Tone::Soft);
            auto* value = new QLabel;
            value->setAlignment(Qt::AlignRight);
            figures_->addWidget(label, row, 0);
            figures_->addWidget(value, row, 1);
            values_.push_back(label);
            values_.push_back(value);
        }
    }

    auto* content = new QWidget;
    auto* column = new QVBoxLayout(content);
    column->setContentsMargins(14, 4, 14, 12);
    column->addLayout(figures_);
    column->addSpacing(8);
    column->addWidget(about_);
    column->addStretch(1);
    auto* scroll = new QScrollArea;
    scroll->setWidget(content);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);

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
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(1, 1, 1, 1);
    layout->setSpacing(0);
    layout->addLayout(top);
    layout->addWidget(scroll, 1);

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
    QString about = text(instrument.about);
    if (instrument.listedOn)
        about += tr(" Listed on %1.").arg(shortDayText(*instrument.listedOn));
    about_->setText(about.trimmed());
}

void Dossier::setFigures(const screens::ResultTable& figures, const market::TextTable& texts)
{
    for (std::size_t i = 0; i < figures.columns.size() && 2 * i + 1 < values_.size(); ++i) {
        const screens::TableColumn& column = figures.columns[i];
        const double value = column.figures.empty() ? missing : column.figures[0];
        QLabel* label = values_[2 * i];
        QLabel* shown = values_[2 * i + 1];
        label->setText(text(column.title));
        label->setToolTip(text(column.meaning));
        shown->setText(valueText(value, column.kind, column.unit, column.decimals, texts));
        shown->setToolTip({});
        if (!column.inMarket.empty() && !isMissing(value) && !figures.otherCurrencies[0].empty()) {
            const std::string& currency = figures.otherCurrencies[0];
            shown->setText(otherMoneyText(value, column.decimals, currency));
            shown->setToolTip(exchangedText(value, column.inMarket[0], column.decimals, currency,
                                            figures.currency));
        }
        const bool isFall = column.unit == Unit::Percent && value < 0.0;
        setTone(shown, isMissing(value) ? Tone::Soft : isFall ? Tone::Fall : Tone::Ink);
    }
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
