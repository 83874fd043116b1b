#pragma once

#include "core/charts/chart.h"

#include <QDialog>
#include <optional>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QPushButton;
class QTreeWidget;

namespace sieve::app {

class ExpressionEdit;

/// The panes and layers of a chart, added, changed, moved and removed one by one. Every change
/// counts at once; the chart tells what does not check.
class LayersDialog : public QDialog {
    Q_OBJECT
public:
    explicit LayersDialog(const charts::SetUp& setUp, QWidget* parent = nullptr);
    ~LayersDialog() override;

    const charts::SetUp& setUp() const { return setUp_; }
    /// What the chart made of it: mistakes are marked.
    void setChart(const charts::Chart& chart);

Q_SIGNALS:
    void changed();

private:
    struct Place {
        std::size_t pane = 0;
        std::optional<std::size_t> layer; ///< empty: the pane itself
    };
    Place chosen() const;
    charts::LayerSetUp* chosenLayer();
    void fill(const Place& chosen); ///< the tree, with that place chosen
    void fillForm();
    void take();
    void addLayer();
    void addPane();
    void move(int by);
    void remove();
    void tell(); ///< that it is another set-up now

    charts::SetUp setUp_;
    bool isFilling_ = false;
    QTreeWidget* tree_;
    QWidget* form_;
    ExpressionEdit* show_;
    ExpressionEdit* to_;
    QLabel* fault_;
    QComboBox* as_;
    QComboBox* colour_;
    QDoubleSpinBox* width_;
    QCheckBox* byChange_;
    QCheckBox* compared_;
    QCheckBox* atLeft_;
    QPushButton* addLayer_;
    QPushButton* addPane_;
    QPushButton* up_;
    QPushButton* down_;
    QPushButton* remove_;
};

} // namespace sieve::app
