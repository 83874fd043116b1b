#pragma once

#include "core/charts/set_up.h"

#include <QPointF>

class QPainter;

namespace sieve::app {

struct Palette;

/// A mark about ten pixels high, each kind with a shape of its own.
void drawMark(QPainter& painter, charts::MarkKind kind, const QPointF& at, const Palette& colours);

} // namespace sieve::app
