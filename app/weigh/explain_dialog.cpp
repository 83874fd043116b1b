#include "app/weigh/explain_dialog.h"

#include "app/parts/number_text.h"
#include "app/parts/parts_tree.h"

#include <QDialogButtonBox>
#include <QHeaderView>
#include <QLabel>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace sieve::app {

ExplainDialog::ExplainDialog(std::shared_ptr<engine::Evaluator> evaluator,
                             screens::NameBookPtr book, std::size_t stock, Day day,
                             const QString& expression, const QString& title, QWidget* parent)
    : QDialog(parent), asker_(this), problem_(new QLabel), parts_(new QTreeWidget)
{
    setWindowTitle(tr("%1 of %2").arg(title, text(evaluator->market().instrument(stock).symbol)));
    problem_->setWordWrap(true);
    problem_->hide();
    parts_->setAccessibleName(tr("Parts of the figure"));
    parts_->setColumnCount(3);
    parts_->setHeaderLabels({tr("Part"), tr("Value"), tr("From")});
    parts_->header()->setStretchLastSection(false);
    parts_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    for (const int column : {1, 2})
        parts_->header()->setSectionResizeMode(column, QHeaderView::ResizeToContents);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(new QLabel(tr("As known on %1").arg(dayText(day))));
    layout->addWidget(problem_);
    layout->addWidget(parts_, 1);
    layout->addWidget(buttons);
    resize(680, 420);
    connect(&asker_, &Asker::failed, this, &ExplainDialog::failed);
    asker_.ask(
        [evaluator, book = std::move(book), stock, day,
         expression = utf8(expression)](const Progress&) {
            return language::explain(expression, book->names(), *evaluator, stock, day);
        },
        [this, evaluator](const Result<language::Explanation>& made) {
            if (!made) {
                problem_->setText(text(made.error().problem + "; " + made.error().remedy));
                problem_->show();
                return;
            }
            addParts(parts_->invisibleRootItem(), *made, evaluator->market().texts(), {0, 1, 2});
            parts_->expandToDepth(1);
            parts_->setCurrentItem(parts_->topLevelItem(0));
        });
}

} // namespace sieve::app
