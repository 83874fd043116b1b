#pragma once

#include "app/desk/asker.h"
#include "core/intake/price_layout.h"

#include <QDialog>
#include <array>
#include <filesystem>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;
class QTableView;

namespace sieve::app {

class PreviewModel;

/// Lets a person choose price files and say how they are read: what was recognised is there to
/// begin with, and the first rows show at once what every choice makes of them.
class TakeInPricesDialog : public QDialog {
    Q_OBJECT
public:
    explicit TakeInPricesDialog(QWidget* parent = nullptr);

    void setSource(const std::filesystem::path& source);
    const std::filesystem::path& source() const { return source_; }
    intake::PriceLayout layoutChosen() const;
    void showLayout(const intake::PriceLayout& layout);

private:
    struct Sample {
        std::string text;
        std::string file;
        intake::PriceLayout layout;
        QString fault;
    };
    QWidget* makeChoices();
    void choose(bool isFolder);
    void showSample(const Sample& sample);
    void fillHeadings();
    void refresh();

    std::filesystem::path source_;
    std::string sample_;
    QString fault_; ///< why nothing was recognised
    bool isFilling_ = false;
    Asker asker_;
    QLineEdit* path_;
    QComboBox* separator_;
    QComboBox* decimal_;
    QComboBox* thousands_;
    QComboBox* days_;
    std::array<QComboBox*, intake::priceColumnCount> columns_{};
    QLabel* title_;
    PreviewModel* model_;
    QTableView* table_;
    QLabel* verdict_;
    QPushButton* takeIn_;
};

} // namespace sieve::app
