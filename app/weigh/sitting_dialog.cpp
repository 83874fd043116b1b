#include "app/weigh/sitting_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "core/watchlists/sitting.h"

#include <QApplication>
#include <QClipboard>
#include <QDialogButtonBox>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QTextBrowser>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

using watchlists::Mark;

QString titleOf(Mark mark)
{
    return mark == Mark::Kept      ? SittingDialog::tr("Kept")
           : mark == Mark::Dropped ? SittingDialog::tr("Dropped")
           : mark == Mark::Later   ? SittingDialog::tr("Set aside")
                                   : SittingDialog::tr("Undecided");
}

} // namespace

SittingDialog::SittingDialog(Desk& desk, double secondsEach, QWidget* parent)
    : QDialog(parent), desk_(desk), secondsEach_(secondsEach), told_(new QLabel),
      reasons_(new QTableWidget), stocks_(new QTextBrowser)
{
    setWindowTitle(tr("The sitting"));
    told_->setWordWrap(true);
    told_->setFont(fontOf(Weight::Medium, 1.05));
    reasons_->setAccessibleName(tr("Reasons"));
    reasons_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    reasons_->setSelectionMode(QAbstractItemView::NoSelection);
    reasons_->verticalHeader()->hide();
    reasons_->setShowGrid(false);
    stocks_->setAccessibleName(tr("Stocks by decision"));
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    again_ = buttons->addButton(QString(), QDialogButtonBox::ActionRole);
    auto* copy = buttons->addButton(tr("&Copy"), QDialogButtonBox::ActionRole);
    connect(again_, &QPushButton::clicked, this, [this] {
        const bool isDone =
            desk_.work().edit(tr("Go through those set aside again"),
                              [](Work& work) { watchlists::takeLaterAgain(work.tray.edit()); });
        if (!isDone)
            return;
        Q_EMIT goneThroughAgain();
        accept();
    });
    connect(copy, &QPushButton::clicked, this,
            [this] { QApplication::clipboard()->setText(asText()); });
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(&desk_.work(), &Workbench::trayChanged, this, &SittingDialog::fillIn);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(told_);
    layout->addWidget(reasons_, 2);
    layout->addWidget(stocks_, 3);
    layout->addWidget(buttons);
    resize(620, 560);
    fillIn();
}

void SittingDialog::fillIn()
{
    const watchlists::Tray& tray = *desk_.work().now().tray;
    const watchlists::TrayCounts counts = tray.counts();
    QString told = tr("%1 in hand: %2 kept, %3 dropped, %4 set aside, %5 undecided.")
                       .arg(tray.cards().size())
                       .arg(counts.kept)
                       .arg(counts.dropped)
                       .arg(counts.later)
                       .arg(counts.open);
    if (secondsEach_ > 0.0)
        told += tr(" A decision took %1 seconds.").arg(secondsEach_, 0, 'f', 1);
    told_->setText(told);
    again_->setText(tr("&Again over the %1 set aside").arg(counts.later));
    again_->setEnabled(counts.later > 0);
    const auto reasons = watchlists::reasonsOf(tray);
    reasons_->setColumnCount(4);
    reasons_->setRowCount(static_cast<int>(reasons.size()));
    reasons_->setHorizontalHeaderLabels(
        {tr("Reason"), titleOf(Mark::Kept), titleOf(Mark::Dropped), titleOf(Mark::Later)});
    reasons_->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    for (int row = 0; row < reasons_->rowCount(); ++row) {
        const auto& each = reasons[static_cast<std::size_t>(row)];
        reasons_->setItem(
            row, 0,
            new QTableWidgetItem(each.reason.empty() ? tr("without a reason") : text(each.reason)));
        int column = 1;
        for (const std::size_t count : {each.kept, each.dropped, each.later}) {
            auto* item = new QTableWidgetItem(count == 0 ? QString() : countText(count));
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            reasons_->setItem(row, column++, item);
        }
    }
    stocks_->setPlainText(asText());
}

/// By decision, a stock a line with its reason.
QString SittingDialog::asText() const
{
    QStringList lines;
    for (const Mark mark : {Mark::Kept, Mark::Later, Mark::Dropped, Mark::Open}) {
        QStringList of;
        for (const watchlists::Card& card : desk_.work().now().tray->cards())
            if (card.mark == mark)
                of << (card.reason.empty()
                           ? text(card.symbol)
                           : tr("%1: %2").arg(text(card.symbol), text(card.reason)));
        if (of.isEmpty())
            continue;
        if (!lines.isEmpty())
            lines << QString();
        lines << tr("%1 (%2)").arg(titleOf(mark)).arg(of.size());
        lines << of;
    }
    return lines.join(QLatin1Char('\n'));
}

} // namespace sieve::app
