// Changes of a survey: each takes a survey and what the user typed and returns the changed copy, or why not.
#pragma once

#include "core/survey/survey.h"

namespace pyro {

// Adds a case; the name is made from the file's stem and unique. `file` is stored as given.
Survey withCase(Survey survey, const std::string& file);
// The case's data are in this file from now on. Errors: NameUnknown.
Result<Survey> withCaseFile(Survey survey, const std::string& name, const std::string& file);
Survey withoutCase(Survey survey, const std::string& name);

// How many times the case the whole is; empty text takes it back. Errors: WrongType for what is no number from 1 to
// 1000.
Result<Survey> withSymmetry(Survey survey, const std::string& caseName, const std::string& text);
// How deep a case in two dimensions is ("12 mm"); empty: heat flows are told per metre. Errors: WrongUnit, WrongType.
Result<Survey> withDepth(Survey survey, const std::string& caseName, const std::string& text);
// The temperature that rises and thermal resistances are told against; empty: that of the environments. Errors:
// WrongUnit, Syntax.
Result<Survey> withAmbient(Survey survey, const std::string& caseName, const std::string& text);
// Whether "radiation", "natural_convection" or "properties" keeps the case's temperatures from shifting with the
// ambient.
Survey withNonlinear(Survey survey, const std::string& caseName, const std::string& why, bool on);

// The other ambient and power that limits are estimated at; an empty text takes the entry away, and with both empty the
// estimate.
enum class EstimateField { Ambient, Power };
Result<Survey> withEstimate(Survey survey, EstimateField field, const std::string& text);

enum class PartNoteField { Label, Kind, Material, Power, Thickness };
// Errors: WrongType (kind, thickness), WrongUnit or Syntax (power, thickness). An empty text takes the entry away; a
// material that the survey does not know yet is added to it.
Result<Survey> withPartField(Survey survey, const std::string& caseName, const std::string& part, PartNoteField field,
                             const std::string& text);

enum class BoundaryField { Label, Kind, Temperature, SurfaceResistance, FilmCoefficient };
Result<Survey> withBoundaryField(Survey survey, const std::string& caseName, const std::string& boundary,
                                 BoundaryField field, const std::string& text);

// A boundary that the file does not name is divided at edges sharper than an angle ("10 deg"), or joined with another
// one under a name. Kept in the case's `split`. Errors: WrongUnit, WrongType, NameUnknown for the case.
Result<Survey> withBoundaryCut(Survey survey, const std::string& caseName, const std::string& boundary,
                               const std::string& angle);
Result<Survey> withBoundariesJoined(Survey survey, const std::string& caseName, const std::string& name,
                                    const std::vector<std::string>& boundaries);
// The cell array that divides a lone grid into parts; nothing: none does. Errors: NameUnknown for the case.
Result<Survey> withPartsBy(Survey survey, const std::string& caseName, const std::optional<std::string>& array);
// Edges sharper than this divide its outer faces ("45 deg", a number is in degrees); empty: 30 degrees. Errors:
// WrongUnit, WrongType, NameUnknown.
Result<Survey> withEdgeAngle(Survey survey, const std::string& caseName, const std::string& angle);
// As the file and the edges make them, without cuts and joins.
Result<Survey> withoutCutsAndJoins(Survey survey, const std::string& caseName);

// A material without values yet, of a name that is not taken: "material", "material 2" ...
// The case that others are held against; the first one needs not be said.
Survey withBaseline(Survey survey, const std::string& caseName);
Survey withNewMaterial(Survey survey);
// Parts and layers of gauges follow. Errors: NameUnknown, WrongType for a name that is empty or taken.
Result<Survey> withMaterialName(Survey survey, const std::string& material, const std::string& name);

enum class MaterialField { Conductivity, Density, HeatCapacity, Viscosity };
Result<Survey> withMaterialField(Survey survey, const std::string& material, MaterialField field,
                                 const std::string& text);

// The quantity's array takes the role `role` ("temperature", ...) and gives up the one it has; an empty role frees it
// from every one. Errors: WrongUnit when the array's own name carries a unit that does not fit the role.
Result<Survey> withQuantityRole(Survey survey, const std::string& caseName, const Quantity& quantity,
                                const std::string& role);
// The unit of the stored values of a quantity. Errors: WrongUnit.
Result<Survey> withQuantityUnit(Survey survey, const std::string& caseName, const Quantity& quantity,
                                const std::string& unit);
// Where the values of a quantity are taken from when its array is stored on nodes and on cells.
Result<Survey> withQuantityLocation(Survey survey, const std::string& caseName, const Quantity& quantity, Location on);

enum class LimitField { Target, Max, Min, Margin, Source, Kind, Level, Above };
// `Above`: the ambient of a rise, a temperature or the id of a gauge; of a difference the other gauge. Errors:
// WrongUnit, Syntax, NameUnknown for a limit that is not there, WrongType for a maximum below the minimum.
Result<Survey> withLimitField(Survey survey, std::size_t limit, LimitField field, const std::string& text);
// Another target or form: what was written and still means something there stays.
Result<Survey> withLimitAbout(Survey survey, std::size_t limit, LimitTarget target, const LimitForm* form);
Survey withLimit(Survey survey, Limit limit);
Survey withoutLimit(Survey survey, std::size_t limit);
// Imported limits replace those with the same target, form and kind; others are added.
Survey withImportedLimits(Survey survey, const std::vector<Limit>& limits);

} // namespace pyro
