#pragma once

#include "app/chart/drawing_picture.h"
#include "core/drawings/hand.h"

#include <QObject>
#include <QPointF>
#include <memory>
#include <optional>
#include <vector>

class QKeyEvent;
class QPainter;

namespace sieve::app {

class ChartPicture;
struct Palette;

/// Draws on the prices of a chart, chooses what is drawn, moves it and measures, by mouse and by
/// keys. What comes of it is told; whoever keeps drawings keeps it and sets them anew.
class DrawingPen : public QObject {
    Q_OBJECT
public:
    /// The chart's picture lives longer and is laid out whenever the pen is asked for anything.
    explicit DrawingPen(const ChartPicture& chart, QObject* parent);

    /// Those of the stock that is shown, on the footing of its bars. One that is chosen stays
    /// chosen.
    void setDrawings(std::vector<drawings::Drawing> drawings);
    const std::vector<drawings::Drawing>& drawings() const { return drawings_; }
    void setAllHidden(bool areHidden);
    bool areAllHidden() const { return areAllHidden_; }

    void begin(drawings::Tool tool, bool isLogarithmic);
    void beginMeasuring();
    void stop(); ///< what is begun is given up, nothing is chosen
    bool isDrawing() const { return hand_.has_value(); }
    const drawings::Drawing* chosen() const;
    void choose(std::optional<std::int64_t> id);
    void chooseNext(int by); ///< from the chosen one, the later points first
    void removeChosen();
    void copyChosen() const; ///< as text, to the clipboard
    void paste();

    // What happens on the chart; each says whether it was meant for the pen.
    bool press(const QPointF& at, Qt::KeyboardModifiers modifiers);
    bool move(const QPointF& at, Qt::KeyboardModifiers modifiers);
    bool release(const QPointF& at, Qt::KeyboardModifiers modifiers);
    bool doubleClick();
    bool key(const QKeyEvent& event);
    bool wants(const QKeyEvent& event) const; ///< of a key that is a command elsewhere

    /// All that is kept, on a picture of the chart without anything that moves.
    void paintAll(const ChartPicture& on, QPainter& painter, const Palette& colours,
                  const QFont& font) const;
    /// What lies still, which is kept as a picture, and what moves over it.
    /// `isWhole`: with the chosen one, as a picture without what moves needs it.
    /// Gives where its words stand, so that those of what moves leave them alone.
    std::vector<QRectF> paintStill(QPainter& painter, const Palette& colours,
                                   const QFont& font) const;
    void paintMoving(QPainter& painter, const Palette& colours, const QFont& font,
                     std::vector<QRectF> taken) const;
    QString asks() const;     ///< what the hand waits for; empty without
    QString measured() const; ///< the distance that is measured; empty without

Q_SIGNALS:
    void made(const sieve::drawings::Drawing& drawing);
    /// Points of a drawing lie elsewhere.
    void moved(const sieve::drawings::Drawing& drawing);
    void removed(qint64 id);
    void opened(); ///< the chosen one is to be looked at and changed
    void movingChanged();
    void stillChanged();
    void pasted(const sieve::drawings::Drawing& drawing); ///< from the clipboard
    void failed(const QString& message);

private:
    struct Drag {
        std::optional<std::size_t> point; ///< empty: all of it
        drawings::Point from;
        drawings::Drawing before;
        drawings::Drawing now;
    };
    bool isSeen(const drawings::Drawing& drawing) const;
    const drawings::Drawing* drawingAt(const QPointF& at) const;
    drawings::Point placeAt(const QPointF& at, Qt::KeyboardModifiers modifiers) const;
    drawings::Anchor anchorOf(const drawings::Point& place) const;
    void setPoint(const drawings::Point& place);
    void finish();
    void beginDrag(const drawings::Drawing& own, std::optional<std::size_t> point,
                   const QPointF& at);
    void dragTo(const drawings::Point& to);
    void paintAsking(QPainter& painter, const Palette& colours, const QFont& font) const;
    bool keyOfHand(const QKeyEvent& event);
    bool keyOfChosen(const QKeyEvent& event);
    double barsOn(double place, double bars) const;
    void moveChosen(double bars, double pixels);
    const ChartPicture& chart_;
    std::vector<drawings::Drawing> drawings_;
    bool areAllHidden_ = false;
    std::optional<drawings::Hand> hand_;
    bool isMeasuring_ = false;
    std::optional<drawings::Drawing> measure_; ///< that stands since it was measured
    std::optional<std::int64_t> chosen_;
    std::optional<Drag> drag_;
    QPointF pressedAt_;
    std::optional<drawings::Point> pointer_; ///< where the next point would be
};

} // namespace sieve::app
