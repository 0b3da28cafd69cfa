// What is known of one case while the window runs.
#pragma once

#include "core/evaluate/survey_run.h"
#include "render/section_picture.h"

namespace pyro {

// The component of a quantity that is drawn where this one is wanted: what has no magnitude shows its x.
inline Component drawnComponent(const Quantity& quantity, Component wanted) {
    return isAlongAxes(quantity) && wanted == Component::Natural ? Component::X : wanted;
}

// What of a case a picture shows.
struct DrawnKey {
    std::string array;
    Location on;
    Component component;
    DrawnKey(const Quantity& quantity, Component wanted)
        : array(quantity.array), on(quantity.on), component(drawnComponent(quantity, wanted)) {}
    auto operator<=>(const DrawnKey&) const = default;
};

struct CaseState {
    std::optional<Error> error;
    Series series;
    int step = 0;                     // the one on display
    bool openingStep = false;         // another one is on its way
    std::optional<OpenedCase> opened; // at that step
    QuantityList quantities;
    std::shared_ptr<const Readings> readings;
    std::shared_ptr<const FieldPicture> picture;
    std::shared_ptr<const FieldPicture> preview;            // the first one, while the case is being measured
    std::shared_ptr<const CellOrders> orders;               // made when the first section is wanted
    std::optional<std::pair<Quantity, Component>> drawn;    // of the newest picture or of the one being made
    std::shared_ptr<const std::vector<Readings>> history;   // of all steps, for gauges over time
    std::shared_ptr<const std::vector<LimitReading>> worst; // over all steps, once they are read
    int waiting = 0;                                        // files that are being written
    // SI, by part, over the steps that were shown
    std::map<DrawnKey, std::map<std::string, std::array<double, 2>>> seenRanges;

    Step shownStep() const { return series.steps.empty() ? Step{} : series.steps[static_cast<std::size_t>(step)].step; }
    std::shared_ptr<const FieldPicture> seen() const { return picture ? picture : preview; }
    bool judgedOverSteps(const Survey& survey) const { return worst && worst->size() == survey.limits.size(); }
    // The worst over all steps once those are read, else of the step on display; empty while there are none.
    std::vector<LimitReading> verdicts(const Survey& survey) const {
        if (error) // what was read before may no longer hold
            return unreadLimits(survey, error->what);
        return judgedOverSteps(survey) ? *worst : readings ? readings->limits : std::vector<LimitReading>();
    }
};

} // namespace pyro
