// The colours of the window that paper shares.
#pragma once

#include <QColor>

namespace pyro::theme {

inline const QColor sheet(0xF4, 0xF1, 0xEC);
inline const QColor ink(0x22, 0x26, 0x2B);
inline const QColor faint(0x6E, 0x6D, 0x69);
inline const QColor graphite(0x1B, 0x1F, 0x24);
inline const QColor ember(0xD9, 0x53, 0x2C);
inline const QColor line(0xDD, 0xD8, 0xCF);

} // namespace pyro::theme
