#include "app/weigh/checklists_dialog.h"

#include "app/desk/desk.h"
#include "app/desk/workbench.h"
#include "app/look/tone.h"
#include "app/parts/expression_edit.h"
#include "app/parts/number_text.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <algorithm>

namespace sieve::app {

using watchlists::Checklist;
using watchlists::Question;

ChecklistsDialog::ChecklistsDialog(Desk& desk, const QString& chosen, QWidget* parent)
    : QDialog(parent), desk_(desk), book_(desk.work().nameBook()), lists_(new QComboBox),
      name_(new QLineEdit), questions_(new QTreeWidget), words_(new QLineEdit),
      rule_(new ExpressionEdit), fault_(new QLabel)
{
    setWindowTitle(tr("Your checklists"));
    fault_->setWordWrap(true);
    setTone(fault_, Tone::Caution);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel);
    keep_ = buttons->addButton(tr("&Keep and judge by it"), QDialogButtonBox::AcceptRole);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(buttons, &QDialogButtonBox::accepted, this, [this] {
        if (!keep())
            return;
        Q_EMIT this->chosen(text(draft_.name));
        accept();
    });
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(makeHead());
    layout->addWidget(makeQuestions(), 1);
    layout->addWidget(fault_);
    layout->addWidget(buttons);
    resize(720, 520);
    for (const Checklist& each : *desk_.work().now().checklists)
        lists_->addItem(text(each.name));
    connect(lists_, &QComboBox::activated, this, [this](int at) {
        if (const auto* list = desk_.work().now().findChecklist(utf8(lists_->itemText(at))))
            show(*list);
    });
    if (const auto* list = desk_.work().now().findChecklist(utf8(chosen))) {
        lists_->setCurrentText(chosen);
        show(*list);
    } else {
        beginAnother();
    }
}

QLayout* ChecklistsDialog::makeHead()
{
    lists_->setAccessibleName(tr("Checklist"));
    name_->setAccessibleName(tr("Name of the checklist"));
    auto* another = new QPushButton(tr("&New"));
    auto* removed = new QPushButton(tr("&Remove"));
    for (QPushButton* button : {another, removed})
        button->setAutoDefault(false);
    connect(another, &QPushButton::clicked, this, &ChecklistsDialog::beginAnother);
    connect(removed, &QPushButton::clicked, this, &ChecklistsDialog::remove);
    connect(name_, &QLineEdit::textEdited, this, [this] {
        draft_.name = utf8(name_->text().trimmed());
        tellFault();
    });
    auto* row = new QHBoxLayout;
    row->addWidget(lists_, 1);
    row->addWidget(another);
    row->addWidget(removed);
    auto* form = new QFormLayout;
    form->addRow(tr("Checklist"), row);
    form->addRow(tr("Na&me"), name_);
    return form;
}

QWidget* ChecklistsDialog::makeQuestions()
{
    questions_->setAccessibleName(tr("Questions"));
    questions_->setHeaderLabels({tr("Question"), tr("Rule that answers it")});
    questions_->setRootIsDecorated(false);
    questions_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    questions_->header()->setSectionResizeMode(1, QHeaderView::Stretch);
    connect(questions_, &QTreeWidget::currentItemChanged, this, &ChecklistsDialog::showQuestion);
    words_->setAccessibleName(tr("Words of the question"));
    rule_->setAccessibleName(tr("Rule"));
    rule_->setProperty("quiet", false);
    rule_->setPlaceholderText(tr("A condition of the language; without, you answer it yourself"));
    for (QLineEdit* line : {words_, static_cast<QLineEdit*>(rule_)})
        connect(line, &QLineEdit::textEdited, this, &ChecklistsDialog::readQuestion);
    auto* row = new QHBoxLayout;
    const auto add = [&](const QString& title, auto take) {
        auto* button = new QPushButton(title);
        button->setAutoDefault(false);
        connect(button, &QPushButton::clicked, this, take);
        row->addWidget(button);
    };
    add(tr("&Add a question"), [this] {
        QString words = tr("A new question");
        for (int number = 2;
             std::ranges::count(draft_.questions, utf8(words), &Question::words) > 0; ++number)
            words = tr("A new question %1").arg(number);
        draft_.questions.push_back({utf8(words)});
        fillQuestions(static_cast<int>(draft_.questions.size()) - 1);
        words_->setFocus();
        words_->selectAll();
    });
    add(tr("Take it &out"), [this] {
        const int at = questions_->indexOfTopLevelItem(questions_->currentItem());
        if (at < 0)
            return;
        draft_.questions.erase(draft_.questions.begin() + at);
        fillQuestions(std::min(at, static_cast<int>(draft_.questions.size()) - 1));
    });
    add(tr("&Up"), [this] { move(-1); });
    add(tr("&Down"), [this] { move(1); });
    row->addStretch(1);
    auto* form = new QFormLayout;
    form->addRow(tr("&Question"), words_);
    form->addRow(tr("Ru&le"), rule_);
    auto* sheet = new QWidget;
    auto* layout = new QVBoxLayout(sheet);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(questions_, 1);
    layout->addLayout(row);
    layout->addLayout(form);
    return sheet;
}

