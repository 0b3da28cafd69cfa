// The report: case, picture as seen, verdicts, transmittances, findings. Laid out once, for paper and for the screen.
#pragma once

#include "core/evaluate/survey_run.h"
#include "core/survey/findings.h"
#include "core/units/display.h"

#include <QImage>
#include <QTextDocument>

class QPainter;

namespace pyro {

struct ReportContent {
    std::string title;
    std::string preparedBy;
    std::string note;
    std::string date; // as written on the page
    const Survey* survey = nullptr;
    const CaseEntry* entry = nullptr;
    const Readings* readings = nullptr;
    TemperatureUnit unit = TemperatureUnit::Celsius;
    QImage picture;                       // the viewport as seen
    std::string pictureCaption;           // quantity, unit, range
    std::vector<Finding> findings = {};   // in the order of the survey
    const SurveyRun* run = nullptr;       // what cases tell together; null: nothing
    std::vector<CaseVerdicts> cases = {}; // of the survey, the one on the page among them
};

// A4 pages. Tables go on over pages, with their heads repeated.
class ReportPages {
public:
    explicit ReportPages(const ReportContent& content);
    int count() const { return m_document.pageCount(); }
    // One page from 0, with its foot, at `dpi`.
    void draw(QPainter& painter, int page, double dpi) const;
    QImage picture(int page, double dpi) const;
    // Errors: WriteFailed; what stood at the target stays then.
    Done writePdf(const std::filesystem::path& file) const;

private:
    void layOut(const ReportContent& content);
    QTextDocument m_document;
    QString m_foot; // what stands beside the page's number
};

} // namespace pyro
