#pragma once

#include <QDialog>
#include <string>
#include <vector>

class QLabel;
class QLineEdit;
class QListWidget;

namespace sieve::app {

/// Chooses the columns of a table from the dictionary: search by word, tick, drag into order.
class ColumnChooser : public QDialog {
    Q_OBJECT
public:
    ColumnChooser(std::vector<std::string> columns, QWidget* parent);
    std::vector<std::string> columns() const;

private:
    void filter(const QString& words);
    void tell();
    void addOwn();

    QLineEdit* search_;
    QListWidget* list_;
    QLabel* meaning_;
};

} // namespace sieve::app
