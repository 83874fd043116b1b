#pragma once

#include "core/screens/screen.h"

#include <QDialog>
#include <string>
#include <vector>

class QComboBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QListWidgetItem;

namespace sieve::app {

/// Chooses the columns of a table from the dictionary and the person's own fields: search by word,
/// tick, drag into order, and what each shows beside its figure.
class ColumnChooser : public QDialog {
    Q_OBJECT
public:
    ColumnChooser(const std::vector<std::string>& columns, screens::CellGraphics cells,
                  const language::Vocabulary& vocabulary, QWidget* parent);
    std::vector<std::string> columns() const;
    /// Of the columns that are ticked, where it is not what their field says.
    screens::CellGraphics cells() const;

private:
    QListWidgetItem* makeItem(const std::string& column, bool isChosen) const;
    const language::Field* fieldOf(const QListWidgetItem* item) const;
    language::CellGraphic graphicOf(const QListWidgetItem* item) const;
    void filter(const QString& words);
    void updateTexts();
    void setGraphic(int graphic);
    void addOwn();

    const language::Vocabulary& vocabulary_;
    screens::CellGraphics cells_;
    QLineEdit* search_;
    QListWidget* list_;
    QComboBox* graphic_;
    QLabel* meaning_;
};

} // namespace sieve::app
