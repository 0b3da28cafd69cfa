// Whether a window can be shown at all, told before the toolkit would end the program.
#pragma once

class QString;

namespace pyro {

// Until the window stands: what the toolkit would end the program for (no display, no platform) becomes one message on
// the error stream, and status 2.
void tellFailuresOfTheToolkit();
void leaveFailuresToTheToolkit();

// What of OpenGL is missing for the viewport, in a sentence with what to do; empty: nothing. Found out once; needs an
// application.
const QString& missingOpenGl();

} // namespace pyro
