#pragma once

#include <QString>

class QHeaderView;

namespace sieve::app {

// Widths of columns that a person gave by dragging a head's edge. What fits columns to their
// content leaves those; the frame's layout keeper remembers them (remembered.h).

/// While one lives, the widths that a head is given are the program's, not the person's.
class WidthFitting {
public:
    explicit WidthFitting(QHeaderView* head);
    ~WidthFitting();
    WidthFitting(const WidthFitting&) = delete;
    WidthFitting& operator=(const WidthFitting&) = delete;

    /// Gives a column a width, unless the person gave it one: then that.
    void fit(int column, int width) const;

private:
    QHeaderView* head_;
};

/// Takes a new width of a column as the person's. Gives back whether it is: not while it is being
/// fitted, nor of a column that stretches or follows its content.
bool takeOwnWidth(QHeaderView* head, int column, int width);

/// All of them, as a text to keep and to give back.
QString ownWidths(const QHeaderView* head);
void setOwnWidths(QHeaderView* head, const QString& widths);

} // namespace sieve::app
