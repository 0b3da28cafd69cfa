// Walks through the live stages without a user and stores a picture of each; what ./demo does with no display.
#pragma once

#include <QString>

namespace pyro {

class MainWindow;

struct TourOf {
    QString survey;
    QString demo; // its name, in place of a survey
};

// Opens it, visits each stage, writes <folder>/<stage>.png. Returns 0, or 1 when something did not open in time: a
// minute, or ten while a demo is solved.
int tour(MainWindow& window, const TourOf& what, const QString& folder);

} // namespace pyro
