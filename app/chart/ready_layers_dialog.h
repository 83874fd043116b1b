#pragma once

#include "core/charts/set_up.h"

#include <QDialog>

class QLabel;
class QLineEdit;
class QListWidget;

namespace sieve::app {

/// Layers to be added to a chart, found by a few letters of their name or meaning. The chart behind
/// shows the one that is pointed at; Add keeps it, Cancel takes it back.
class ReadyLayersDialog : public QDialog {
    Q_OBJECT
public:
    explicit ReadyLayersDialog(const charts::SetUp& setUp, QWidget* parent = nullptr);

Q_SIGNALS:
    void tried(const sieve::charts::SetUp& setUp); ///< to be shown, or again what was there before

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void fill();
    void tryOut();

    charts::SetUp before_;
    QLineEdit* words_;
    QListWidget* found_;
    QLabel* meaning_;
};

} // namespace sieve::app