void ChecklistsDialog::show(const Checklist& checklist)
{
    from_ = checklist.name;
    draft_ = checklist;
    name_->setText(text(checklist.name));
    fillQuestions(0);
}

void ChecklistsDialog::beginAnother()
{
    from_.clear();
    draft_ = {};
    name_->clear();
    name_->setFocus();
    fillQuestions(-1);
}

void ChecklistsDialog::remove()
{
    if (from_.empty())
        return beginAnother();
    const bool isDone = desk_.work().edit(tr("Remove the checklist “%1”").arg(text(from_)),
                                          [&](Work& work) { removeChecklist(work, from_); });
    if (!isDone)
        return;
    lists_->removeItem(lists_->findText(text(from_)));
    if (const auto& left = *desk_.work().now().checklists; !left.empty()) {
        lists_->setCurrentText(text(left.front().name));
        show(left.front());
    } else {
        beginAnother();
    }
}

void ChecklistsDialog::fillQuestions(int current)
{
    {
        const QSignalBlocker blocker(questions_);
        questions_->clear();
        for (const Question& question : draft_.questions) {
            auto* item = new QTreeWidgetItem(questions_);
            item->setText(0, text(question.words));
            item->setText(1, question.rule.empty() ? tr("you answer it") : text(question.rule));
        }
        questions_->setCurrentItem(questions_->topLevelItem(current));
    }
    showQuestion();
    tellFault();
}

void ChecklistsDialog::showQuestion()
{
    const int at = questions_->indexOfTopLevelItem(questions_->currentItem());
    const bool isOne = at >= 0;
    words_->setEnabled(isOne);
    rule_->setEnabled(isOne);
    const Question question = isOne ? draft_.questions[static_cast<std::size_t>(at)] : Question{};
    words_->setText(text(question.words));
    rule_->setText(text(question.rule));
    tellFault();
}

void ChecklistsDialog::readQuestion()
{
    const int at = questions_->indexOfTopLevelItem(questions_->currentItem());
    if (at < 0)
        return;
    Question& question = draft_.questions[static_cast<std::size_t>(at)];
    question = {utf8(words_->text().trimmed()), utf8(rule_->text().trimmed())};
    questions_->currentItem()->setText(0, text(question.words));
    questions_->currentItem()->setText(1, question.rule.empty() ? tr("you answer it")
                                                                : text(question.rule));
    tellFault();
}

void ChecklistsDialog::move(int by)
{
    const int at = questions_->indexOfTopLevelItem(questions_->currentItem());
    const int to = at + by;
    if (at < 0 || to < 0 || to >= static_cast<int>(draft_.questions.size()))
        return;
    std::swap(draft_.questions[static_cast<std::size_t>(at)],
              draft_.questions[static_cast<std::size_t>(to)]);
    fillQuestions(to);
}

/// Why it cannot be kept as it stands; empty: it can.
std::string ChecklistsDialog::faultNow() const
{
    if (draft_.name.empty() || draft_.name.find('"') != std::string::npos)
        return utf8(tr("Give the checklist a name, without quotes in it."));
    if (draft_.name != from_ && desk_.work().now().findChecklist(draft_.name))
        return utf8(tr("There is another checklist of that name."));
    if (draft_.questions.size() > watchlists::mostQuestions)
        return utf8(tr("A checklist has at most %1 questions.").arg(watchlists::mostQuestions));
    for (const Question& question : draft_.questions) {
        if (question.words.empty())
            return utf8(tr("A question has no words."));
        if (std::ranges::count(draft_.questions, question.words, &Question::words) > 1)
            return utf8(tr("“%1” is asked twice.").arg(text(question.words)));
        engine::Plan plan;
        if (!question.rule.empty())
            if (const auto checked = language::checkCondition(question.rule, book_->names(), plan);
                !checked)
                return utf8(
                    tr("“%1”: %2").arg(text(question.words), text(sentence(checked.error()))));
    }
    return {};
}

void ChecklistsDialog::tellFault()
{
    const std::string fault = faultNow();
    fault_->setText(text(fault));
    keep_->setEnabled(fault.empty());
    engine::Plan plan;
    const std::string rule = utf8(rule_->text().trimmed());
    const auto checked = rule.empty()
                             ? std::nullopt
                             : std::optional(language::checkCondition(rule, book_->names(), plan));
    rule_->setFault(checked && !*checked ? std::optional(checked->error()) : std::nullopt);
}

bool ChecklistsDialog::keep()
{
    const auto* former = from_.empty() ? nullptr : desk_.work().now().findChecklist(from_);
    if (former && *former == draft_)
        return true;
    return desk_.work().edit(
        tr("Change the checklist “%1”").arg(text(draft_.name)),
        [&](Work& work) { keepChecklist(work, former ? from_ : std::string(), draft_); });
}

} // namespace sieve::app
