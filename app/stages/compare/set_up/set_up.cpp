#include "app/stages/compare/set_up/set_up.h"

#include "app/session/session.h"

#include <QDir>

namespace pyro {

bool editSurveyJson(Session& session, const QString& what, const std::function<void(Json&)>& change) {
    auto json = surveyToJson(session.survey());
    change(json);
    auto next = surveyFromJson(json, "form");
    const bool taken = next.has_value();
    session.editOrComplain(what, std::move(next));
    return taken;
}

QString besideSurveyFile(Session& session, const QString& file) {
    const auto folder = session.document().folder();
    if (folder.empty())
        return file;
    const auto relative = QDir(QString::fromStdString(folder.string())).relativeFilePath(file);
    return relative.startsWith("../../..") ? file : relative;
}

} // namespace pyro
