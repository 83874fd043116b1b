#include "app/desk/blend_button.h"

#include "app/desk/desk.h"
#include "app/desk/field_shelf.h"
#include "app/desk/settings.h"
#include "app/desk/workbench.h"
#include "app/parts/number_text.h"

#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QMenu>
#include <QPushButton>
#include <QWidgetAction>
#include <algorithm>

namespace sieve::app {

namespace {

constexpr const char* weightsKey = "score_weights";

/// Whether something counts at all.
bool areUsable(const valuation::ScoreWeights& weights)
{
    return std::ranges::any_of(weights, [](double weight) { return weight != 0.0; });
}

} // namespace

BlendButton::BlendButton(Desk& desk, QWidget* parent) : QToolButton(parent), desk_(desk)
{
    setText(tr("Blend…"));
    setToolTip(tr("How value, quality, growth, momentum and steadiness count in your blend: in the "
                  "ranks of a group, and in a dossier's score"));
    connect(this, &QToolButton::clicked, this, &BlendButton::open);
    connect(&desk_.settings(), &Settings::loaded, this, &BlendButton::load);
    connect(&desk_.settings(), &Settings::changed, this, [this](const std::string& key) {
        if (key == weightsKey)
            load(); // by the button of another place
    });
    load();
}

void BlendButton::load()
{
    const QStringList kept =
        app::text(desk_.settings().value(weightsKey)).split(QLatin1Char(' '), Qt::SkipEmptyParts);
    valuation::ScoreWeights weights = valuation::equalWeights;
    for (int i = 0; i < static_cast<int>(weights.size()) && i < kept.size(); ++i)
        weights.at(static_cast<std::size_t>(i)) = std::clamp(kept[i].toDouble(), 0.0, 10.0);
    if (!areUsable(weights))
        weights = valuation::equalWeights;
    if (weights == weights_)
        return;
    weights_ = weights;
    Q_EMIT changed();
}

void BlendButton::setWeight(std::size_t side, double weight)
{
    valuation::ScoreWeights weights = weights_;
    weights.at(side) = weight;
    if (!areUsable(weights))
        return;
    weights_ = weights;
    QStringList kept;
    for (const double each : weights_)
        kept << QString::number(each);
    desk_.settings().set(weightsKey, utf8(kept.join(QLatin1Char(' '))));
    Q_EMIT changed();
}

/// So that it can be a column, a criterion, and a line under the prices over the years.
void BlendButton::makeField()
{
    language::Field field;
    field.name = "own_score";
    field.title = utf8(tr("Own score"));
    field.head = field.title;
    field.meaning = utf8(tr("Your blend of value, quality, growth, momentum and steadiness"));
    field.formula = valuation::blendOf(weights_);
    field.family = "mine";
    field.unit = Unit::Points;
    field.decimals = 0;
    field.better = language::Better::High;
    const bool isThere = desk_.fieldShelf().find(field.name) != nullptr;
    if (const auto error = desk_.fieldShelf().put(isThere ? field.name : std::string(), field))
        Q_EMIT desk_.noticed(app::text(sentence(*error)));
    else
        Q_EMIT desk_.told(tr("The field own_score is your blend as it stands now."));
}

void BlendButton::open()
{
    auto* form = new QWidget;
    auto* rows = new QFormLayout(form);
    for (std::size_t i = 0; i < weights_.size(); ++i) {
        const QString side = app::text(valuation::scoreSides[i].name);
        auto* weight = new QDoubleSpinBox;
        weight->setRange(0.0, 10.0);
        weight->setDecimals(1);
        weight->setSingleStep(0.5);
        weight->setValue(weights_[i]);
        weight->setAccessibleName(side);
        rows->addRow(side, weight);
        connect(weight, &QDoubleSpinBox::valueChanged, this,
                [this, i](double value) { setWeight(i, value); });
    }
    auto* field = new QPushButton(tr("Make it a &field"));
    field->setToolTip(tr("own_score: to be a column, a criterion or a layer of the chart"));
    rows->addRow(field);
    auto* menu = new QMenu(this);
    connect(field, &QPushButton::clicked, this, &BlendButton::makeField);
    connect(field, &QPushButton::clicked, menu, &QMenu::close);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    auto* holder = new QWidgetAction(menu);
    holder->setDefaultWidget(form);
    menu->addAction(holder);
    menu->popup(mapToGlobal(QPoint(0, height())));
}

} // namespace sieve::app
