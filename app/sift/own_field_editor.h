#pragma once

#include "app/desk/asker.h"
#include "core/screens/field_trial.h"

#include <QDialog>

class QComboBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QListWidget;
class QPushButton;
class QSpinBox;
class QTreeWidget;

namespace sieve::app {

class Desk;
class ExpressionEdit;

/// The person's own fields: names for formulas, used as any field. While one is typed, every part
/// of it is shown with its value for the chosen stock, and how the whole is spread today.
class OwnFieldEditor : public QDialog {
    Q_OBJECT
public:
    explicit OwnFieldEditor(Desk& desk, QWidget* parent = nullptr);

private:
    enum Column { Part, Value, From, ColumnCount };

    QWidget* buildForm();
    void addRow(QFormLayout* form, const QString& label, QWidget* widget, const QString& tip = {});
    void fillList();
    void showField();
    void begin();
    void showMessage(const QString& what);
    language::Field draft() const;
    void tryDraft();
    void showTrial(const screens::FieldTrial& trial);
    void save();
    void remove();
    QStringList usersOf(const std::string& name) const;

    Desk& desk_;
    Asker asker_;
    std::string former_; ///< the field that is edited; empty: a new one
    bool isShowing_ = false;
    QListWidget* list_;
    QLineEdit* name_;
    QLineEdit* title_;
    QLineEdit* meaning_;
    ExpressionEdit* formula_;
    QComboBox* unit_;
    QSpinBox* decimals_;
    QComboBox* better_;
    QComboBox* graphic_;
    QLabel* summary_;
    QLabel* spread_;
    QTreeWidget* parts_;
    QPushButton* save_;
    QPushButton* remove_;
};

} // namespace sieve::app
