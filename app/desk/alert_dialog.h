#pragma once

#include "core/library/work.h"

#include <QDialog>
#include <functional>
#include <optional>

class QComboBox;
class QDateEdit;
class QDoubleSpinBox;
class QFormLayout;
class QLabel;
class QLineEdit;
class QSpinBox;

namespace sieve::app {

class ExpressionEdit;

/// What an alert waits for, of whom, how often it is told.
class AlertDialog : public QDialog {
    Q_OBJECT
public:
    /// What is asked of the program while one types.
    struct Asked {
        /// Why a text is no condition; empty: it is one.
        std::function<std::optional<LocatedError>(const QString&)> fault;
        /// Whether the market has a stock of that symbol; true where none is open.
        std::function<bool(const QString&)> isStock;
    };

    AlertDialog(const library::Work& work, const watchlists::Alert& alert, Asked asked,
                QWidget* parent);

    watchlists::Alert alert() const;

    void accept() override; ///< once all is right

private:
    void arrange();
    QString symbolMeant() const;
    QString fault() const;

    watchlists::Alert alert_;
    Asked asked_;
    QFormLayout* form_;
    QComboBox* what_;
    QComboBox* about_; ///< one stock, a list, all lists
    QLineEdit* symbol_;
    QDoubleSpinBox* level_;
    ExpressionEdit* rule_;
    QComboBox* marketRule_;
    QSpinBox* days_;
    QComboBox* repeat_;
    QSpinBox* holdOff_;
    QLineEdit* words_;
    QLabel* fault_;
};

} // namespace sieve::app
