#pragma once

#include "core/dossier/dossier.h"
#include "core/market/market.h"

#include <QCoreApplication>
#include <QRect>
#include <QString>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

class QPainter;

namespace sieve::app {

struct Palette;

/// Lays the parts of a dossier out below each other and draws them: small pictures first, figures
/// beside them. Knows no window, so that a widget and a printed page are drawn by the same.
class DossierPicture {
    Q_DECLARE_TR_FUNCTIONS(DossierPicture)
public:
    enum class Kind { Part, Words, Title, Heads, Group, Row, Note };
    /// One line, from top to bottom.
    struct Line {
        Kind kind;
        QRect place;
        const dossier::Part* part = nullptr;
        const dossier::Table* table = nullptr;
        std::size_t row = 0; ///< of the table
        QString words = {};
    };

    /// Null: nothing is shown. `market`: the one that it is of.
    void setDossier(std::shared_ptr<const dossier::Dossier> dossier, market::MarketPtr market);
    const dossier::Dossier* dossier() const { return dossier_.get(); }
    const market::Market& market() const { return *market_; }
    /// Results by year instead of by quarter.
    void setByYear(bool isByYear) { isByYear_ = isByYear; }
    /// The parts that are shown, by key; empty: all.
    void setParts(std::vector<std::string> keys) { keys_ = std::move(keys); }
    /// Parts are at least so high, by key: beside another dossier each begins where that one's
    /// does.
    void setLeastHeights(std::map<std::string, int> heights) { least_ = std::move(heights); }
    /// Places everything. Gives back how high it is; needed after each change and before what
    /// follows.
    int layOut(int width);

    const std::vector<Line>& lines() const { return lines_; }
    std::map<std::string, int> heights() const; ///< of the parts, by key
    /// Where a part begins.
    std::optional<int> topOf(std::string_view part) const;
    QString textOf(const dossier::Cell& cell) const;
    /// The lines that meet `clip`; a chosen one on a ground of its own.
    void paint(QPainter& painter, const Palette& colours, const QRect& clip,
               std::optional<std::size_t> chosen = std::nullopt);

private:
    /// How the columns of a plain table lie: those that find room.
    struct Columns {
        int title = 0;
        std::vector<int> widths;
    };

    void layOutPart(const dossier::Part& part, int width, int& y);
    Columns columnsOf(const dossier::Table& table, int width) const;
    int headHeight(const dossier::Table& table) const;
    int heightOfRow(const dossier::Table& table, const dossier::Row& row, int width) const;
    void addTable(const dossier::Part& part, const dossier::Table& table, int width, int& y);

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
    void paintQuestion(QPainter& painter, const dossier::Row& row, const QRect& place) const;
    void paintHappening(QPainter& painter, const dossier::Row& row, const QRect& place) const;

    std::shared_ptr<const dossier::Dossier> dossier_;
    market::MarketPtr market_;
    std::vector<std::string> keys_;
    std::map<std::string, int> least_;
    std::vector<Line> lines_;
    std::map<const dossier::Table*, Columns> columns_; ///< of the plain tables that are shown
    int width_ = 0;
    bool isByYear_ = false;
    const Palette* colours_ = nullptr; ///< while it is painted
};

} // namespace sieve::app
