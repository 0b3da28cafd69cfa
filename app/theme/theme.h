// theme: colours, font, icons and the style sheet of the window.
#pragma once

#include "core/readings/verdict.h"
#include "render/colours.h"

#include <QIcon>
#include <QPixmap>

class QApplication;

namespace pyro::theme {

// Loads the embedded font and sets the style of the whole application.
void apply(QApplication& application);

// An icon of ours (a file of app/icons without ending) in a colour.
QPixmap icon(const QString& name, const QColor& colour, int size, double ratio = 2.0);
QPixmap verdictPixmap(Verdict verdict, int size = 10, double ratio = 2.0);

} // namespace pyro::theme
