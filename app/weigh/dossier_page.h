#pragma once

#include "core/dossier/dossier.h"
#include "core/market/market.h"

#include <QWidget>
#include <map>
#include <memory>
#include <optional>
#include <vector>

namespace sieve::app {

/// The parts of a dossier on one long page, painted: small pictures first, figures beside them.
/// A row is chosen by the pointer or by Up and Down; Left and Right go through its figures.
class DossierPage : public QWidget {
    Q_OBJECT
public:
    explicit DossierPage(QWidget* parent = nullptr);

    /// Null: nothing is shown. `market`: the one that it is of.
    void show(std::shared_ptr<const dossier::Dossier> dossier, market::MarketPtr market);
    const dossier::Dossier* dossier() const { return dossier_.get(); }
    /// Results by year instead of by quarter.
    void setByYear(bool isByYear);
    /// Where a part begins.
    std::optional<int> topOf(std::string_view part) const;
    /// The part at a height of the page.
    QString partAt(int y) const;

    /// What the chosen row says, in words and figures.
    QString spokenRow() const;
    const dossier::Table* chosenTable() const;

Q_SIGNALS:
    void explanationAsked(const QString& expression, const QString& title);
    void stockChosen(std::size_t stock);
    void dayChosen(sieve::Day day);
    void tableAsked(const sieve::dossier::Table& table);
    void rowChosen(const QRect& place); ///< that should be seen

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;
    bool event(QEvent* event) override;

private:
    enum class Kind { Part, Words, Title, Heads, Group, Row, Note };
    /// One line of the page, from top to bottom.
    struct Line {
        Kind kind;
        QRect place;
        const dossier::Part* part = nullptr;
        const dossier::Table* table = nullptr;
        std::size_t row = 0; ///< of the table
        QString words;
    };
    /// How the columns of a plain table lie: those that find room.
    struct Columns {
        int title = 0;
        std::vector<int> widths;
    };

    void layOut();
    Columns columnsOf(const dossier::Table& table, int width) const;
    int headHeight(const dossier::Table& table) const;
    int heightOfRow(const dossier::Table& table, const dossier::Row& row, int width) const;
    void addTable(const dossier::Part& part, const dossier::Table& table, int width, int& y);
    void choose(std::optional<std::size_t> line, int cell = 0);
    void step(int by);
    void open();
    std::optional<std::size_t> lineAt(const QPoint& point) const;
    const dossier::Row* chosenRow() const;
    QString tipOf(const Line& line) const;

    // dossier_painting.cpp
    void paintLine(QPainter& painter, const Line& line, bool isChosen) const;
    void paintHeads(QPainter& painter, const Line& line) const;
    void paintFigures(QPainter& painter, const dossier::Row& row, const QRect& place) const;
    void paintPeriods(QPainter& painter, const dossier::Table& table, std::size_t row,
                      const QRect& place) const;
    void paintValue(QPainter& painter, const dossier::Row& row, const QRect& place) const;
    void paintRange(QPainter& painter, const dossier::Row& row, const QRect& place) const;
    void paintCells(QPainter& painter, const dossier::Table& table, const dossier::Row& row,
                    const QRect& place) const;
    void paintHappening(QPainter& painter, const dossier::Row& row, const QRect& place) const;
    QString textOf(const dossier::Cell& cell) const;

    std::shared_ptr<const dossier::Dossier> dossier_;
    market::MarketPtr market_;
    std::vector<Line> lines_;
    std::map<const dossier::Table*, Columns> columns_; ///< of the plain tables that are shown
    std::optional<std::size_t> chosen_;                ///< a line that is a row
    int cell_ = 0;
    bool isByYear_ = false;
};

} // namespace sieve::app
