#include "core/case/lower_case.h"
#include "core/case/series.h"
#include "core/evaluate/survey_run.h"
#include "core/survey/survey_file.h"
#include "pages/film.h"
#include "pages/report_command.h"
#include "render/report_figures.h"

#include <algorithm>
#include <cstdio>
#include <fmt/format.h>
#include <fmt/ostream.h>

namespace pyro::pages {
namespace {

Result<QSize> sizeOf(const RenderWords& words) {
    int width = 0;
    int height = 0;
    constexpr int most = 16384;
    if (std::sscanf(words.size.c_str(), "%dx%d", &width, &height) != 2 || !(words.scale > 0) || words.scale > 16 ||
        width * words.scale < 64 || height * words.scale < 128 || width * words.scale > most ||
        height * words.scale > most)
        return fail(ErrorCode::Usage, fmt::format("\"{}\" times {:g} is no size of a picture", words.size, words.scale),
                    "--size", "Write 1600x1000; 64 to 16384 pixels each way");
    return QSize(static_cast<int>(width * words.scale), static_cast<int>(height * words.scale));
}

// A file name out of names of people.
std::string fileName(std::string name) {
    for (auto& c : name)
        if (c == '/' || c == '\\' || static_cast<unsigned char>(c) < 32)
            c = '-';
    return name;
}

// The values of gauges that isotherms follow; most viewpoints need none.
bool followsGauges(const Viewpoint& viewpoint) {
    return std::ranges::any_of(viewpoint.view.field.isotherms.values,
                               [](const auto& one) { return !one.second.marksOf.empty(); });
}

class Renderer {
public:
    Renderer(const RenderWords& words, Survey survey, QSize size)
        : m_words(words), m_survey(std::make_shared<const Survey>(std::move(survey))), m_size(size) {
        m_block.legend = words.legend ? "parts" : "";
        m_block.labels = words.labels ? "" : "none";
        m_block.ground = words.ground;
        m_block.scale = words.scaleAt;
        m_look = lookOf(m_block);
        m_look.ratio = words.scale;
        m_look.points = words.points;
    }

    // Side by side as one picture.
    Done draw(const std::vector<const Viewpoint*>& viewpoints, const std::string& caseName,
              const std::filesystem::path& file) {
        auto sheets = sheetsOf(viewpoints, caseName, m_words.step);
        return sheets ? writeSheets(*sheets, m_look, file) : Done(tl::unexpected(sheets.error()));
    }

    // One picture for each step.
    Done film(const std::vector<const Viewpoint*>& viewpoints, const std::string& caseName,
              const std::filesystem::path& file) {
        const auto entry = caseOfViewpoint(*m_survey, *viewpoints.front(), caseName);
        if (!entry)
            return tl::unexpected(entry.error());
        NoProgress progress;
        const auto series = seriesOf(besideSurvey((*entry)->file, folder()), (*entry)->series, {}, progress);
        if (!series)
            return tl::unexpected(series.error());
        return writeFilm(file, m_words.framesPerSecond, static_cast<int>(series->steps.size()),
                         [&](int step) -> Result<QImage> {
                             auto sheets = sheetsOf(viewpoints, caseName, step);
                             if (!sheets)
                                 return tl::unexpected(sheets.error());
                             return imageOf(*sheets, m_look);
                         });
    }

private:
    std::filesystem::path folder() const { return std::filesystem::path(m_words.survey).parent_path(); }

    Result<std::vector<PictureSheet>> sheetsOf(const std::vector<const Viewpoint*>& viewpoints,
                                               const std::string& caseName, std::optional<int> step) {
        FigureWish wish{m_survey, folder(), {}, caseName, step, m_block};
        std::vector<PictureSheet> sheets;
        const auto many = static_cast<int>(viewpoints.size());
        for (const auto* viewpoint : viewpoints) {
            if (followsGauges(*viewpoint))
                addReadings(wish, *viewpoint);
            NoProgress progress;
            auto sheet = m_drawer.sheet(wish, *viewpoint, {m_size.width() / many, m_size.height()}, m_look, progress);
            if (!sheet)
                return tl::unexpected(sheet.error());
            sheets.push_back(std::move(*sheet));
        }
        return sheets;
    }

    // Of the viewpoint's case; where it cannot be evaluated, its marks are left out.
    void addReadings(FigureWish& wish, const Viewpoint& viewpoint) {
        const auto entry = caseOfViewpoint(*m_survey, viewpoint, wish.caseName);
        if (!entry || wish.readings.contains((*entry)->name))
            return;
        NoProgress progress;
        const auto run = runCase(*m_survey, **entry, m_words.survey, {{}, wish.step, {}, false}, progress);
        if (run && !run->steps.empty())
            wish.readings.emplace((*entry)->name, std::make_shared<const Readings>(run->steps.back()));
    }

    const RenderWords& m_words;
    std::shared_ptr<const Survey> m_survey;
    QSize m_size;
    ReportBlock m_block;
    SheetLook m_look;
    FigureDrawer m_drawer;
};

} // namespace

int drawViewpoints(const RenderWords& words, std::ostream& out, std::ostream& err) {
    if (words.all.empty() == (words.output.empty() || words.viewpoints.empty()))
        return complain({ErrorCode::Usage, "it is not said what is drawn", "render",
                         "Write --viewpoint NAME -o FILE.png, or --all FOLDER"},
                        err);
    const auto survey = loadSurvey(words.survey);
    const auto size = sizeOf(words);
    if (!survey || !size)
        return complain(survey ? size.error() : survey.error(), err);
    Renderer renderer(words, *survey, *size);
    const auto tell = [&](const Done& written, const std::filesystem::path& file) {
        if (!written)
            return complain(written.error(), err);
        fmt::print(out, "{}\n", file.string());
        return 0;
    };
    if (words.all.empty()) {
        std::vector<const Viewpoint*> wanted;
        for (const auto& name : words.viewpoints) {
            const auto found = std::ranges::find(survey->viewpoints, name, &Viewpoint::name);
            if (found == survey->viewpoints.end())
                return complain({ErrorCode::NameUnknown, fmt::format("there is no viewpoint \"{}\"", name),
                                 words.survey, "Choose one of the survey's, or keep it in the window"},
                                err);
            wanted.push_back(&*found);
        }
        const bool isFilm = words.everyStep || lowerEnding(words.output) == ".ogv" ||
                            lowerEnding(words.output) == ".webp";
        return tell(isFilm ? renderer.film(wanted, words.caseName, words.output)
                           : renderer.draw(wanted, words.caseName, words.output),
                    words.output);
    }
    std::error_code status;
    std::filesystem::create_directories(words.all, status);
    int worst = 0;
    for (const auto& entry : survey->cases) // a case is opened once for all its viewpoints
        for (const auto& viewpoint : survey->viewpoints)
            if (words.caseName.empty() || words.caseName == entry.name) {
                const auto file = std::filesystem::path(words.all) /
                                  fileName(fmt::format("{}, {}.png", viewpoint.name, entry.name));
                worst = std::max(worst, tell(renderer.draw({&viewpoint}, entry.name, file), file));
            }
    return worst;
}

} // namespace pyro::pages
