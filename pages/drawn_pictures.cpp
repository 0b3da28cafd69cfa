#include "pages/drawn_pictures.h"

#include "render/heat_flow_picture.h"

#include <QBuffer>
#include <QPainter>

namespace pyro::pages {
namespace {

// For a page's width of 174 mm at 300 dpi.
constexpr QSize pageSize(2055, 1284);

ReportPicture without(std::string why) { return {{}, 0, 0, {}, std::move(why)}; }

} // namespace

ReportPicture pictureOf(const QImage& image) {
    QBuffer buffer;
    buffer.open(QIODevice::WriteOnly);
    image.save(&buffer, "PNG");
    return {buffer.data().toStdString(), image.width(), image.height()};
}

DrawnPictures::DrawnPictures(const Survey& survey, const SurveyRun& run, std::filesystem::path folder,
                             TemperatureUnit unit)
    : m_survey(survey), m_run(run), m_folder(std::move(folder)), m_unit(unit) {}

ReportPictures DrawnPictures::source() {
    ReportPictures out;
    out.viewpoint = [this](const Viewpoint& viewpoint, const std::string& caseName, std::optional<int> step) {
        return this->viewpoint(viewpoint, caseName, step);
    };
    out.heatFlowDiagram = [this](const CaseRun& run) { return heatFlow(run); };
    return out;
}

ReportPicture DrawnPictures::viewpoint(const Viewpoint& viewpoint, const std::string& caseName,
                                       std::optional<int> step) {
    if (m_headless && !*m_headless)
        m_headless = Headless::open();
    if (!m_headless)
        return without(m_headless.error().what);
    ViewpointWish wish{m_survey, m_folder, viewpoint, caseName, step};
    const auto& shown = !caseName.empty() ? caseName : viewpoint.view.caseName;
    const auto run = std::ranges::find(m_run.cases, shown, &CaseRun::name);
    const auto& own = run == m_run.cases.end() && !m_run.cases.empty() ? m_run.cases.front() : *run;
    if (!m_run.cases.empty() && !own.steps.empty())
        wish.readings = &own.steps.back();
    wish.size = pageSize;
    wish.ratio = pageSize.width() / 657.0; // the same width at 96 dots to the inch
    NoProgress progress;
    const auto image = drawViewpoint(**m_headless, wish, progress);
    if (image)
        return pictureOf(*image);
    m_remarks.push_back("viewpoint " + viewpoint.name + ": " + image.error().what);
    return without(image.error().what);
}

ReportPicture DrawnPictures::heatFlow(const CaseRun& run) {
    const auto* entry = m_survey.caseNamed(run.name);
    if (entry == nullptr || run.steps.empty())
        return without("the case has not been evaluated");
    const auto diagram = heatFlowDiagram(run.steps.back(), *entry);
    if (!diagram)
        return without(diagram.error().what);
    QImage image(pageSize, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter painter(&image);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::TextAntialiasing);
    QFont font("Inter");
    font.setPixelSize(30);
    painter.setFont(font);
    drawHeatFlowDiagram(painter, QRectF(20, 20, image.width() - 40, image.height() - 40), *diagram, m_unit);
    painter.end();
    return pictureOf(image);
}

} // namespace pyro::pages
