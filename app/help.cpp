#include "app/help.h"

#include <QDialog>
#include <QLabel>
#include <QVBoxLayout>
#include <array>
#include <map>

namespace pyro {
namespace {

// The three things one comes to a stage for, with the way to each.
QString wantedMost(const QString& stage) {
    static const std::map<QString, std::array<const char*, 3>> wanted{
        {"Cases",
         {"<b>Open a result</b>: Ctrl+O; several files at once open all",
          "<b>Correct a unit, name or material</b>: double-click its cell in the tables below",
          "<b>See whether the file was read whole</b>: table <i>Remarks</i>"}},
        {"Trust",
         {"<b>See what failed</b>: it stands first; choose the row for what it means",
          "<b>Go to the place</b>: double-click the row", "<b>Keep it for follow-up</b>: R raises a finding"}},
        {"Field",
         {"<b>Look inside</b>: C cuts through the hottest visible place, Ctrl+Up and Ctrl+Down move the section",
          "<b>Change what is shown</b>: the quantity above the part list",
          "<b>Narrow the colours</b>: drag the ends of the heat strip"}},
        {"Gauges",
         {"<b>Read a place</b>: P at the cursor, L along a line by two clicks",
          "<b>Read a part, boundary or section, psi or chi</b>: <i>Part, boundary, section \u2026</i>",
          "<b>Change a gauge</b>: choose its row; the editor is to the left, its ends are dragged in the viewport"}},
        {"Limits",
         {"<b>Set a limit</b>: <i>New limit</i>, then the part and the maximum; a bare number has the unit on display",
          "<b>Import the component list</b>: <i>Import\u2026</i>",
          "<b>Another ambient or power</b>: the card <i>Other ambient temperature</i>"}},
        {"Report",
         {"<b>Export the page</b>: Ctrl+P",
          "<b>Change the picture</b>: go back to Field or Limits and turn it; it is taken as you leave",
          "<b>Export the tables</b>: <i>Export CSV\u2026</i>"}}};
    const auto found = wanted.find(stage);
    if (found == wanted.end())
        return {};
    QString list = "<ol style='margin-left:-18px'>";
    for (const auto* one : found->second)
        list += QString("<li style='margin-bottom:4px'>") + one + "</li>";
    return list + "</ol>";
}

QString textFor(const QString& stage) {
    const QString mouse =
        "<p>In the viewport: drag to turn, Shift-drag or right-drag to move, wheel to zoom, double-click a place to "
        "come nearer. F fits, X Y Z look along an axis, with Shift from the other side.</p>";
    if (stage == "Field")
        return "<h3>Field</h3><p>Click the eye of a part to hide it, double-click its name to isolate it, A shows all "
               "again. H hides "
               "and S isolates the part under the cursor.</p><p>On the heat strip drag a handle to narrow the colours "
               "to a range, or "
               "the bar between the handles to shift it. The shares at both ends say how much of the visible volume "
               "lies outside.</p><p>C puts a section through the hottest "
               "place, I draws isolines, W streamlines and heat flux lines, G arrows; click the card of each to change "
               "it.</p>"
               "<p>Steps: space plays, comma and full stop go one back and on.</p>" +
               mouse;
    if (stage == "Gauges")
        return "<h3>Gauges</h3><p>P sets a gauge at the place under the cursor, L one along a line by two clicks, "
               "Shift+L one from the "
               "surface under the cursor straight into its part. Parts, boundaries, sections, places where two parts "
               "touch, isotherms, "
               "surfaces from files and formulas are in the menu above the editor.</p><p>Every gauge is read on all "
               "open cases and steps. "
               "The chart draws the chosen one, or those that are ticked in its menu; point at a curve to see the "
               "place in the viewport, and at "
               "the line in the viewport to see it on the curve. What cannot be read says why in its row.</p>" +
               mouse;
    if (stage == "Trust")
        return "<h3>Trust</h3><p>Checks of the case before anyone believes it: values that are plausible, heat and "
               "mass that balance, parts that touch "
               "where they should, a mesh that is fine enough, limits that can be judged. What failed stands first. "
               "Choosing a row tells what "
               "it means and marks its place and its cells; a double click goes there. Raise a finding keeps it for "
               "follow-up, with this view.</p>"
               "<p>A case that is still being computed is watched: new steps and lines of its history come in by "
               "themselves.</p>" +
               mouse;
    if (stage == "Limits")
        return "<h3>Limits</h3><p>Double-click a cell to edit: allowed maximum as a temperature (110 degC), required "
               "margin as a "
               "difference (10 K), source as text. Choosing a row isolates its part at its hottest stored "
               "place.</p><p>The card of the chosen limit "
               "makes it one on a boundary or a gauge, or on a rise, a gradient, a difference, a share or a time above "
               "a level. Other ambient temperature estimates "
               "every limit at another ambient and power. A transient is judged by its worst step.</p>" +
               mouse;
    if (stage == "Report")
        return "<h3>Report</h3><p>The page holds the case, the picture as you left it, and the verdicts. PDF and CSV "
               "hold the same "
               "readings as the window.</p>";
    return "<h3>Cases</h3><p>Ctrl+O opens a case: VTK files of any kind, XDMF, Exodus II, VTK HDF, surfaces. Labels, "
           "kinds, materials, powers and units are corrected in the "
           "table below and kept in the survey.</p>" +
           mouse;
}

} // namespace

void helpOn(const QString& stage, QWidget* parent) {
    auto* dialog = new QDialog(parent);
    dialog->setObjectName("helpDialog");
    dialog->setWindowTitle("Help on " + stage);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    auto* text = new QLabel(textFor(stage).replace("</h3>", "</h3>" + wantedMost(stage)) +
                            "<p>Ctrl+K finds every action by name.</p>");
    text->setWordWrap(true);
    text->setMinimumWidth(420);
    auto* layout = new QVBoxLayout(dialog);
    layout->setContentsMargins(20, 8, 20, 12);
    layout->addWidget(text);
    dialog->show();
}

} // namespace pyro
