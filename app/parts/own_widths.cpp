#include "app/parts/own_widths.h"

#include <QHeaderView>

namespace sieve::app {

namespace {

constexpr const char* widthsKey = "ownWidths"; // a width a column; 0 where there is none
constexpr const char* fittingKey = "isFitting";

QList<int> widthsOf(const QHeaderView* head)
{
    return head->property(widthsKey).value<QList<int>>();
}

} // namespace

WidthFitting::WidthFitting(QHeaderView* head) : head_(head)
{
    head_->setProperty(fittingKey, true);
}

WidthFitting::~WidthFitting()
{
    head_->setProperty(fittingKey, false);
}

void WidthFitting::fit(int column, int width) const
{
    const int own = widthsOf(head_).value(column);
    head_->resizeSection(column, own > 0 ? own : width);
}

bool takeOwnWidth(QHeaderView* head, int column, int width)
{
    if (width <= 0 || head->property(fittingKey).toBool() ||
        head->sectionResizeMode(column) != QHeaderView::Interactive ||
        (head->stretchLastSection() && head->visualIndex(column) == head->count() - 1))
        return false;
    QList<int> widths = widthsOf(head);
    widths.resize(std::max<qsizetype>(widths.size(), column + 1));
    widths[column] = width;
    head->setProperty(widthsKey, QVariant::fromValue(widths));
    return true;
}

QString ownWidths(const QHeaderView* head)
{
    QStringList texts;
    for (const int width : widthsOf(head))
        texts << QString::number(width);
    return texts.join(u' ');
}

void setOwnWidths(QHeaderView* head, const QString& text)
{
    QList<int> widths;
    for (const QString& width : text.split(u' ', Qt::SkipEmptyParts))
        widths << width.toInt();
    head->setProperty(widthsKey, QVariant::fromValue(widths));
    const WidthFitting fitting(head);
    for (int column = 0; column < std::min<int>(head->count(), static_cast<int>(widths.size()));
         ++column)
        if (widths[column] > 0)
            head->resizeSection(column, widths[column]);
}

} // namespace sieve::app
