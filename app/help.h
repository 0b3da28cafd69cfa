// F1: what one does on a stage, in a few lines.
#pragma once

#include <QString>

class QWidget;

namespace pyro {

void helpOn(const QString& stage, QWidget* parent);

} // namespace pyro
