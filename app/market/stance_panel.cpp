#include "app/market/stance_panel.h"

#include "app/desk/desk.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/parts/actions.h"
#include "app/parts/number_text.h"
#include "app/parts/remembered.h"

#include <QAction>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPainter>
#include <QToolButton>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <cmath>

namespace sieve::app {

namespace {

constexpr int ruleRole = Qt::UserRole;
constexpr std::size_t stanceSessions = 250;

/// The stance of twelve months as a small filled line, none at the bottom, all at the top.
class StanceBand : public QWidget {
public:
    StanceBand()
    {
        setMinimumSize(120, 22);
        setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    }
    void setStance(std::vector<double> stance)
    {
        stance_ = std::move(stance);
        update();
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter painter(this);
        const QRectF area = QRectF(rect()).adjusted(0, 2, 0, -2);
        painter.fillRect(area, look().wash(look().rule, 0.35));
        const double step = area.width() / static_cast<double>(stanceSessions);
        for (std::size_t i = 0; i < stance_.size(); ++i) {
            if (isMissing(stance_[i]))
                continue;
            const double height = std::max(area.height() * stance_[i], 1.0);
            const double x = area.right() - static_cast<double>(stance_.size() - i) * step;
            painter.fillRect(QRectF(x, area.bottom() - height, step + 0.6, height),
                             look().wash(look().mark, 0.55));
        }
    }

private:
    std::vector<double> stance_;
};

QString signOf(std::optional<bool> holds)
{
    return !holds ? QString(missingText) : *holds ? QStringLiteral("✓") : QStringLiteral("○");
}

int decimalsFor(Unit unit, double value)
{
    if (unit == Unit::Percent)
        return 1;
    return std::fabs(value) >= 100.0 ? 1 : 2;
}

} // namespace

QString stanceText(double stance)
{
    return isMissing(stance)
               ? StancePanel::tr("no stance yet")
               : StancePanel::tr("%1 at work").arg(numberText(stance, Unit::Percent, 0));
}

StancePanel::StancePanel(Desk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk), asker_(this), share_(new QLabel), since_(new QLabel),
      band_(new StanceBand), rules_(new QTreeWidget)
{
    setObjectName(QStringLiteral("sheet"));
    setAttribute(Qt::WA_StyledBackground);
    share_->setFont(fontOf(Weight::SemiBold, 1.3));
    share_->setAccessibleName(tr("Stance"));
    since_->setFont(fontOf(Weight::Regular, 0.92));
    rules_->setColumnCount(ColumnCount);
    rules_->setHeaderLabels({tr("Rule"), tr("Now"), tr("To turn")});
    rules_->header()->setStretchLastSection(false);
    rules_->header()->setMinimumSectionSize(40);
    rules_->header()->setSectionResizeMode(Sentence, QHeaderView::Stretch);
    rules_->header()->resizeSection(Now, 74);
    rules_->header()->resizeSection(Needs, 150);
    remember(rules_->header(), "market.rules");
    rules_->headerItem()->setTextAlignment(Now, Qt::AlignRight | Qt::AlignVCenter);
    rules_->headerItem()->setTextAlignment(Needs, Qt::AlignRight | Qt::AlignVCenter);
    rules_->headerItem()->setToolTip(
        Needs, tr("By how much the figure must move for the part to turn, and the close of the "
                  "line on the next session that would do it"));
    rules_->setIndentation(14);
    rules_->setUniformRowHeights(true);
    rules_->setTextElideMode(Qt::ElideRight);
    rules_->setFrameShape(QFrame::NoFrame);
    rules_->setAccessibleName(tr("Timing rules"));
    rules_->setContextMenuPolicy(Qt::ActionsContextMenu);
    rules_->setExpandsOnDoubleClick(false);
    auto* add = new QToolButton;
    add->setText(tr("New rule"));
    auto* head = new QHBoxLayout;
    head->setContentsMargins(12, 4, 6, 0);
    head->setSpacing(10);
    head->addWidget(share_);
    head->addWidget(since_);
    head->addWidget(band_, 1);
    head->addWidget(add);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(1, 1, 1, 1);
    layout->setSpacing(2);
    layout->addLayout(head);
    layout->addWidget(rules_, 1);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    connect(add, &QToolButton::clicked, this, &StancePanel::newRuleWanted);
    connect(rules_, &QTreeWidget::itemActivated, this, [this](QTreeWidgetItem* item) {
        if (const auto rule = ruleOf(item))
            Q_EMIT ruleWanted(*rule);
    });
    addActions();
}

std::optional<std::size_t> StancePanel::ruleOf(const QTreeWidgetItem* item) const
{
    if (item && item->parent())
        item = item->parent();
    if (!item)
        return std::nullopt;
    return static_cast<std::size_t>(item->data(Sentence, ruleRole).toULongLong());
}

void StancePanel::show(const std::shared_ptr<const conditions::Reading>& reading, Day day)
{
    reading_ = reading;
    day_ = day;
    parts_.clear();
    fill();
    asker_.ask(
        [evaluator = desk_.market().evaluator(), names = desk_.work().nameBook(), reading,
         day](const Progress& progress) {
            Parts parts;
            const auto bar = reading->market().barBy(day);
            for (std::size_t i = 0; i < reading->rules.size(); ++i) {
                const conditions::TimingRule& rule = reading->book.rules[i];
                const auto& on = reading->rules[i].on;
                const bool isOn = bar && *bar < on.size() && on[*bar] == true;
                const std::string& open = isOn && !rule.leave.empty() ? rule.leave : rule.enter;
                parts.push_back(
                    partsOf(*evaluator, names->names(), reading->market(), open, day, progress));
            }
            return parts;
        },
        [this](Parts parts) {
            parts_ = std::move(parts);
            fill();
        });
}

void StancePanel::fill()
{
    const auto chosen = ruleOf(rules_->currentItem());
    rules_->clear();
    enableActions();
    const auto bar = reading_->market().barBy(day_);
    const std::vector<double>& stance = reading_->stance;
    if (!bar || *bar >= stance.size()) {
        share_->setText(stanceText(missing));
        return since_->clear();
    }
    share_->setText(stanceText(stance[*bar]));
    std::size_t age = 1;
    while (age <= *bar && (stance[*bar - age] == stance[*bar]))
        ++age;
    QString since =
        isMissing(stance[*bar])
            ? QString()
            : tr("since %1").arg(shortDayText(reading_->market().bars().days[*bar + 1 - age]));
    if (reading_->isProvisional && *bar + 1 == stance.size())
        since = tr("provisional until the close");
    since_->setText(since);
    const std::size_t first = *bar + 1 > stanceSessions ? *bar + 1 - stanceSessions : 0;
    static_cast<StanceBand*>(band_)->setStance(
        {stance.begin() + static_cast<std::ptrdiff_t>(first),
         stance.begin() + static_cast<std::ptrdiff_t>(*bar + 1)});
    for (std::size_t rule = 0; rule < reading_->rules.size(); ++rule)
        addRule(rule, *bar);
    if (chosen)
        rules_->setCurrentItem(rules_->topLevelItem(static_cast<int>(*chosen)));
}

void StancePanel::addRule(std::size_t at, std::size_t bar)
{
    const conditions::TimingRule& rule = reading_->book.rules[at];
    const conditions::RuleHistory& history = reading_->rules[at];
    const auto on = bar < history.on.size() ? history.on[bar] : std::optional<bool>();
    auto* item = new QTreeWidgetItem(rules_);
    item->setData(Sentence, ruleRole, QVariant::fromValue<qulonglong>(at));
    item->setText(Sentence, signOf(on) + QLatin1Char(' ') + text(rule.title));
    item->setFont(Sentence, fontOf(Weight::Medium));
    item->setToolTip(Sentence,
                     tr("on when: %1\noff when: %2")
                         .arg(text(rule.enter),
                              rule.leave.empty() ? tr("that no longer holds") : text(rule.leave)));
    if (history.error) {
        item->setText(Now, tr("mistake"));
        item->setForeground(Now, look().caution);
        item->setToolTip(Now, text(sentence(*history.error)));
    } else {
        item->setText(Now, !on ? QString(missingText) : *on ? tr("on") : tr("off"));
        if (on == true)
            item->setForeground(Now, rule.standsAside ? look().fall : look().rise);
    }
    item->setText(
        Needs, rule.standsAside
                   ? tr("stands aside")
                   : tr("%1 of the money").arg(numberText(rule.share / 100.0, Unit::Percent, 0)));
    for (const int column : {Now, Needs})
        item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    item->setForeground(Needs, look().softInk);
    if (at < parts_.size())
        for (const conditions::RulePart& part : parts_[at])
            addPart(item, part);
    item->setExpanded(true);
}

void StancePanel::addPart(QTreeWidgetItem* parent, const conditions::RulePart& part)
{
    const auto rule = *ruleOf(parent);
    const bool isLeaving =
        parent->text(Now) == tr("on") && !reading_->book.rules[rule].leave.empty();
    auto* item = new QTreeWidgetItem(parent);
    item->setText(Sentence, signOf(part.holds) + QLatin1Char(' ') +
                                (isLeaving ? tr("off when ") : QString()) + text(part.text));
    item->setToolTip(Sentence, item->text(Sentence));
    item->setFont(Sentence, fontOf(Weight::Regular, 0.95));
    item->setForeground(Sentence, part.holds == true ? look().ink : look().softInk);
    const auto figure = [&](double value) {
        return numberText(value, part.unit, decimalsFor(part.unit, value));
    };
    if (!part.field.empty()) {
        item->setText(Now, figure(part.value));
        item->setToolTip(Now, tr("%1 is %2; the limit is %3")
                                  .arg(text(part.field), figure(part.value), figure(part.bound)));
    }
    QStringList needs;
    if (!isMissing(part.distance) && part.holds) {
        const double move = part.bound - part.value;
        needs << signedText(move, part.unit, decimalsFor(part.unit, move));
    }
    if (!isMissing(part.turningClose))
        needs << tr("close %1").arg(numberText(part.turningClose, Unit::Plain, 1));
    item->setText(Needs, needs.join(QStringLiteral(", ")));
    item->setToolTip(Needs,
                     isMissing(part.turningClose)
                         ? tr("No close of the line within a quarter of its level turns "
                              "this part alone")
                         : tr("A close of the line at %1 on the next session turns this part")
                               .arg(numberText(part.turningClose, Unit::Plain, 2)));
    for (const int column : {Now, Needs})
        item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
}

void StancePanel::addActions()
{
    makeAction(rules_, ActionId::NewRule, [this] { Q_EMIT newRuleWanted(); });
    edit_ = makeAction(rules_, ActionId::EditRule, [this] {
        if (const auto rule = ruleOf(rules_->currentItem()))
            Q_EMIT ruleWanted(*rule);
    });
    remove_ = makeAction(rules_, ActionId::RemoveRule, [this] { removeRule(); });
    makeAction(rules_, ActionId::StandardRules, [this] {
        desk_.work().edit(tr("Put the standard rules back"),
                          [](Work& work) { work.marketBook = conditions::standardBook(); });
    });
    connect(rules_, &QTreeWidget::currentItemChanged, this, &StancePanel::enableActions);
    enableActions();
}

void StancePanel::enableActions()
{
    for (QAction* action : {edit_, remove_})
        action->setEnabled(ruleOf(rules_->currentItem()).has_value());
}

void StancePanel::removeRule()
{
    const auto rule = ruleOf(rules_->currentItem());
    if (!rule)
        return;
    const QString title = text(reading_->book.rules[*rule].title);
    desk_.work().edit(tr("Remove the rule “%1”").arg(title), [rule](Work& work) {
        auto& rules = work.marketBook.edit().rules;
        if (*rule < rules.size())
            rules.erase(rules.begin() + static_cast<std::ptrdiff_t>(*rule));
    });
}

} // namespace sieve::app
