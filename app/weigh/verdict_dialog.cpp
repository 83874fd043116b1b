#include "app/weigh/verdict_dialog.h"

#include "app/look/look.h"
#include "app/look/tone.h"
#include "app/parts/number_text.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace sieve::app {

namespace {

enum Column { Answer, Question, Figure };
constexpr int isOwn = Qt::UserRole;
constexpr int answerNow = Qt::UserRole + 1; ///< 1 yes, 0 no, -1 none

} // namespace

VerdictDialog::VerdictDialog(QWidget* parent)
    : QDialog(parent), told_(new QLabel), questions_(new QTreeWidget), sentence_(new QLineEdit)
{
    told_->setFont(fontOf(Weight::Medium, 1.05));
    told_->setWordWrap(true);
    questions_->setAccessibleName(tr("Questions"));
    questions_->setHeaderLabels({QString(), tr("Question"), tr("Figure, or when you answered")});
    questions_->setRootIsDecorated(false);
    questions_->setUniformRowHeights(true);
    questions_->header()->setStretchLastSection(false);
    questions_->header()->setSectionResizeMode(Answer, QHeaderView::ResizeToContents);
    questions_->header()->setSectionResizeMode(Question, QHeaderView::Stretch);
    questions_->header()->setSectionResizeMode(Figure, QHeaderView::ResizeToContents);
    questions_->installEventFilter(this);
    connect(questions_, &QTreeWidget::itemActivated, this, [this] { answerChosen(Qt::Key_Space); });
    sentence_->setAccessibleName(tr("Verdict"));
    sentence_->setPlaceholderText(tr("The verdict in a sentence"));
    connect(sentence_, &QLineEdit::editingFinished, this, &VerdictDialog::tellSentence);
    auto* hint = new QLabel(tr("Y yes, N no, Space the next answer. Rules answer themselves."));
    setTone(hint, Tone::Soft);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    auto* lists = buttons->addButton(tr("Check&lists…"), QDialogButtonBox::ActionRole);
    for (QAbstractButton* button : buttons->buttons())
        static_cast<QPushButton*>(button)->setAutoDefault(false); // Return ends the sentence
    connect(lists, &QPushButton::clicked, this, &VerdictDialog::checklistsAsked);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(told_);
    layout->addWidget(questions_, 1);
    layout->addWidget(hint);
    layout->addWidget(sentence_);
    layout->addWidget(buttons);
    resize(620, 420);
}

VerdictDialog::~VerdictDialog()
{
    sentence_->disconnect(this); // it loses the focus with the window
}

void VerdictDialog::setStock(const dossier::Dossier& dossier, const market::Market& market,
                             const watchlists::Verdict& verdict)
{
    const bool isSame = of_ == std::pair(dossier.stock, dossier.day);
    if (!isSame)
        tellSentence(); // of the stock that was shown till now
    of_ = std::pair(dossier.stock, dossier.day);
    setWindowTitle(tr("%1 by “%2”, as of %3")
                       .arg(text(dossier.symbol), text(verdict.checklist), dayText(dossier.day)));
    const dossier::Part* part = dossier.part("verdict");
    QStringList told;
    for (const std::string& words : part->words)
        told << text(words);
    told_->setText(told.join(QLatin1Char('\n')));
    const int chosen = questions_->indexOfTopLevelItem(questions_->currentItem());
    questions_->clear();
    if (!part->tables.empty())
        for (const dossier::Row& row : part->tables[0].rows) {
            const dossier::Cell& answer = row.cells[0];
            const bool isByPerson = answer.expression.empty();
            const int now = isMissing(answer.value) ? -1 : answer.value == 1.0;
            auto* item = new QTreeWidgetItem(questions_);
            item->setText(Answer, now < 0    ? QStringLiteral("?")
                                  : now == 1 ? QStringLiteral("✓")
                                             : QStringLiteral("✗"));
            item->setForeground(Answer, now < 0    ? look().softInk
                                        : now == 1 ? look().mark
                                                   : look().fall);
            item->setFont(Answer, fontOf(Weight::SemiBold));
            item->setText(Question, text(row.title));
            item->setToolTip(Question, text(row.meaning));
            const dossier::Cell& behind = row.cells[1];
            item->setText(Figure, !answer.note.empty()   ? text(answer.note)
                                  : !behind.text.empty() ? text(behind.text)
                                  : behind.expression.empty()
                                      ? QString()
                                      : valueText(behind.value, behind.kind, behind.unit,
                                                  behind.decimals, market.texts()));
            item->setTextAlignment(Figure, Qt::AlignRight | Qt::AlignVCenter);
            item->setForeground(Figure, isByPerson ? look().softInk : look().ink);
            item->setData(Answer, isOwn, isByPerson);
            item->setData(Answer, answerNow, now);
        }
    questions_->setCurrentItem(questions_->topLevelItem(isSame && chosen >= 0 ? chosen : 0));
    if (!isSame || !sentence_->isModified())
        sentence_->setText(text(verdict.words));
}

void VerdictDialog::tellSentence()
{
    if (!sentence_->isModified())
        return;
    sentence_->setModified(false);
    Q_EMIT said(sentence_->text().trimmed());
}

void VerdictDialog::answerChosen(int key)
{
    const QTreeWidgetItem* item = questions_->currentItem();
    if (!item || !item->data(Answer, isOwn).toBool())
        return;
    const int now = item->data(Answer, answerNow).toInt();
    const std::optional<bool> next = key == Qt::Key_Y   ? std::optional(true)
                                     : key == Qt::Key_N ? std::optional(false)
                                     : now < 0          ? std::optional(true)
                                     : now == 1         ? std::optional(false)
                                                        : std::nullopt;
    Q_EMIT answered(item->text(Question), next);
}

bool VerdictDialog::eventFilter(QObject* watched, QEvent* event)
{
    if (watched != questions_ || event->type() != QEvent::KeyPress)
        return QDialog::eventFilter(watched, event);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key != Qt::Key_Y && key != Qt::Key_N && key != Qt::Key_Space)
        return false;
    answerChosen(key);
    return true;
}

/// What is typed counts.
void VerdictDialog::done(int result)
{
    tellSentence();
    QDialog::done(result);
}

} // namespace sieve::app
