// The figures of a report, drawn without a window: viewpoints and heat flow diagrams.
#pragma once

#include "core/report/pages/report_blocks.h"
#include "render/viewpoint_picture.h"

namespace pyro {

// One figure with everything that it is drawn from, so that it can be drawn anywhere at any time.
struct FigureWish {
    std::shared_ptr<const Survey> survey;
    std::filesystem::path folder; // of the survey
    std::vector<Viewpoint> viewpoints;
    std::string caseName;
    std::optional<int> step;
    ReportBlock block;
    std::map<std::string, std::shared_ptr<const Readings>> readings = {}; // by case, as far as there are some
    std::map<std::string, int> steps = {};      // by case, where another than the last is told
    std::map<std::string, DrawnCase> open = {}; // by case, at those steps
};

// The size in pixels of a figure for the page, before it is drawn.
QSize figureSize(const ReportBlock& block);

// Draws on its thread; keeps the case that it opened last.
class FigureDrawer {
public:
    // A picture for a page at 300 dots to the inch. Errors: of Headless and drawViewpoint; NameUnknown.
    Result<ReportPicture> draw(const FigureWish& wish, Progress& progress);
    // One viewpoint as a sheet, for pictures of their own.
    Result<PictureSheet> sheet(const FigureWish& wish, const Viewpoint& viewpoint, const QSize& size,
                               const SheetLook& look, Progress& progress);

private:
    Result<Headless*> headless();
    Result<DrawnCase*> caseFor(const FigureWish& wish, const CaseEntry& entry, std::optional<int> step,
                               const ViewState& view, Progress& progress);

    std::unique_ptr<Headless> m_headless;
    struct Opened {
        std::string key;
        DrawnCase shown;
    };
    std::optional<Opened> m_opened;
};

// How the block has its pictures.
SheetLook lookOf(const ReportBlock& block);

// Lines and letters as such.
ReportPicture heatFlowFigure(const Survey& survey, const CaseRun& run, TemperatureUnit unit);

// Plane elements cut through, one below the other, to one scale, with their layers by number, name, thickness and
// resistance.
ReportPicture elementFigure(const std::vector<PlaneSection>& elements);

// What is drawn by lines and letters, of a survey that outlives it.
ReportPictures lineFigures(const Survey& survey);

// These and viewpoints, each drawn when it is asked for. What is given must outlive it.
ReportPictures figuresOf(const Survey& survey, const SurveyRun& run, FigureDrawer& drawer,
                         std::vector<std::string>& remarks, Progress& progress);

} // namespace pyro
