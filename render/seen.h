// What of a case is seen under the view of its survey: which parts, in which range of colours, with which lines. All
// functions of what they are handed, so that viewports side by side and pictures on paper ask the same.
#pragma once

#include "core/field/isolines.h"
#include "core/readings/readings.h"
#include "core/survey/shown_unit.h"
#include "core/survey/survey.h"
#include "render/surface.h"

#include <functional>

namespace pyro {

// One case on display. What is not known yet is null or empty.
struct Seen {
    const Survey& survey;
    const CaseEntry* entry = nullptr;
    const OpenedCase* opened = nullptr;
    const QuantityList* quantities = nullptr;
    const Readings* readings = nullptr;
    std::shared_ptr<const FieldPicture> picture = {};
    // The range for several cases and steps, SI; empty: this picture is the only one.
    std::function<std::array<double, 2>()> commonRange = {};

    const ViewState& view() const { return survey.view; }
};

// Positions in Case::parts; those with an opacity of 0 are not seen.
std::vector<std::size_t> visibleParts(const Seen& seen);
// Lowest and highest x, y and z of the visible parts, metres; zeros when none is.
std::array<double, 6> visibleBox(const Seen& seen);
// The hottest stored place of the visible parts.
std::optional<Point> hottestVisible(const Seen& seen);
// Those boundaries of the view that the case has; positions in Case::boundaries.
std::vector<std::size_t> shownBoundaries(const Seen& seen);
// Noted as a fluid in the survey, or, without a note, with a velocity of its own. The case is open.
bool isFluid(const Seen& seen, std::size_t part);
// Per part: the same number for the same material of the survey.
std::vector<std::size_t> materialGroups(const Seen& seen);
// The part that callout and heat strip tell of: the one named, else the visible one with the least margin, else the
// hottest; null while there are no readings.
const RegionReading* partInFocus(const Seen& seen, const std::string& named);

// How values of the quantity on display are written.
ShownUnit unitOf(const Seen& seen);
// The range of colours, SI: as set, else fitted to the visible parts.
std::optional<std::array<double, 2>> shownRange(const Seen& seen);
// Lowest and highest stored value of the visible parts on the picture, SI; NaN where there is none.
std::array<double, 2> visibleRange(const Seen& seen);
// Whether the colours follow the logarithm: wanted, and possible for this quantity and range.
bool isLogarithmic(const Seen& seen);
// The distribution over the visible parts.
Distribution visibleDistribution(const Seen& seen);

// The temperatures that a part is allowed, K.
std::vector<double> limitLevels(const Survey& survey, const std::string& part);
// What is drawn of the quantity on display.
IsolineValues isolineValues(const Seen& seen);
// The values that are marked by a name, SI; what has none is left out.
std::vector<double> isolineMarks(const Seen& seen);
// The spacing of the isotherms in the unit on display, chosen or fitted.
double isothermSpacing(const Seen& seen);
// Levels of the isotherms on display, SI; nothing while they are off. They stand at round values of the unit on
// display: every 5 degC, not every 5 K from absolute zero.
std::optional<LevelRule> isothermRule(const Seen& seen);
// Values of the hotspots of this gauge, or of the first that lists some, when they are of the quantity on display and
// stand out by `least` (in the gauge's unit); SI.
std::vector<double> hotspotLevels(const Seen& seen, const std::string& gauge, double least);

} // namespace pyro
