#pragma once

#include "core/screens/run.h"

#include <QWidget>

class QCheckBox;
class QLabel;
class QToolButton;

namespace sieve::app {

class ElidedLabel;
class ExpressionEdit;
class SpreadStrip;

/// One criterion in the stack: its sentence, edited in place, what it does, and the piece of the
/// ribbon that runs through it, as wide as the stocks that come in above and go out below.
class Band : public QWidget {
    Q_OBJECT
public:
    explicit Band(QWidget* parent = nullptr);

    void setCriterion(const screens::Criterion& criterion);
    screens::Criterion criterion() const;
    /// `before` stocks come in of `universe` in all, spread so in what the first limit shows.
    void setCounts(const screens::CriterionCount& counts, std::size_t before, std::size_t universe,
                   const screens::Distribution& spread);
    void setChosen(std::optional<std::size_t> stock); ///< whose place the strip marks
    /// Puts another number in place of a limit's, as a step that is committed.
    void setBound(std::size_t limit, double bound);
    SpreadStrip& strip() { return *strip_; }
    void setPosition(int number); ///< from 1
    int position() const { return position_; }
    ExpressionEdit& edit() { return *edit_; }

    static constexpr int ribbonWidth = 66;

Q_SIGNALS:
    void changed();   ///< with each letter
    void committed(); ///< when the person is done with it
    void removeWanted();
    void moveWanted(int by); ///< -1 up, 1 down
    void focusMoved(int by); ///< to the band above or below
    void percentWanted(std::size_t limit);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

private:
    void showNote();
    void showSpread(const screens::Distribution& spread);
    void editComment();
    void moveBound(std::size_t limit, double bound);
    void stepBound(int by);

    QCheckBox* isOn_;
    int position_ = 0;
    ExpressionEdit* edit_;
    QLabel* left_;
    SpreadStrip* strip_;
    ElidedLabel* note_;
    QLabel* effect_;
    QToolButton* remove_;
    QString comment_;
    std::string remarks_; ///< of the file it came from, kept as they are
    screens::CriterionCount counts_;
    screens::Distribution spread_;
    std::string counted_; ///< the text to which the counts belong
    std::optional<std::size_t> chosen_;
    double shareIn_ = 0.0;
    double shareOut_ = 0.0;
    int dragFrom_ = -1;
};

/// Paints the ribbon narrowing from one share of the universe to another down a column.
void paintRibbon(QPainter& painter, const QRectF& column, double shareIn, double shareOut);

} // namespace sieve::app
