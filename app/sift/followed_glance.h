#pragma once

#include "app/desk/asker.h"
#include "core/studies/following.h"

#include <QWidget>
#include <memory>

class QTimer;

namespace sieve::app {

class Desk;

/// What followed the matches of the screen in hand over all years, in one line: how many cases,
/// their mean with its interval beside all stocks, and how the changes lay. It is asked once the
/// screen has been left alone for a moment. A click leads to the whole answer in Prove.
class FollowedGlance : public QWidget {
    Q_OBJECT
public:
    explicit FollowedGlance(Desk& desk, QWidget* parent = nullptr);
    void setScreen(const screens::Screen& screen);
    void stop(); ///< the screen is about to change: what is being asked is not wanted any more
    const std::shared_ptr<const studies::Following>& following() const { return following_; }
    bool isWaiting() const; ///< an answer is still to come
    QSize sizeHint() const override;
    QSize minimumSizeHint() const override { return sizeHint(); }

protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void showEvent(QShowEvent* event) override;

private:
    void ask();
    void lead();
    void tell(const QString& words);
    void paintHeap(QPainter& painter, const QRectF& area) const;

    Desk& desk_;
    Asker asker_;
    QTimer* pause_;
    screens::Screen screen_;
    std::shared_ptr<const studies::Following> following_;
    QString words_;
};

} // namespace sieve::app
