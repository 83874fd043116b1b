#pragma once

#include "core/conditions/reading.h"

#include <QWidget>
#include <memory>

namespace sieve::app {

/// The state of the market in one look: a row a line, a column a horizon; the state as a word with
/// its age, and its history of twelve months as a thin band.
class StateBoard : public QWidget {
    Q_OBJECT
public:
    explicit StateBoard(QWidget* parent = nullptr);
    void setReading(std::shared_ptr<const conditions::Reading> reading);
    void setSession(std::size_t session);

    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;
    bool event(QEvent* event) override;

private:
    QRect cell(std::size_t line, std::size_t horizon) const;
    void paintCell(QPainter& painter, const QRect& area, const conditions::TrendHistory& history);

    std::shared_ptr<const conditions::Reading> reading_;
    std::size_t session_ = 0;
};

/// Colour, sign and word of a state: never the colour alone.
QColor trendColour(std::optional<conditions::Trend> trend);
QString trendSign(std::optional<conditions::Trend> trend);
QString trendWord(std::optional<conditions::Trend> trend);

} // namespace sieve::app
