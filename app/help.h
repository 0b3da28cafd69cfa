// F1: what one does on a stage, in a few lines.
#pragma once

class QWidget;

namespace pyro {

struct Stage;

void helpOn(const Stage& stage, QWidget* parent);

} // namespace pyro
