#include "app/chart/drawings_dialog.h"

#include "app/chart/palette_part_box.h"
#include "app/chart/tool_icon.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

using drawings::Drawing;

DrawingsDialog::DrawingsDialog(QWidget* parent)
    : QDialog(parent), list_(new QListWidget), nothing_(new QLabel), form_(new QWidget),
      name_(new QLineEdit), expression_(new QLabel), text_(new QPlainTextEdit),
      colour_(makePalettePartBox()), width_(new QDoubleSpinBox),
      logarithmic_(new QCheckBox(tr("Straight on a logarithmic scale"))),
      locked_(new QCheckBox(tr("Locked: it is not moved or removed"))),
      hidden_(new QCheckBox(tr("Hidden"))), remove_(new QPushButton(tr("Remove it")))
{
    setWindowTitle(tr("Drawings"));
    resize(640, 400);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setTextElideMode(Qt::ElideRight);
    list_->setAccessibleName(tr("Drawings of the stock"));
    nothing_->setText(tr("Nothing is drawn on this stock. D on the chart begins."));
    nothing_->setWordWrap(true);
    setTone(nothing_, Tone::Soft);
    expression_->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    setTone(expression_, Tone::Soft);
    text_->setTabChangesFocus(true);
    expression_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    text_->setMaximumHeight(fontMetrics().height() * 4);
    name_->setMaxLength(80);
    width_->setRange(0.5, 6.0);
    width_->setSingleStep(0.5);
    width_->setDecimals(1);
    auto* form = new QFormLayout(form_);
    form->setContentsMargins(0, 0, 0, 0);
    form->addRow(tr("&Name"), name_);
    form->addRow(QString(), expression_);
    form->addRow(tr("&Text"), text_);
    form->addRow(tr("&Colour"), colour_);
    form->addRow(tr("&Width"), width_);
    form->addRow(QString(), logarithmic_);
    form->addRow(QString(), locked_);
    form->addRow(QString(), hidden_);
    form->addRow(QString(), remove_);
    auto* side = new QVBoxLayout;
    side->addWidget(form_);
    side->addStretch(1);
    auto* halves = new QHBoxLayout;
    halves->addWidget(list_, 2);
    halves->addLayout(side, 3);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(nothing_);
    layout->addLayout(halves, 1);
    layout->addWidget(buttons);

    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row < 0 || isFilling_)
            return;
        shown_ = drawings_[static_cast<std::size_t>(row)].id;
        fill();
        Q_EMIT chosen(shown_);
    });
    connect(name_, &QLineEdit::editingFinished, this, &DrawingsDialog::take);
    connect(text_, &QPlainTextEdit::textChanged, this, &DrawingsDialog::take);
    connect(colour_, &QComboBox::activated, this, &DrawingsDialog::take);
    connect(width_, &QDoubleSpinBox::valueChanged, this, &DrawingsDialog::take);
    for (QCheckBox* box : {logarithmic_, locked_, hidden_})
        connect(box, &QCheckBox::toggled, this, &DrawingsDialog::take);
    connect(remove_, &QPushButton::clicked, this, [this] { Q_EMIT removed(shown_); });
    setDrawings({});
}

DrawingsDialog::~DrawingsDialog()
{
    isFilling_ = true; // a line that loses the focus while the window goes changes nothing
    hide();
}

void DrawingsDialog::show(std::int64_t id)
{
    if (id != 0)
        shown_ = id;
    if (!shown() && !drawings_.empty())
        shown_ = drawings_.back().id;
    fill();
    open();
    name_->setFocus();
}

const Drawing* DrawingsDialog::shown() const
{
    const auto place = std::ranges::find(drawings_, shown_, &Drawing::id);
    return place == drawings_.end() ? nullptr : &*place;
}

void DrawingsDialog::setDrawings(std::vector<Drawing> drawings)
{
    drawings_ = std::move(drawings);
    isFilling_ = true;
    list_->clear();
    for (const Drawing& drawing : drawings_) {
        const drawings::ToolRow& row = rowOf(drawing.tool);
        const QString what = text(drawing.name.empty() ? row.title : drawing.name);
        auto* item = new QListWidgetItem(toolIcon(drawing.tool, look()),
                                         tr("%1, %2").arg(what, shortDayText(drawing.drawnOn)) +
                                             (drawing.isHidden ? tr(", hidden") : QString()) +
                                             (drawing.isLocked ? tr(", locked") : QString()),
                                         list_);
        if (drawing.isHidden)
            item->setForeground(look().softInk);
    }
    isFilling_ = false;
    nothing_->setVisible(drawings_.empty());
    if (!shown() && !drawings_.empty())
        shown_ = drawings_.back().id;
    fill();
}

void DrawingsDialog::fill()
{
    const Drawing* drawing = shown();
    form_->setEnabled(drawing != nullptr);
    if (!drawing)
        return;
    isFilling_ = true;
    list_->setCurrentRow(static_cast<int>(drawing - drawings_.data()));
    if (name_->text() != text(drawing->name))
        name_->setText(text(drawing->name));
    expression_->setText(
        drawing->name.empty()
            ? tr("A name lets screens and columns ask for its price.")
            : tr("In screens and columns: drawing(\"%1\")").arg(text(drawing->name)));
    const bool hasText =
        drawing->tool == drawings::Tool::Note || drawing->tool == drawings::Tool::Arrow;
    text_->setEnabled(hasText);
    if (text_->toPlainText() != text(drawing->text)) // the cursor stays where it is
        text_->setPlainText(text(drawing->text));
    colour_->setCurrentIndex(colour_->findData(static_cast<int>(drawing->colour)));
    width_->setValue(drawing->width);
    logarithmic_->setChecked(drawing->isLogarithmic);
    locked_->setChecked(drawing->isLocked);
    hidden_->setChecked(drawing->isHidden);
    remove_->setEnabled(!drawing->isLocked);
    isFilling_ = false;
}

/// What the form holds now, of the drawing that it shows.
void DrawingsDialog::take()
{
    const Drawing* own = shown();
    if (!own || isFilling_)
        return;
    Drawing drawing = *own;
    // A name stands in quotes in expressions.
    drawing.name = utf8(name_->text().remove(QLatin1Char('"')).trimmed());
    drawing.text = utf8(text_->toPlainText().left(1000));
    drawing.colour = static_cast<PalettePart>(colour_->currentData().toInt());
    drawing.width = width_->value();
    drawing.isLogarithmic = logarithmic_->isChecked();
    drawing.isLocked = locked_->isChecked();
    drawing.isHidden = hidden_->isChecked();
    if (drawing != *own)
        Q_EMIT looksChanged(drawing);
}

} // namespace sieve::app
