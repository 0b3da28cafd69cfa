#include "app/stages/field/field_actions.h"
#include "app/stages/field/field_page.h"
#include "app/stages/field/field_sheet.h"
#include "app/stages/field/section_work.h"
#include "app/stages/stage_desk.h"

namespace pyro {
namespace {

QWidget* buildField(StageDesk& desk, QWidget* parent) {
    auto* sheet = new FieldSheet(desk.session(), parent);
    new SectionWork(desk, sheet);
    QObject::connect(sheet, &FieldSheet::viewpointRequested, sheet,
                     [&desk](const QString& name) { keepViewpoint(desk, name); });
    QObject::connect(sheet, &FieldSheet::sectionRequested, sheet, [&desk] { desk.run("addSection"); });
    return sheet;
}

} // namespace

constexpr Stage fieldStage{
    .id = "Field",
    .icon = "field",
    .key = 3,
    .sheet = buildField,
    .ledgerPage = [](StageDesk& desk, QWidget* parent) -> QWidget* { return new FieldPage(desk.session(), parent); },
    .actions = fieldActions,
    .wantedMost = {"<b>Look inside</b>: C cuts through the hottest visible place, Ctrl+Up and Ctrl+Down move the "
                   "section",
                   "<b>Change what is shown</b>: the quantity above the part list",
                   "<b>Narrow the colours</b>: drag the ends of the heat strip"},
    .help = "<p>Click the eye of a part to hide it, double-click its name to isolate it, A shows all again. H hides "
            "and S isolates the part under the cursor.</p><p>On the heat strip drag a handle to narrow the colours to "
            "a range, or the bar between the handles to shift it. The shares at both ends say how much of the visible "
            "volume lies outside.</p><p>C puts a section through the hottest place, I draws isolines, W streamlines "
            "and heat flux lines, G arrows; click the card of each to change it.</p><p>Steps: space plays, comma and "
            "full stop go one back and on.</p>",
    .movesSections = true,
    .showsParts = true,
};

} // namespace pyro
