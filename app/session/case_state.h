// What is known of one case while the window runs.
#pragma once

#include "app/session/case_watch.h"
#include "app/session/extra_keeper.h"
#include "core/evaluate/survey_run.h"

namespace pyro {

struct CaseState {
    std::optional<Error> error;
    Series series;
    int step = 0;                     // the one on display
    bool openingStep = false;         // another one is on its way
    std::optional<OpenedCase> opened; // at that step
    QuantityList quantities;
    std::shared_ptr<const Readings> readings;
    std::shared_ptr<const FieldPicture> picture;
    std::shared_ptr<const FieldPicture> preview; // the first one, while the case is being measured
    std::shared_ptr<const CellOrders> orders;    // made when the first section is wanted
    bool ordering = false;
    int evaluation = 0; // counts requests, so that late answers are dropped
    int drawing = 0;
    std::shared_ptr<const std::vector<Readings>> history; // of all steps, for gauges over time
    struct HistoryKey {                                   // what `history` was read for
        std::vector<Gauge> gauges;
        std::map<std::string, Material> materials;
        CaseEntry entry;
        std::vector<Limit> limits; // those that need the fields of each step
        bool operator==(const HistoryKey&) const = default;
    };
    std::optional<HistoryKey> historyKey;                   // of the newest one or of the one being read
    bool historyGrows = false;                              // steps came since it was read
    std::shared_ptr<const std::vector<LimitReading>> worst; // over all steps, once they are read
    std::vector<FileStamp> stamps;                          // of the files as they were read
    bool looking = false;                                   // for new steps
    int waiting = 0;                                        // files that are being written
    // SI, by quantity and part, over the steps that were shown
    std::map<std::string, std::map<std::string, std::array<double, 2>>> seenRanges;
    std::optional<std::pair<Quantity, Component>> drawn; // of the newest picture or of the one being made

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
