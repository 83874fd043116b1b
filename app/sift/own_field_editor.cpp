#include "app/sift/own_field_editor.h"

#include "app/desk/desk.h"
#include "app/desk/field_shelf.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/screen_shelf.h"
#include "app/desk/workbench.h"
#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/parts/parts_tree.h"
#include "core/screens/renaming.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <QSplitter>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <array>

namespace sieve::app {

namespace {

using language::Better;
using language::CellGraphic;

constexpr int fieldNameRole = Qt::UserRole;
constexpr std::array units{Unit::Plain,  Unit::Money, Unit::Percent, Unit::Ratio,
                           Unit::Shares, Unit::Days,  Unit::Points};

} // namespace

OwnFieldEditor::OwnFieldEditor(Desk& desk, QWidget* parent)
    : QDialog(parent), desk_(desk), asker_(this), list_(new QListWidget), name_(new QLineEdit),
      title_(new QLineEdit), meaning_(new QLineEdit), formula_(new ExpressionEdit),
      unit_(new QComboBox), decimals_(new QSpinBox), better_(new QComboBox),
      graphic_(new QComboBox), summary_(new QLabel), spread_(new QLabel), parts_(new QTreeWidget),
      save_(new QPushButton(tr("Save"))), remove_(new QPushButton(tr("Remove")))
{
    setWindowTitle(tr("Own fields"));
    resize(980, 640);
    list_->setAccessibleName(tr("Own fields"));
    auto* begin = new QPushButton(tr("New field"));
    auto* close = new QPushButton(tr("Close"));
    for (QPushButton* button : {begin, close, remove_})
        button->setAutoDefault(false);
    auto* left = new QWidget;
    auto* leftLayout = new QVBoxLayout(left);
    leftLayout->setContentsMargins(0, 0, 0, 0);
    leftLayout->addWidget(list_, 1);
    leftLayout->addWidget(begin);
    auto* halves = new QSplitter;
    halves->setChildrenCollapsible(false);
    halves->addWidget(left);
    halves->addWidget(buildForm());
    halves->setSizes({220, 760});
    auto* foot = new QHBoxLayout;
    foot->addWidget(remove_);
    foot->addWidget(summary_, 1);
    foot->addWidget(close);
    foot->addWidget(save_);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(halves, 1);
    layout->addLayout(foot);
    save_->setDefault(true); // only within the dialog does it know whose default it is
    save_->setProperty("leading", true);
    summary_->setWordWrap(true);
    setTone(summary_, Tone::Soft);

    connect(list_, &QListWidget::currentItemChanged, this, &OwnFieldEditor::showField);
    connect(begin, &QPushButton::clicked, this, &OwnFieldEditor::begin);
    connect(close, &QPushButton::clicked, this, &QDialog::reject);
    connect(save_, &QPushButton::clicked, this, &OwnFieldEditor::save);
    connect(remove_, &QPushButton::clicked, this, &OwnFieldEditor::remove);
    connect(&desk_.focus(), &Focus::selectionChanged, this, &OwnFieldEditor::tryDraft);
    connect(&asker_, &Asker::failed, summary_, &QLabel::setText);
    fillList();
    if (list_->count() == 0)
        this->begin();
    else
        list_->setCurrentRow(0);
}

void OwnFieldEditor::addRow(QFormLayout* form, const QString& label, QWidget* widget,
                            const QString& tip)
{
    widget->setAccessibleName(label);
    widget->setToolTip(tip);
    form->addRow(label, widget);
}

QWidget* OwnFieldEditor::buildForm()
{
    unit_->addItem(tr("as the formula gives"));
    for (const Unit unit : units)
        if (unit != Unit::Plain)
            unit_->addItem(text(unitName(unit)));
    decimals_->setRange(0, 8);
    decimals_->setButtonSymbols(QAbstractSpinBox::NoButtons); // typed, the arrow keys or the wheel
    formula_->setProperty("quiet", false);
    better_->addItems({tr("neither"), tr("more"), tr("less")});
    graphic_->addItems({tr("none"), tr("bar among all stocks"), tr("mark in the day's range"),
                        tr("line of the last months"), tr("sign of rise or fall")});
    auto* shown = new QHBoxLayout;
    const auto add = [&](const QString& label, QWidget* widget) {
        widget->setAccessibleName(label);
        shown->addWidget(new QLabel(label));
        shown->addWidget(widget);
        shown->addSpacing(8);
    };
    add(tr("Unit"), unit_);
    add(tr("Decimals"), decimals_);
    add(tr("Better"), better_);
    add(tr("Cell"), graphic_);
    shown->addStretch(1);
    auto* form = new QFormLayout;
    addRow(form, tr("Name"), name_,
           tr("By which formulas and screens call it: small letters, "
              "digits and _"));
    addRow(form, tr("Title"), title_, tr("Over its column"));
    addRow(form, tr("Meaning"), meaning_, tr("One sentence, told wherever it is offered"));
    addRow(form, tr("Formula"), formula_);
    form->addRow(tr("Shown as"), shown);
    setTone(spread_, Tone::Soft);
    spread_->setWordWrap(true);
    parts_->setAccessibleName(tr("Parts"));
    parts_->setProperty("roomy", true);
    parts_->setColumnCount(ColumnCount);
    parts_->setHeaderLabels({tr("Part"), tr("Value"), tr("From")});
    parts_->header()->setStretchLastSection(false);
    parts_->header()->setSectionResizeMode(QHeaderView::ResizeToContents);
    parts_->header()->setSectionResizeMode(Part, QHeaderView::Stretch);
    parts_->headerItem()->setTextAlignment(Value, Qt::AlignRight | Qt::AlignVCenter);
    auto* side = new QWidget;
    auto* layout = new QVBoxLayout(side);
    layout->setContentsMargins(8, 0, 0, 0);
    layout->addLayout(form);
    layout->addWidget(spread_);
    layout->addWidget(parts_, 1);
    for (QLineEdit* line : {name_, title_, meaning_, static_cast<QLineEdit*>(formula_)})
        connect(line, &QLineEdit::textChanged, this, &OwnFieldEditor::tryDraft);
    for (QComboBox* box : {unit_, better_, graphic_})
        connect(box, &QComboBox::currentIndexChanged, this, &OwnFieldEditor::tryDraft);
    connect(decimals_, &QSpinBox::valueChanged, this, &OwnFieldEditor::tryDraft);
    return side;
}

void OwnFieldEditor::fillList()
{
    const QSignalBlocker quiet(list_);
    list_->clear();
    for (const language::Field& field : desk_.fieldShelf().all()->fields()) {
        auto* item = new QListWidgetItem(text(field.name), list_);
        item->setData(fieldNameRole, text(field.name));
        item->setToolTip(text(field.title));
        if (field.name == former_)
            list_->setCurrentItem(item);
    }
}

void OwnFieldEditor::begin()
{
    list_->setCurrentItem(nullptr);
    former_.clear();
    showField();
    name_->setFocus();
}

void OwnFieldEditor::showField()
{
    const QListWidgetItem* item = list_->currentItem();
    former_ = item ? utf8(item->data(fieldNameRole).toString()) : std::string();
    const language::Field* known = desk_.fieldShelf().find(former_);
    const language::Field field = known ? *known : language::Field{};
    isShowing_ = true;
    name_->setText(text(field.name));
    title_->setText(text(field.title));
    meaning_->setText(text(field.meaning));
    formula_->setText(text(field.formula));
    const auto unit = std::ranges::find(units, field.unit);
    unit_->setCurrentIndex(static_cast<int>(unit - units.begin()));
    decimals_->setValue(field.decimals);
    better_->setCurrentIndex(static_cast<int>(field.better));
    graphic_->setCurrentIndex(static_cast<int>(field.graphic));
    isShowing_ = false;
    remove_->setEnabled(known != nullptr);
    tryDraft();
}

language::Field OwnFieldEditor::draft() const
{
    language::Field field;
    field.name = utf8(name_->text().trimmed());
    field.title = utf8(title_->text().trimmed());
    if (field.title.empty())
        field.title = field.name;
    field.head = field.title;
    field.meaning = utf8(meaning_->text().trimmed());
    field.formula = utf8(formula_->text().trimmed());
    field.family = utf8(tr("Own"));
    field.unit = units.at(static_cast<std::size_t>(unit_->currentIndex()));
    field.decimals = decimals_->value();
    field.better = static_cast<Better>(better_->currentIndex());
    field.graphic = static_cast<CellGraphic>(graphic_->currentIndex());
    return field;
}

void OwnFieldEditor::showMessage(const QString& what)
{
    summary_->setText(what);
}

void OwnFieldEditor::tryDraft()
{
    if (isShowing_)
        return;
    showMessage({});
    formula_->setFault(std::nullopt);
    save_->setEnabled(false);
    const language::Field field = draft();
    if (field.formula.empty() || !desk_.market().isOpen()) {
        asker_.stop();
        parts_->clear();
        spread_->setText(tr("A field is a formula with a name: %1")
                             .arg(QStringLiteral("close / sma(close, 50) - 1")));
        return;
    }
    const bool isNamed = !field.name.empty();
    asker_.ask(
        [field, isNamed, former = former_, evaluator = desk_.market().evaluator(),
         book = desk_.work().nameBook(), stock = desk_.focus().selected(),
         day = desk_.focus().day()](const Progress& progress) {
            language::Field tried = field;
            if (!isNamed) // what is typed can be looked at before it has a name
                tried.name = former.empty() ? "field_without_a_name" : former;
            return screens::tryField(tried, former, *book, *evaluator, stock, day, progress);
        },
        [this, isNamed](const screens::FieldTrial& trial) {
            showTrial(trial);
            save_->setEnabled(isNamed && !trial.error);
            if (!isNamed && !trial.error)
                showMessage(tr("It needs a name to be saved."));
        });
}

void OwnFieldEditor::showTrial(const screens::FieldTrial& trial)
{
    parts_->clear();
    formula_->setFault(trial.error);
    if (trial.error) {
        showMessage(text(sentence(*trial.error)));
        spread_->clear();
        return;
    }
    QString sentence = tr("%1, %2; known of %3 of %4 stocks")
                           .arg(text(kindName(trial.kind)), text(unitName(trial.unit)))
                           .arg(trial.known)
                           .arg(trial.stocks);
    if (!isMissing(trial.median))
        sentence += tr("; half of them below %1, nearly all from %2 to %3")
                        .arg(numberText(trial.median, trial.unit, decimals_->value()),
                             numberText(trial.spread.low, trial.unit, decimals_->value()),
                             numberText(trial.spread.high, trial.unit, decimals_->value()));
    spread_->setText(sentence);
    if (!trial.parts) {
        new QTreeWidgetItem(parts_, {tr("Choose a stock to see the value of every part")});
        return;
    }
    const market::Instrument& stock = desk_.market().data().instrument(*desk_.focus().selected());
    auto* root =
        new QTreeWidgetItem(parts_, {tr("%1, %2").arg(text(stock.symbol), text(stock.name))});
    root->setFont(Part, fontOf(Weight::SemiBold));
    addParts(root, *trial.parts, desk_.market().data().texts(), {Part, Value, From});
    parts_->expandAll();
}

void OwnFieldEditor::save()
{
    const language::Field field = draft();
    if (const auto error = desk_.fieldShelf().put(former_, field))
        return showMessage(text(sentence(*error)));
    former_ = field.name;
    fillList();
    showField();
    showMessage(tr("Saved. It can be used as any field."));
}

/// What would no longer check without it.
QStringList OwnFieldEditor::usersOf(const std::string& name) const
{
    QStringList users;
    for (const std::string& own : desk_.fieldShelf().all()->usersOf(name))
        users << text(own);
    constexpr auto field = language::Renaming::What::Field;
    for (const screens::Screen& screen : desk_.screenShelf().all())
        if (names(screen, field, name))
            users << tr("screen “%1”").arg(text(screen.name));
    if (names(*desk_.work().now().screen, field, name))
        users << tr("the screen in hand");
    for (const auto& draft : desk_.work().now().drafts)
        if (names(*draft, field, name))
            users << tr("screen “%1”, not saved").arg(text(draft->name));
    if (names(*desk_.work().now().marketBook, field, name))
        users << tr("the rules of Market");
    return users;
}

void OwnFieldEditor::remove()
{
    const QStringList users = usersOf(former_);
    if (!users.isEmpty())
        return showMessage(
            tr("It is used by %1. Take it out there first.").arg(users.join(QStringLiteral(", "))));
    if (const auto error = desk_.fieldShelf().remove(former_))
        return showMessage(text(sentence(*error)));
    former_.clear();
    fillList();
    if (list_->count() > 0)
        list_->setCurrentRow(0);
    showField();
}

} // namespace sieve::app
