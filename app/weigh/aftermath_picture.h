#pragma once

#include "core/studies/aftermath.h"

#include <QWidget>

namespace sieve::app {

/// The sums of a study: for each span how the changes lay, beside the mean of all stocks; and how
/// the cases ended.
class AftermathPicture : public QWidget {
    Q_OBJECT
public:
    explicit AftermathPicture(QWidget* parent = nullptr);
    void show(const studies::Summary& own, const studies::Summary& all, const studies::Terms& terms,
              const QString& symbol);
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void paintSum(QPainter& painter, const studies::Summary& sum, const QString& title,
                  const QRect& place) const;
    double reach() const;

    studies::Summary own_;
    studies::Summary all_;
    studies::Terms terms_;
    QString symbol_;
};

} // namespace sieve::app
