#include "app/weigh/occurrences_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/focus.h"
#include "app/desk/open_market.h"
#include "app/desk/workbench.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"
#include "app/weigh/aftermath_picture.h"
#include "app/weigh/case_model.h"
#include "core/screens/starter.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QTableView>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

OccurrencesDialog::OccurrencesDialog(Desk& desk, std::size_t stock, const QString& condition,
                                     QWidget* parent)
    : QDialog(parent), desk_(desk), asker_(this), market_(desk.market().evaluator()->marketPtr()),
      stock_(stock), day_(desk.focus().day()), screens_(new QComboBox),
      condition_(new ExpressionEdit), stop_(new QDoubleSpinBox), target_(new QDoubleSpinBox),
      within_(new QSpinBox), told_(new QLabel), picture_(new AftermathPicture),
      ownAlone_(new QCheckBox), model_(new CaseModel(this)), table_(new QTableView)
{
    setWindowTitle(tr("Earlier occurrences, as known on %1").arg(shortDayText(day_)));
    told_->setWordWrap(true);
    ownAlone_->setText(
        tr("%1 alone").arg(text(market::symbolOn(market_->instrument(stock), day_))));
    connect(ownAlone_, &QCheckBox::toggled, this, &OccurrencesDialog::showCases);
    table_->setModel(model_);
    table_->setAccessibleName(tr("Cases"));
    table_->setItemDelegateForColumn(CaseModel::pictureColumn(), new CasePainter(table_));
    table_->setSelectionBehavior(QAbstractItemView::SelectRows);
    table_->verticalHeader()->hide();
    table_->setShowGrid(false);
    connect(table_, &QTableView::activated, this, [this](const QModelIndex& index) {
        const studies::Aftermath& of = model_->caseAt(index.row()).of;
        Q_EMIT caseChosen(of.of.stock, of.day);
    });
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(makeQuestion());
    layout->addWidget(told_);
    layout->addWidget(picture_);
    layout->addWidget(ownAlone_);
    layout->addWidget(table_, 1);
    resize(1060, 660);
    connect(&asker_, &Asker::failed, &desk_, &Desk::noticed);
    condition_->setText(condition);
    condition_->setFocus();
    told_->setText(tr("A condition of the language, or one of your screens. Each stock in which it "
                      "began to hold is a case; it is bought at the next open."));
    if (!condition.isEmpty())
        ask();
}

QLayout* OccurrencesDialog::makeQuestion()
{
    screens_->setAccessibleName(tr("Screen"));
    screens_->addItem(tr("A screen…"));
    for (const auto& kept : desk_.work().now().screens)
        screens_->addItem(text(kept->screen.name));
    for (const screens::Screen& ready : screens::starterScreens())
        if (screens_->findText(text(ready.name)) < 0)
            screens_->addItem(text(ready.name));
    connect(screens_, &QComboBox::activated, this, [this](int at) {
        if (at == 0)
            return;
        condition_->setText(QStringLiteral("passes(\"%1\")").arg(screens_->itemText(at)));
        ask();
    });
    condition_->setAccessibleName(tr("Condition"));
    condition_->setPlaceholderText(QStringLiteral("close > highest(prior(close), 252)"));
    connect(condition_, &QLineEdit::returnPressed, this, &OccurrencesDialog::ask);
    const studies::Terms usual;
    const auto percent = [](QDoubleSpinBox* box, const QString& title, double value, double most) {
        box->setAccessibleName(title);
        box->setButtonSymbols(QAbstractSpinBox::NoButtons);
        box->setDecimals(1);
        box->setRange(0.5, most);
        box->setValue(100.0 * value);
        box->setSuffix(QStringLiteral(" %"));
    };
    percent(stop_, tr("Stop"), usual.stop, 100.0);
    percent(target_, tr("Target"), usual.target, 1000.0);
    within_->setAccessibleName(tr("Time"));
    within_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    within_->setRange(1, 1000);
    within_->setValue(usual.within);
    within_->setSuffix(tr(" bars"));
    auto* go = new QPushButton(tr("&Look"));
    go->setAutoDefault(false);
    go->setProperty("leading", true);
    connect(go, &QPushButton::clicked, this, &OccurrencesDialog::ask);
    auto* question = new QHBoxLayout;
    question->addWidget(screens_);
    question->addWidget(condition_, 1);
    auto* exits = new QHBoxLayout;
    for (const auto& [title, box] : {std::pair<QString, QWidget*>(tr("Stop"), stop_),
                                     {tr("Target"), target_},
                                     {tr("Time"), within_}}) {
        exits->addWidget(new QLabel(title));
        exits->addWidget(box);
    }
    exits->addStretch(1);
    exits->addWidget(go);
    auto* rows = new QVBoxLayout;
    rows->addLayout(question);
    rows->addLayout(exits);
    return rows;
}

studies::Terms OccurrencesDialog::terms() const
{
    studies::Terms terms;
    terms.stop = stop_->value() / 100.0;
    terms.target = target_->value() / 100.0;
    terms.within = within_->value();
    return terms;
}

void OccurrencesDialog::ask()
{
    const std::string condition = utf8(condition_->text().trimmed());
    if (condition.empty())
        return;
    told_->setText(tr("Looking through all stocks…"));
    // Other terms ask nothing of the condition again, as long as its names mean the same.
    const screens::NameBookPtr book = desk_.work().nameBook();
    const bool isSame = answer_ && answer_->condition == condition && answer_->book == book;
    const auto former = isSame ? answer_->cases : nullptr;
    asker_.ask(
        [evaluator = desk_.market().evaluator(), book, condition, former, terms = terms(),
         day = day_, stock = stock_](const Progress& progress) -> Result<Answer> {
            const market::Market& market = evaluator->market();
            std::vector<studies::Aftermath> cases;
            if (former) {
                cases = studies::withOtherExits(*former, terms, market, day, progress);
            } else {
                const auto found =
                    studies::occurrencesOf(condition, book->names(), *evaluator, day, progress);
                if (!found)
                    return found.error();
                cases = studies::aftermathOf(*found, terms, market, day, progress);
            }
            Answer answer{condition, book, terms, nullptr, {}, {}, {}, {}};
            answer.own = studies::summaryOf(cases, terms, stock);
            answer.all = studies::summaryOf(cases, terms);
            answer.newest = CaseModel::newestOf(cases, std::nullopt, market, day);
            answer.newestOwn = CaseModel::newestOf(cases, stock, market, day);
            answer.cases =
                std::make_shared<const std::vector<studies::Aftermath>>(std::move(cases));
            return answer;
        },
        [this](Result<Answer> answer) { take(std::move(answer)); });
}

void OccurrencesDialog::take(Result<Answer> answer)
{
    condition_->setFault(answer ? std::nullopt : std::optional(answer.error()));
    if (!answer) {
        told_->setText(text(sentence(answer.error())));
        return;
    }
    answer_ = *std::move(answer);
    told_->setText(
        tr("Strips: the middle half of the cases, with their median; the other stroke is the mean "
           "of all stocks from the same days on. A case is independent when the one before it in "
           "the same stock was no longer held."));
    picture_->show(answer_->own, answer_->all, answer_->terms,
                   text(market::symbolOn(market_->instrument(stock_), day_)));
    showCases();
}

void OccurrencesDialog::showCases()
{
    if (!answer_)
        return;
    model_->show(ownAlone_->isChecked() ? answer_->newestOwn : answer_->newest, answer_->terms,
                 market_);
    table_->resizeColumnsToContents();
    table_->setColumnWidth(CaseModel::pictureColumn(), 150);
}

} // namespace sieve::app
