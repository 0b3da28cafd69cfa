// Titles and limits of the chart, as they are typed.
#include "app/session/dialogs.h"
#include "app/stages/gauges/gauge_actions.h"
#include "app/stages/stage_desk.h"
#include "core/survey/gauge_edit.h"

#include <fmt/format.h>

namespace pyro {

// Of one axis, as "20 to 90"; empty: by what is drawn.
void limitChart(StageDesk& desk, const QString& which) {
    auto& session = desk.session();
    const auto at = session.view().chart;
    auto view = chartOf(session.survey(), at);
    auto& range = which == "x" ? view.xRange : view.yRange;
    const auto text = dialogs::askText(
        desk.dialogParent(), "Limits of the " + which + " axis",
        "From and to in the unit of the axis, for example 20 to 90 (empty: by what is drawn)",
        range ? QString("%1 to %2").arg((*range)[0], 0, 'g', 6).arg((*range)[1], 0, 'g', 6) : QString());
    if (!text)
        return;
    range.reset();
    if (!text->trimmed().isEmpty()) {
        const auto ends = text->split("to");
        bool good = ends.size() == 2;
        bool goodToo = good;
        const double low = good ? ends[0].trimmed().toDouble(&good) : 0;
        const double high = goodToo ? ends[1].trimmed().toDouble(&goodToo) : 0;
        if (!good || !goodToo || !(low < high))
            return session.complain({ErrorCode::Syntax,
                                     fmt::format("\"{}\" are no limits of an axis", text->toStdString()), "chart",
                                     "Write them like 20 to 90, the lower one first"});
        range = {low, high};
    }
    session.edit("Limits of an axis", withChart(session.survey(), view, at));
}

void titleChart(StageDesk& desk, const QString& which) {
    auto& session = desk.session();
    const auto at = session.view().chart;
    auto view = chartOf(session.survey(), at);
    auto& title = which == "x" ? view.xTitle : which == "y" ? view.yTitle : view.title;
    const auto text = dialogs::askText(desk.dialogParent(), "Title of the chart",
                                       which == "title" ? "Title (empty: made by itself)"
                                                        : "Title of the axis (empty: made by itself)",
                                       QString::fromStdString(title));
    if (!text)
        return;
    title = text->trimmed().toStdString();
    session.edit("Title of the chart", withChart(session.survey(), view, at));
}

} // namespace pyro
