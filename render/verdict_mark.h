// The sign of a verdict: told apart by shape and by colour.
#pragma once

#include "core/readings/verdict.h"

#include <QColor>
#include <QRectF>

class QPainter;

namespace pyro {

QColor verdictColour(Verdict verdict);
// within: disc, tight: triangle, over: square, unknown: ring.
void drawVerdict(QPainter& painter, const QRectF& box, Verdict verdict);

} // namespace pyro
