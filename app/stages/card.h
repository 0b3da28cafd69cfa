// The common shape of the cards in the sheet of the stage Field: name and facts, a switch, and an editor below them.
#pragma once

#include "app/theme/switch.h"

#include <QFrame>
#include <QLabel>

namespace pyro {

void layOutCard(QFrame& card, QLabel* name, QLabel* facts, Switch* shown, QWidget* editor);

} // namespace pyro
