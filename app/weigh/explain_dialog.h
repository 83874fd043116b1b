#pragma once

#include "app/desk/asker.h"
#include "core/engine/evaluator.h"
#include "core/screens/name_book.h"

#include <QDialog>

class QTreeWidget;
class QLabel;

namespace sieve::app {

/// Where a figure of one stock comes from: its formula with the value of every part, and the bars
/// and statements that they were read from.
class ExplainDialog : public QDialog {
    Q_OBJECT
public:
    ExplainDialog(std::shared_ptr<engine::Evaluator> evaluator, screens::NameBookPtr book,
                  std::size_t stock, Day day, const QString& expression, const QString& title,
                  QWidget* parent);

Q_SIGNALS:
    void failed(const QString& message);

private:
    Asker asker_;
    QLabel* problem_;
    QTreeWidget* parts_;
};

} // namespace sieve::app
