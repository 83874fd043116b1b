#pragma once

#include "core/conditions/reading.h"

#include <QWidget>
#include <memory>

namespace sieve::app {

/// The state of the market in one look: a row a line, a column a horizon; the state as a word with
/// its age, and its history of twelve months as a thin band. A row is chosen by click or arrows;
/// a double click or Enter asks for the rule of a horizon.
class StateBoard : public QWidget {
    Q_OBJECT
public:
    explicit StateBoard(QWidget* parent = nullptr);
    void setReading(std::shared_ptr<const conditions::Reading> reading);
    void setDay(Day day);
    std::size_t line() const { return line_; }
    void setLine(std::size_t line);
    /// Shows another history in a cell while its rule is being typed; nothing: as it was read.
    void setDraft(std::size_t horizon, std::shared_ptr<const conditions::TrendReading> draft);

    /// Where the state of a line over a horizon stands.
    QRect cell(std::size_t line, std::size_t horizon) const;
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return {420, sizeHint().height()}; }

Q_SIGNALS:
    void lineChosen(std::size_t line);
    void ruleWanted(std::size_t horizon);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    int titleWidth() const;
    QRect rowArea(std::size_t line) const;
    std::optional<std::size_t> lineAt(const QPoint& at) const;
    std::optional<std::size_t> horizonAt(const QPoint& at) const;
    const conditions::TrendHistory& history(std::size_t line, std::size_t horizon) const;
    QString tipOf(std::size_t line, std::size_t horizon) const;
    void paintRow(QPainter& painter, std::size_t line);
    void paintCell(QPainter& painter, const QRect& area, std::size_t bar,
                   const conditions::TrendHistory& history);
    void describe();

    std::shared_ptr<const conditions::Reading> reading_;
    Day day_ = Day::fromSerial(0);
    std::size_t line_ = 0;
    std::size_t horizon_ = 2; ///< under the keyboard
    std::size_t draftHorizon_ = 0;
    std::shared_ptr<const conditions::TrendReading> draft_;
};

/// Colour, sign and word of a state: never the colour alone.
QColor trendColour(std::optional<conditions::Trend> trend);
QString trendSign(std::optional<conditions::Trend> trend);
QString trendWord(std::optional<conditions::Trend> trend);
/// A stretch of states as a band: rising stands high, falling low, sideways in the middle.
void paintTrendBand(QPainter& painter, const QRectF& area, const conditions::TrendHistory& history,
                    std::size_t lastBar, std::size_t bars);

} // namespace sieve::app
