#include "app/chart/layers_dialog.h"

#include "app/chart/palette_part_box.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "core/language/stepping.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <utility>

namespace sieve::app {

using charts::LayerForm;
using charts::LayerSetUp;

LayersDialog::LayersDialog(const charts::SetUp& setUp, QWidget* parent)
    : QDialog(parent), setUp_(setUp), tree_(new QTreeWidget), form_(new QWidget),
      show_(new ExpressionEdit), to_(new ExpressionEdit), fault_(new QLabel), as_(new QComboBox),
      colour_(makePalettePartBox()), width_(new QDoubleSpinBox),
      byChange_(new QCheckBox(tr("In the colour of the bar's rise or fall"))),
      compared_(new QCheckBox(tr("From the first close in sight, to compare"))),
      atLeft_(new QCheckBox(tr("With a scale of its own at the left"))),
      addLayer_(new QPushButton(tr("Add a layer"))), addPane_(new QPushButton(tr("Add a pane"))),
      up_(new QPushButton(tr("Move up"))), down_(new QPushButton(tr("Move down"))),
      remove_(new QPushButton(tr("Remove")))
{
    setWindowTitle(tr("Layers of the chart"));
    resize(720, 440);
    tree_->setHeaderHidden(true);
    tree_->setRootIsDecorated(false);
    tree_->setAccessibleName(tr("Panes and layers"));
    show_->setAccessibleName(tr("What the layer shows"));
    show_->setPlaceholderText(tr("a figure or condition, such as sma(close, 50)"));
    to_->setAccessibleName(tr("The band's other edge, or when the rule leaves"));
    for (ExpressionEdit* line : {show_, to_})
        line->setProperty("quiet", false);
    fault_->setWordWrap(true);
    setTone(fault_, Tone::Soft);
    const std::pair<LayerForm, QString> forms[] = {
        {LayerForm::Line, tr("Line")},
        {LayerForm::Band, tr("Band between two")},
        {LayerForm::Columns, tr("Columns")},
        {LayerForm::Dots, tr("Dots")},
        {LayerForm::Steps, tr("Steps")},
        {LayerForm::Ribbon, tr("Ribbon while it is true")},
        {LayerForm::Marks, tr("Marks where it becomes true")},
        {LayerForm::Trades, tr("Entries (shows) and exits (to)")},
        {LayerForm::States, tr("Strip: above, at and below 0")}};
    for (const auto& [form, title] : forms)
        as_->addItem(title, static_cast<int>(form));
    width_->setRange(0.5, 6.0);
    width_->setSingleStep(0.1);
    width_->setDecimals(1);
    auto* form = new QFormLayout(form_);
    form->setContentsMargins(0, 0, 0, 0);
    form->addRow(tr("&Shows"), show_);
    form->addRow(tr("&To"), to_);
    form->addRow(QString(), fault_);
    form->addRow(tr("&As"), as_);
    form->addRow(tr("&Colour"), colour_);
    form->addRow(tr("&Width"), width_);
    for (QCheckBox* box : {byChange_, compared_, atLeft_})
        form->addRow(QString(), box);
    auto* orders = new QHBoxLayout;
    for (QPushButton* button : {addLayer_, addPane_, up_, down_, remove_}) {
        button->setAutoDefault(false); // Return in a line is no button
        orders->addWidget(button);
    }
    orders->addStretch(1);
    auto* halves = new QHBoxLayout;
    halves->addWidget(tree_, 2);
    auto* side = new QVBoxLayout;
    side->addWidget(form_);
    side->addStretch(1);
    halves->addLayout(side, 3);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(halves, 1);
    layout->addLayout(orders);
    layout->addWidget(buttons);

    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(tree_, &QTreeWidget::currentItemChanged, this, [this] {
        if (!isFilling_)
            fillForm();
    });
    for (ExpressionEdit* line : {show_, to_}) {
        connect(line, &QLineEdit::editingFinished, this, &LayersDialog::take);
        connect(line, &ExpressionEdit::stepped, this, [this, line](int by) {
            const int at = line->cursorPosition();
            if (const auto stepped = language::withNumberStepped(
                    utf8(line->text()), static_cast<std::size_t>(at), by)) {
                line->setText(text(*stepped));
                line->setCursorPosition(at);
                take();
            }
        });
    }
    for (QComboBox* box : {as_, colour_})
        connect(box, &QComboBox::activated, this, &LayersDialog::take);
    connect(width_, &QDoubleSpinBox::valueChanged, this, &LayersDialog::take);
    for (QCheckBox* box : {byChange_, compared_, atLeft_})
        connect(box, &QCheckBox::toggled, this, &LayersDialog::take);
    connect(addLayer_, &QPushButton::clicked, this, &LayersDialog::addLayer);
    connect(addPane_, &QPushButton::clicked, this, &LayersDialog::addPane);
    connect(up_, &QPushButton::clicked, this, [this] { move(-1); });
    connect(down_, &QPushButton::clicked, this, [this] { move(1); });
    connect(remove_, &QPushButton::clicked, this, &LayersDialog::remove);
    fill({0, setUp_.panes[0].layers.empty() ? std::nullopt : std::optional<std::size_t>(0)});
}

LayersDialog::~LayersDialog()
{
    isFilling_ = true; // a line that loses the focus while the window goes changes nothing
    hide();
}

LayersDialog::Place LayersDialog::chosen() const
{
    QTreeWidgetItem* item = tree_->currentItem();
    if (!item)
        return {};
    QTreeWidgetItem* parent = item->parent();
    const int pane = tree_->indexOfTopLevelItem(parent ? parent : item);
    return {static_cast<std::size_t>(pane),
            parent ? std::optional(static_cast<std::size_t>(parent->indexOfChild(item)))
                   : std::nullopt};
}

LayerSetUp* LayersDialog::chosenLayer()
{
    const Place place = chosen();
    return place.layer ? &setUp_.panes[place.pane].layers[*place.layer] : nullptr;
}

void LayersDialog::fill(const Place& chosen)
{
    isFilling_ = true;
    tree_->clear();
    QTreeWidgetItem* current = nullptr;
    for (std::size_t i = 0; i < setUp_.panes.size(); ++i) {
        auto* pane = new QTreeWidgetItem(tree_, {i == 0 ? tr("Prices") : tr("Pane %1").arg(i + 1)});
        if (i == chosen.pane && !chosen.layer)
            current = pane;
        for (std::size_t j = 0; j < setUp_.panes[i].layers.size(); ++j) {
            const LayerSetUp& layer = setUp_.panes[i].layers[j];
            auto* item = new QTreeWidgetItem(pane, {text(layer.show)});
            item->setIcon(0, palettePartIcon(layer.colour));
            if (i == chosen.pane && chosen.layer == j)
                current = item;
        }
        pane->setExpanded(true);
    }
    tree_->setCurrentItem(current);
    isFilling_ = false;
    std::size_t layers = 0;
    for (const charts::PaneSetUp& pane : setUp_.panes)
        layers += pane.layers.size();
    addLayer_->setEnabled(layers < charts::mostLayers);
    addPane_->setEnabled(setUp_.panes.size() < charts::mostPanes && layers < charts::mostLayers);
    fillForm();
}

void LayersDialog::fillForm()
{
    const LayerSetUp* layer = chosenLayer();
    form_->setEnabled(layer != nullptr);
    remove_->setEnabled(layer || chosen().pane > 0); // the prices stay
    up_->setEnabled(remove_->isEnabled());
    down_->setEnabled(remove_->isEnabled());
    fault_->clear();
    show_->setFault(std::nullopt);
    to_->setFault(std::nullopt);
    if (!layer)
        return;
    isFilling_ = true;
    show_->setText(text(layer->show));
    to_->setText(text(layer->to));
    to_->setEnabled(charts::isOfTwo(layer->form));
    as_->setCurrentIndex(as_->findData(static_cast<int>(layer->form)));
    colour_->setCurrentIndex(colour_->findData(static_cast<int>(layer->colour)));
    width_->setValue(layer->width);
    byChange_->setChecked(layer->isByChange);
    byChange_->setEnabled(layer->form == LayerForm::Columns);
    compared_->setChecked(layer->isCompared);
    compared_->setEnabled(layer->form == LayerForm::Line && chosen().pane == 0);
    atLeft_->setChecked(layer->hasScaleAtLeft);
    isFilling_ = false;
}

void LayersDialog::setChart(const charts::Chart& chart)
{
    using charts::PaneSetUp;
    if (!std::ranges::equal(chart.setUp.panes, setUp_.panes, {}, &PaneSetUp::layers,
                            &PaneSetUp::layers))
        return; // the answer to one before
    for (std::size_t i = 0; i < chart.panes.size(); ++i)
        for (std::size_t j = 0; j < chart.panes[i].layers.size(); ++j) {
            const auto& error = chart.panes[i].layers[j].error;
            QTreeWidgetItem* item =
                tree_->topLevelItem(static_cast<int>(i))->child(static_cast<int>(j));
            item->setForeground(0, error ? look().caution : look().ink);
            const Place place = chosen();
            if (place.pane != i || place.layer != j)
                continue;
            show_->setFault(error);
            fault_->setText(error ? text(sentence(*error)) : QString());
        }
}

/// What the form holds now, of the layer that it shows.
void LayersDialog::take()
{
    LayerSetUp* layer = chosenLayer();
    if (!layer || isFilling_)
        return;
    LayerSetUp now = *layer;
    if (const QString show = show_->text().trimmed(); !show.isEmpty())
        now.show = utf8(show);
    now.form = static_cast<LayerForm>(as_->currentData().toInt());
    now.to = charts::isOfTwo(now.form) ? utf8(to_->text().trimmed()) : std::string();
    if (charts::isOfTwo(now.form) && now.to.empty()) // to begin with: they have two
        now.to = now.form == LayerForm::Band ? "close" : "close < sma(close, 50)";
    now.colour = static_cast<PalettePart>(colour_->currentData().toInt());
    now.width = width_->value();
    now.isByChange = byChange_->isChecked();
    now.isCompared = compared_->isChecked() && now.form == LayerForm::Line;
    now.hasScaleAtLeft = atLeft_->isChecked();
    if (now == *layer)
        return;
    *layer = std::move(now);
    fill(chosen());
    tell();
}

void LayersDialog::addLayer()
{
    const std::size_t pane = chosen().pane;
    auto& layers = setUp_.panes[pane].layers;
    layers.push_back({.show = "sma(close, 20)"});
    fill({pane, layers.size() - 1});
    tell();
    show_->setFocus();
    show_->selectAll();
}

void LayersDialog::addPane()
{
    setUp_.panes.push_back({});
    setUp_.panes.back().layers.push_back({.show = "rsi(close, 14)"});
    fill({setUp_.panes.size() - 1, 0});
    tell();
    show_->setFocus();
    show_->selectAll();
}

/// A layer within its pane and on into the next one, a pane among the others.
void LayersDialog::move(int by)
{
    const Place from = chosen();
    const auto next = [by](std::size_t place) { return static_cast<std::ptrdiff_t>(place) + by; };
    const auto panes = static_cast<std::ptrdiff_t>(setUp_.panes.size());
    if (!from.layer) {
        const std::ptrdiff_t to = next(from.pane);
        if (to < 1 || to >= panes)
            return;
        std::swap(setUp_.panes[from.pane], setUp_.panes[static_cast<std::size_t>(to)]);
        fill({static_cast<std::size_t>(to), std::nullopt});
        return tell();
    }
    auto& layers = setUp_.panes[from.pane].layers;
    const std::ptrdiff_t to = next(*from.layer);
    if (to >= 0 && to < std::ssize(layers)) {
        std::swap(layers[*from.layer], layers[static_cast<std::size_t>(to)]);
        fill({from.pane, static_cast<std::size_t>(to)});
        return tell();
    }
    const std::ptrdiff_t pane = next(from.pane);
    if (pane < 0 || pane >= panes)
        return;
    LayerSetUp moved = layers[*from.layer];
    moved.isCompared = moved.isCompared && pane == 0;
    layers.erase(layers.begin() + static_cast<std::ptrdiff_t>(*from.layer));
    auto& into = setUp_.panes[static_cast<std::size_t>(pane)].layers;
    into.insert(by > 0 ? into.begin() : into.end(), std::move(moved));
    fill({static_cast<std::size_t>(pane), by > 0 ? 0 : into.size() - 1});
    tell();
}

void LayersDialog::remove()
{
    const Place place = chosen();
    if (place.layer) {
        auto& layers = setUp_.panes[place.pane].layers;
        layers.erase(layers.begin() + static_cast<std::ptrdiff_t>(*place.layer));
        fill({place.pane, layers.empty()
                              ? std::nullopt
                              : std::optional(std::min(*place.layer, layers.size() - 1))});
        return tell();
    }
    if (place.pane == 0)
        return;
    setUp_.panes.erase(setUp_.panes.begin() + static_cast<std::ptrdiff_t>(place.pane));
    fill({place.pane - 1, std::nullopt});
    tell();
}

void LayersDialog::tell()
{
    charts::makeOwn(setUp_);
    Q_EMIT changed();
}

} // namespace sieve::app
