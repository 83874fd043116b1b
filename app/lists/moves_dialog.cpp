#include "app/lists/moves_dialog.h"

#include "app/look/tone.h"
#include "app/parts/number_text.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

constexpr int moverRole = Qt::UserRole; ///< the instrument of a line

} // namespace

MovesDialog::MovesDialog(const QString& list, watchlists::Stays stays, market::MarketPtr market,
                         QWidget* parent)
    : QDialog(parent), stays_(std::move(stays)), market_(std::move(market)), days_(new QTreeWidget),
      from_(new QComboBox), to_(new QComboBox), between_(new QLabel)
{
    setWindowTitle(tr("Who came to “%1” and who went").arg(list));
    resize(640, 520);
    days_->setAccessibleName(tr("Days"));
    days_->setHeaderLabels({tr("Day"), tr("Came"), tr("Went"), tr("On it")});
    days_->setProperty("roomy", true);
    for (std::size_t i = stays_.days.size(); i-- > 0;) { // the newest first
        from_->addItem(shortDayText(stays_.days[i]), QVariant::fromValue<qulonglong>(i));
        to_->addItem(shortDayText(stays_.days[i]), QVariant::fromValue<qulonglong>(i));
    }
    constexpr int week = 5;
    from_->setCurrentIndex(std::min(week, from_->count() - 1));
    to_->setCurrentIndex(0);
    from_->setAccessibleName(tr("From"));
    to_->setAccessibleName(tr("To"));
    between_->setWordWrap(true);
    between_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    for (QComboBox* box : {from_, to_})
        connect(box, &QComboBox::currentIndexChanged, this, &MovesDialog::tellBetween);
    connect(days_, &QTreeWidget::itemActivated, this, [this](const QTreeWidgetItem* item) {
        if (const QVariant stock = item->data(0, moverRole); stock.isValid())
            Q_EMIT stockChosen(stock.toULongLong());
    });
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* row = new QHBoxLayout;
    row->addWidget(new QLabel(tr("Between")));
    row->addWidget(from_);
    row->addWidget(new QLabel(tr("and")));
    row->addWidget(to_);
    row->addStretch(1);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(row);
    layout->addWidget(between_);
    layout->addWidget(days_, 1);
    layout->addWidget(buttons);
    fillDays();
    tellBetween();
}

QString MovesDialog::namesOf(const std::vector<std::size_t>& stocks) const
{
    QStringList names;
    for (const std::size_t stock : stocks)
        names << text(market_->instrument(stock).symbol);
    return names.isEmpty() ? tr("nobody") : names.join(QStringLiteral(", "));
}

void MovesDialog::fillDays()
{
    const auto moved = watchlists::dayByDay(stays_);
    std::vector<std::size_t> on(stays_.days.size() + 1);
    for (const watchlists::Stay& stay : stays_.stays)
        for (std::size_t day = stay.from; day < stay.until; ++day)
            ++on[day];
    for (std::size_t day = stays_.days.size(); day-- > 1;) {
        const auto& [came, went] = moved[day];
        if (came.empty() && went.empty())
            continue;
        auto* item = new QTreeWidgetItem({shortDayText(stays_.days[day]), countText(came.size()),
                                          countText(went.size()), countText(on[day])});
        for (const bool isCame : {true, false})
            for (const std::size_t stock : isCame ? came : went) {
                auto* line = new QTreeWidgetItem(
                    {text(market_->instrument(stock).symbol), isCame ? tr("came") : QString(),
                     isCame ? QString() : tr("went"), text(market_->instrument(stock).name)});
                line->setData(0, moverRole, QVariant::fromValue<qulonglong>(stock));
                item->addChild(line);
            }
        days_->addTopLevelItem(item);
    }
    for (int column = 0; column < 3; ++column)
        days_->resizeColumnToContents(column);
    if (days_->topLevelItemCount() > 0)
        days_->topLevelItem(0)->setExpanded(true);
    days_->setColumnWidth(0, std::max(days_->columnWidth(0), 150));
}

void MovesDialog::tellBetween()
{
    const auto from = static_cast<std::size_t>(from_->currentData().toULongLong());
    const auto to = static_cast<std::size_t>(to_->currentData().toULongLong());
    if (from_->count() == 0)
        return between_->setText(tr("There is no session by this day."));
    const auto moved = watchlists::between(stays_, std::min(from, to), std::max(from, to));
    between_->setText(tr("Came: %1.\nWent: %2.").arg(namesOf(moved.came), namesOf(moved.went)));
}

} // namespace sieve::app
