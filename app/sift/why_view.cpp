#include "app/sift/why_view.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/number_text.h"
#include "app/parts/parts_tree.h"

#include <QHeaderView>
#include <QLabel>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

QString verdictOf(const screens::CriterionWhy& criterion)
{
    if (criterion.error)
        return QString(QChar(0x26A0)); // a mistake
    if (!criterion.passes)
        return QStringLiteral("?");
    return *criterion.passes ? QString(QChar(0x2713)) : QString(QChar(0x2715));
}

} // namespace

WhyView::WhyView(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), verdict_(new QLabel), tree_(new QTreeWidget)
{
    verdict_->setFont(fontOf(Weight::SemiBold));
    verdict_->setContentsMargins(8, 4, 8, 2);
    tree_->setProperty("roomy", true);
    tree_->setAccessibleName(tr("Why"));
    tree_->setColumnCount(ColumnCount);
    tree_->setHeaderLabels(
        {tr("Criterion and its parts"), tr("Value"), tr("Limit"), tr("Away by"), tr("From")});
    tree_->header()->setStretchLastSection(false);
    tree_->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
    tree_->header()->setSectionResizeMode(Part, QHeaderView::Stretch);
    for (const int column : {Value, Bound, Away})
        tree_->headerItem()->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    setFocusProxy(tree_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addWidget(verdict_);
    layout->addWidget(tree_, 1);
    connect(&desk_.focus(), &Focus::selectionChanged, this, &WhyView::ask);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
}

void WhyView::setScreen(const screens::Screen& screen)
{
    screen_ = screen;
    ask();
}

void WhyView::showEvent(QShowEvent* event)
{
    QWidget::showEvent(event);
    ask();
}

void WhyView::ask()
{
    if (!isVisible() || !desk_.market().isOpen())
        return;
    if (!desk_.focus().selected()) {
        verdict_->setText(tr("Choose a stock, in the results or among the near misses"));
        tree_->clear();
        return;
    }
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book = desk_.work().nameBook(), screen = screen_,
         stock = *desk_.focus().selected(), day = desk_.focus().day()](const Progress& progress) {
            return screens::why(screen, book->names(), *evaluator, stock, day, progress);
        },
        [this](const screens::Why& why) { show(why); });
}

void WhyView::show(const screens::Why& why)
{
    const market::Instrument& instrument =
        desk_.market().data().instrument(*desk_.focus().selected());
    const QString who = tr("%1, %2").arg(text(instrument.symbol), text(instrument.name));
    verdict_->setText(!why.isInUniverse ? tr("%1 does not belong to the universe").arg(who)
                      : why.passes      ? tr("%1 is in").arg(who)
                                        : tr("%1 is not in").arg(who));
    tree_->clear();
    for (std::size_t i = 0; i < why.criteria.size(); ++i) {
        const screens::CriterionWhy& criterion = why.criteria[i];
        auto* item = new QTreeWidgetItem(tree_);
        item->setText(Part,
                      verdictOf(criterion) + QStringLiteral("  ") + text(screen_.criteria[i].text));
        item->setToolTip(Part, text(screen_.criteria[i].comment));
        item->setForeground(
            Part, !criterion.isOn || criterion.passes.value_or(false) ? look().ink : look().fall);
        if (!criterion.isOn)
            item->setText(From, tr("switched off"));
        if (criterion.error)
            item->setText(From, text(criterion.error->problem));
        if (!criterion.error && !criterion.passes)
            item->setText(From, tr("no data"));
        for (const auto& side : criterion.sides) { // of two, the one that keeps it out
            if (&side != &criterion.sides.front() && !(side.shortfall > 0.0))
                continue;
            item->setText(Value, numberText(side.figure, side.limit.unit, 2));
            item->setText(Bound, numberText(side.bound, side.limit.unit, 2));
            item->setText(Away, side.shortfall > 0.0
                                    ? numberText(side.shortfall, side.limit.unit, 2)
                                    : QString());
        }
        for (const int column : {Value, Bound, Away})
            item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
        if (criterion.parts)
            for (const language::Explanation& part : criterion.parts->parts)
                addParts(item, part, desk_.market().data().texts(), {Part, Value, From});
    }
}

} // namespace sieve::app
