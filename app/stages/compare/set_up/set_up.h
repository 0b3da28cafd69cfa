// The forms that name meshes, measured data, sweeps and placements; each writes its key of the survey.
#pragma once

#include "core/survey/survey_file.h"

#include <QDialog>
#include <QString>
#include <functional>

namespace pyro {

class Session;
class StageDesk;

void showGridsForm(StageDesk& desk);
void showMeasuredForm(StageDesk& desk);
void showSweepForm(StageDesk& desk);
void showPlacementForm(StageDesk& desk);

// The survey with a change to its JSON, read again as from a file, so that a form refuses what a file would. False
// when it was refused, which the user is told.
bool editSurveyJson(Session& session, const QString& what, const std::function<void(Json&)>& change);

// A path as the survey holds it: relative to its folder where it lies beside it.
QString besideSurveyFile(Session& session, const QString& file);

} // namespace pyro
