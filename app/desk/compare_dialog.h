#pragma once

#include "core/charts/comparable.h"

#include <QDialog>

class QLineEdit;
class QListWidget;

namespace sieve::app {

class Desk;

/// Asks what a chart is to be compared with: a stock, an index, a group or a list, by a few
/// letters.
class CompareDialog : public QDialog {
    Q_OBJECT
public:
    /// Requires: an open market.
    CompareDialog(Desk& desk, QWidget* parent);
    const charts::Comparable* chosen() const; ///< null where nothing bears the words

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void fill();

    Desk& desk_;
    QLineEdit* words_;
    QListWidget* list_;
    std::vector<charts::Comparable> found_;
};

} // namespace sieve::app
