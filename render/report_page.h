// The one-page report: case, picture as seen, verdict table. Drawn once, into a PDF or a preview image.
#pragma once

#include "core/evaluate/case_verdicts.h"
#include "core/evaluate/evaluate.h"
#include "core/survey/findings.h"
#include "core/units/display.h"

#include <QImage>
#include <QSize>

class QPainter;

namespace pyro {

struct ReportContent {
    std::string title;
    std::string preparedBy;
    std::string note;
    std::string date; // as written on the page
    const CaseEntry* entry = nullptr;
    const Case* solved = nullptr;
    const Readings* readings = nullptr;
    TemperatureUnit unit = TemperatureUnit::Celsius;
    QImage picture;                       // the viewport as seen
    std::string pictureCaption;           // quantity, unit, range
    std::vector<Finding> findings = {};   // in the order of the survey
    std::vector<CaseVerdicts> cases = {}; // of the survey, the one on the page among them
};

// An A4 page at `dpi`. The table takes as many limits as fit, smallest margin first, and says how many it left out.
void drawReport(QPainter& painter, const ReportContent& content, double dpi);
QImage reportPreview(const ReportContent& content, double dpi);
// Errors: WriteFailed; what stood at the target stays then.
Done writeReportPdf(const ReportContent& content, const std::filesystem::path& file);

} // namespace pyro
