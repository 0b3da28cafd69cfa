// Walks through the live stages without a user and stores a picture of each; what ./demo does with no display.
#pragma once

#include <QString>

namespace pyro {

class MainWindow;

// Opens the survey, visits each stage, writes <folder>/<stage>.png. Returns 0, or 1 when something did not open in
// time.
int tour(MainWindow& window, const QString& survey, const QString& folder);

} // namespace pyro
