// theme: colours, font, icons and the style sheet of the window.
#pragma once

#include "core/readings/verdict.h"

#include <QColor>
#include <QIcon>
#include <QPixmap>

class QApplication;

namespace pyro::theme {

inline const QColor sheet(0xF4, 0xF1, 0xEC);
inline const QColor ink(0x22, 0x26, 0x2B);
inline const QColor faint(0x6E, 0x6D, 0x69);
inline const QColor graphite(0x1B, 0x1F, 0x24);
inline const QColor ember(0xD9, 0x53, 0x2C);
inline const QColor line(0xDD, 0xD8, 0xCF);

// Loads the embedded font and sets the style of the whole application.
void apply(QApplication& application);

// An icon of ours (a file of app/icons without ending) in a colour.
QPixmap icon(const QString& name, const QColor& colour, int size, double ratio = 2.0);
QPixmap verdictPixmap(Verdict verdict, int size = 10, double ratio = 2.0);

} // namespace pyro::theme
