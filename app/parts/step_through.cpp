#include "app/parts/step_through.h"

#include <QKeyEvent>
#include <QListWidget>
#include <algorithm>

namespace sieve::app {

bool stepThrough(QListWidget& list, const QKeyEvent& key)
{
    if (key.key() != Qt::Key_Down && key.key() != Qt::Key_Up)
        return false;
    const int step = key.key() == Qt::Key_Down ? 1 : -1;
    if (list.count() > 0)
        list.setCurrentRow(std::clamp(list.currentRow() + step, 0, list.count() - 1));
    return true;
}

} // namespace sieve::app
