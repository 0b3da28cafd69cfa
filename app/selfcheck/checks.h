// The checks of the self-check.
#pragma once

#include "app/selfcheck/self_check.h"

namespace pyro {

CheckLine checkDisplay();  // the window's OpenGL; needs a QApplication
CheckLine checkPictures(); // drawing for reports, without a display; needs a QGuiApplication

CheckLine checkSettings(); // places to write
CheckLine checkCache();
CheckLine checkTemporary();

CheckLine checkPrograms(); // installed with this one, and of its version
CheckLine checkShipped();  // demos and templates
CheckLine checkUnits();    // the data base of UDUNITS

// A wall solved by the rig, read by the reader and evaluated, against its exact heat flow.
CheckLine checkSmallCase();

} // namespace pyro
