#pragma once

#include "app/desk/asker.h"
#include "core/conditions/mosaic.h"

#include <QWidget>
#include <memory>
#include <optional>

namespace sieve::app {

class Desk;
class MosaicPicture;

/// One picture of the market: a column a sector, as wide as its capitalization, cut into industries
/// by size in the order of their change; a click looks into a sector, then into a stock. Also of a
/// list.
class MosaicView : public QWidget {
    Q_OBJECT
public:
    explicit MosaicView(Desk& desk, QWidget* parent = nullptr);
    void show(const std::shared_ptr<const conditions::Groups>& groups, Day day);
    void setSpan(int sessions);
    MosaicPicture& picture() { return *picture_; }

Q_SIGNALS:
    void listChosen(const QString& name); ///< to be shown in the mosaic

private:
    void ask();
    void offerParts();
    void lookInto(std::optional<std::size_t> sector);
    void choose(const conditions::MosaicPart& part, const conditions::MosaicColumn& column);

    Desk& desk_;
    Asker asker_;
    class QComboBox* part_; ///< the market, a sector or a list
    class QSpinBox* span_;
    class QLabel* summary_;
    MosaicPicture* picture_;
    std::shared_ptr<const conditions::Groups> groups_;
    Day day_ = Day::fromSerial(0);
};

/// The picture itself: cells, a legend, a card for the cell under the pointer or the keyboard.
class MosaicPicture : public QWidget {
    Q_OBJECT
public:
    explicit MosaicPicture(QWidget* parent = nullptr);
    void show(std::shared_ptr<const conditions::Mosaic> mosaic);
    const std::vector<conditions::MosaicCell>& cells() const { return cells_; }
    QRectF areaOf(const conditions::MosaicCell& cell) const;
    std::optional<std::size_t> current() const { return current_; }

Q_SIGNALS:
    void chosen(const sieve::conditions::MosaicPart& part,
                const sieve::conditions::MosaicColumn& column);
    void columnChosen(const sieve::conditions::MosaicColumn& column);
    void backWanted();

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    QSize sizeHint() const override { return {420, 300}; }

private:
    QRectF field() const; ///< where the cells lie
    void arrange();
    void choose(std::size_t cell);
    void move(int columns, int rows);
    QColor colourOf(double change) const;
    void paintCell(QPainter& painter, std::size_t cell) const;
    void paintHeads(QPainter& painter) const;
    void paintLegend(QPainter& painter) const;
    QString cardOf(const conditions::MosaicCell& cell) const;

    std::shared_ptr<const conditions::Mosaic> mosaic_ =
        std::make_shared<const conditions::Mosaic>();
    std::vector<conditions::MosaicCell> cells_;
    std::optional<std::size_t> current_;
    double full_ = 0.1; ///< the change that has the full colour
};

} // namespace sieve::app
