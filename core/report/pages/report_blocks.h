// The blocks that a report is made of. Each is described in one file of blocks/, with a line in list.inc.
#pragma once

#include "core/evaluate/survey_run.h"
#include "core/report/chart_data.h"
#include "core/report/pages/report_document.h"
#include "core/units/reader_units.h"

#include <functional>
#include <span>

namespace pyro {

// One figure of viewpoints on a case.
struct ViewpointFigure {
    std::vector<const Viewpoint*> viewpoints; // side by side
    std::string caseName;                     // empty: as they say, else the first
    std::optional<int> step;                  // nothing: as they say, else the last
    const ReportBlock& block;                 // how it is drawn
};

// What only someone who draws can tell. Any may be empty: then the report says that there is no picture.
struct ReportPictures {
    std::function<ReportPicture(const ViewpointFigure&)> viewpoints;
    std::function<ReportPicture(const ChartData&, const ChartView&)> chart;
    std::function<ReportPicture(const CaseRun&)> heatFlowDiagram;            // which way the heat goes
    std::function<ReportPicture(const std::vector<PlaneSection>&)> elements; // their layers, cut through
};

struct ReportInput {
    const Survey& survey;
    const SurveyRun& run;
    std::string date;
    std::string version; // of the program
    ReaderUnits unit = {};
    std::string onlyCase = {}; // empty: all
    ReportPictures pictures = {};
    std::vector<ChartCase> chartCases = {}; // what charts are drawn of; empty: the cases of the run
    // Check sums of the files of a case, in words; empty: they are not told. For large files it takes seconds.
    std::function<std::string(const CaseRun&)> checkSum = {};

    std::filesystem::path folder() const; // of the survey
};

// The cases of a block: those it names, those of the report, or all; each with its entry.
struct ReportedCase {
    const CaseRun& run;
    const CaseEntry& entry;
    const Readings* readings; // of the last step; null where it could not be read
};
std::vector<ReportedCase> casesOf(const ReportInput& input, const ReportBlock& block);
// The cases that are wanted and that the run knows nothing of: not read yet.
std::vector<std::string> unreadCases(const ReportInput& input, const ReportBlock& block);

struct ReportBlockKind {
    std::string_view key;     // in files: "verdicts"
    std::string_view title;   // its heading unless the block has one of its own
    std::string_view meaning; // for lists and help
    std::string_view keys;    // which of a block's keys it heeds, with blanks between them
    void (*make)(const ReportInput& input, const ReportBlock& block, ReportDocument& into) = nullptr;
};
bool heeds(const ReportBlockKind& kind, std::string_view key);
std::span<const ReportBlockKind* const> reportBlockKinds();
const ReportBlockKind* reportBlockKind(std::string_view key); // null: none

// The blocks of a report that says none: all that has something to say.
std::vector<ReportBlock> usualBlocks(const Survey& survey);

// By the blocks of the survey, or of a template.
ReportDocument makeReport(const ReportInput& input, const std::vector<ReportBlock>& blocks);

// As the survey's settings have them, beside the scale of temperatures on display.
ReaderUnits reportUnits(const Survey& survey);
// Of the case's file, and of a series of all of them.
std::string checkSumOf(const CaseRun& run);

// A heading as the block or its kind has it, with what is said when there is nothing below it.
void addHeading(const ReportBlock& block, ReportDocument& into);
// With the columns that the block names.
void addTable(const ReportBlock& block, ShownTable table, const std::string& caption, ReportDocument& into);
void addPicture(const ReportBlock& block, ReportPicture picture, const std::string& caption, ReportDocument& into);
// A figure of the viewpoint, or the reason why there is none.
void addViewpoints(const ReportInput& input, const ViewpointFigure& figure, const std::string& caption,
                   ReportDocument& into);

#define BLOCK(name) extern const ReportBlockKind name##Block;
#include "core/report/pages/blocks/list.inc"
#undef BLOCK

} // namespace pyro
