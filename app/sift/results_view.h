#pragma once

#include "app/desk/asker.h"
#include "app/sift/sifted.h"

#include <QWidget>
#include <map>

class QTableView;
class QTimer;

namespace sieve::app {

class Desk;
class TableModel;

/// What passes as a table: a row a stock, the screen's columns with their graphics, medians in the
/// foot, the first column always in sight. A click on a head sorts, with Shift by more columns; a
/// head is dragged to its place and drawn to its width; rows are dragged out as symbols.
class ResultsView : public QWidget {
    Q_OBJECT
public:
    explicit ResultsView(Desk& desk, QWidget* parent = nullptr);
    void show(const SiftedPtr& sifted);
    void showChosen(std::optional<std::size_t> stock);
    /// Who comes by a key stands on a row: the first, if none is selected.
    void enter();
    /// The stocks of the rows that are selected, when they are several.
    std::vector<std::string> severalSelected() const;
    /// In which order the person wants them; empty: by the screen's rank.
    const std::vector<screens::SortKey>& sortKeys() const { return sortKeys_; }
    void forgetOrder();

Q_SIGNALS:
    void sortWanted(); ///< the sort keys are others
    void columnsWanted(const std::vector<std::string>& columns);
    void graphicWanted(const std::string& column, language::CellGraphic graphic);
    void columnsEditWanted();
    void chosen(std::size_t stock);
    void opened(std::size_t stock);
    void selectionSizeChanged();

private:
    void prepareHead();
    void sortBy(int column);
    void moved(int from, int to);
    void resized(int column, int width);
    void fit();
    void showHeadMenu(const QPoint& at);
    void askLines();

    Desk& desk_;
    Asker lines_;
    QTableView* table_;
    TableModel* model_;
    QTimer* linesLater_; ///< so that scrolling asks once it rests
    SiftedPtr sifted_ = std::make_shared<const Sifted>();
    std::vector<screens::SortKey> sortKeys_;
    std::vector<std::string> fitted_; ///< the columns that have their widths
    bool isFitting_ = false;
};

} // namespace sieve::app
