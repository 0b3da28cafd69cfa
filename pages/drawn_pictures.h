// The pictures of a report, drawn without a window.
#pragma once

#include "core/report/pages/report_blocks.h"
#include "render/viewpoint_picture.h"

namespace pyro::pages {

class DrawnPictures {
public:
    // Everything given must outlive it.
    DrawnPictures(const Survey& survey, const SurveyRun& run, std::filesystem::path folder, TemperatureUnit unit);
    ReportPictures source();
    const std::vector<std::string>& remarks() const { return m_remarks; }

private:
    ReportPicture viewpoint(const Viewpoint& viewpoint, const std::string& caseName, std::optional<int> step);
    ReportPicture heatFlow(const CaseRun& run);

    const Survey& m_survey;
    const SurveyRun& m_run;
    std::filesystem::path m_folder;
    TemperatureUnit m_unit;
    Result<std::unique_ptr<Headless>> m_headless = std::unique_ptr<Headless>();
    std::vector<std::string> m_remarks;
};

// PNG of a picture, with its size.
ReportPicture pictureOf(const QImage& image);

} // namespace pyro::pages
