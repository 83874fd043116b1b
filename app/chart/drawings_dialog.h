#pragma once

#include "core/drawings/drawing.h"

#include <QDialog>
#include <optional>
#include <vector>

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QListWidget;
class QPlainTextEdit;
class QPushButton;

namespace sieve::app {

/// The drawings of a stock, hidden ones too: their names, texts and looks. Every change counts at
/// once; whoever keeps drawings keeps it and sets them anew.
class DrawingsDialog : public QDialog {
    Q_OBJECT
public:
    explicit DrawingsDialog(QWidget* parent = nullptr);
    ~DrawingsDialog() override;

    /// The one that was shown stays shown.
    void setDrawings(std::vector<drawings::Drawing> drawings);
    void show(std::int64_t id); ///< that one (0: the one before, or the newest), and opens

Q_SIGNALS:
    void looksChanged(const sieve::drawings::Drawing& drawing);
    void removed(qint64 id);
    void chosen(qint64 id);

private:
    const drawings::Drawing* shown() const;
    void fill();
    void take();

    std::vector<drawings::Drawing> drawings_;
    std::int64_t shown_ = 0;
    bool isFilling_ = false;
    QListWidget* list_;
    QLabel* nothing_;
    QWidget* form_;
    QLineEdit* name_;
    QLabel* expression_;
    QPlainTextEdit* text_;
    QComboBox* colour_;
    QDoubleSpinBox* width_;
    QCheckBox* logarithmic_;
    QCheckBox* locked_;
    QCheckBox* hidden_;
    QPushButton* remove_;
};

} // namespace sieve::app
