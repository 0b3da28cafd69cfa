// The blocks that a report is made of. Each is described in one file of blocks/, with a line in list.inc.
#pragma once

#include "core/evaluate/survey_run.h"
#include "core/report/pages/report_document.h"

#include <functional>
#include <span>

namespace pyro {

// What only someone who draws can tell. Either may be empty: then the report says that there is no picture.
struct ReportPictures {
    // A viewpoint of the survey on a case (empty: as it says, else the first) and step.
    std::function<ReportPicture(const Viewpoint&, const std::string& caseName, std::optional<int> step)> viewpoint;
    std::function<ReportPicture(const CaseRun&)> profiles;        // charts of its profiles
    std::function<ReportPicture(const CaseRun&)> heatFlowDiagram; // which way the heat goes
};

struct ReportInput {
    const Survey& survey;
    const SurveyRun& run;
    std::string date;
    std::string version; // of the program
    TemperatureUnit unit = TemperatureUnit::Celsius;
    std::string onlyCase = {}; // empty: all
    ReportPictures pictures = {};
};

// The cases of a block: those it names, those of the report, or all; each with its entry.
struct ReportedCase {
    const CaseRun& run;
    const CaseEntry& entry;
    const Readings* readings; // of the last step; null where it could not be read
};
std::vector<ReportedCase> casesOf(const ReportInput& input, const ReportBlock& block);

struct ReportBlockKind {
    std::string_view key;     // in files: "verdicts"
    std::string_view title;   // its heading unless the block has one of its own
    std::string_view meaning; // for lists and help
    void (*make)(const ReportInput& input, const ReportBlock& block, ReportDocument& into) = nullptr;
};
std::span<const ReportBlockKind* const> reportBlockKinds();
const ReportBlockKind* reportBlockKind(std::string_view key); // null: none

// The blocks of a report that says none: all that has something to say.
std::vector<ReportBlock> usualBlocks(const Survey& survey);

// By the blocks of the survey, or of a template.
ReportDocument makeReport(const ReportInput& input, const std::vector<ReportBlock>& blocks);

// A heading as the block or its kind has it, with what is said when there is nothing below it.
void addHeading(const ReportBlock& block, ReportDocument& into);
// With the columns that the block names.
void addTable(const ReportBlock& block, ShownTable table, const std::string& caption, ReportDocument& into);
void addPicture(const ReportBlock& block, ReportPicture picture, const std::string& caption, ReportDocument& into);

#define BLOCK(name) extern const ReportBlockKind name##Block;
#include "core/report/pages/blocks/list.inc"
#undef BLOCK

} // namespace pyro
