#include "core/feedback/whole_file.h"
#include "core/survey/survey_file.h"
#include "pages/report_command.h"
#include "render/drawing_file.h"
#include "render/viewpoint_picture.h"

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

} // namespace

int drawViewpoints(const RenderWords& words, std::ostream& out, std::ostream& err) {
    if (words.all.empty() == (words.output.empty() || words.viewpoint.empty()))
        return complain({ErrorCode::Usage, "it is not said what is drawn", "render",
                         "Write --viewpoint NAME -o FILE.png, or --all FOLDER"},
                        err);
    const auto survey = loadSurvey(words.survey);
    const auto size = sizeOf(words);
    if (!survey || !size)
        return complain(survey ? size.error() : survey.error(), err);
    auto headless = Headless::open();
    if (!headless)
        return complain(headless.error(), err);
    const std::filesystem::path folder = std::filesystem::path(words.survey).parent_path();
    const auto draw = [&](const Viewpoint& viewpoint, const std::string& caseName, const std::filesystem::path& file) {
        ViewpointWish wish{*survey, folder, viewpoint, caseName, words.step};
        wish.size = *size;
        wish.ratio = words.scale;
        wish.light = !words.dark;
        NoProgress progress;
        const auto image = drawViewpoint(**headless, wish, progress);
        const auto written = image ? writePicture(*image, file) : Done(tl::unexpected(image.error()));
        if (!written)
            return complain(written.error(), err);
        fmt::print(out, "{}\n", file.string());
        return 0;
    };
    if (words.all.empty()) {
        const auto found = std::ranges::find(survey->viewpoints, words.viewpoint, &Viewpoint::name);
        if (found == survey->viewpoints.end())
            return complain({ErrorCode::NameUnknown, fmt::format("there is no viewpoint \"{}\"", words.viewpoint),
                             words.survey, "Choose one of the survey's, or keep it in the window"},
                            err);
        return draw(*found, words.caseName, words.output);
    }
    std::error_code status;
    std::filesystem::create_directories(words.all, status);
    int worst = 0;
    for (const auto& viewpoint : survey->viewpoints)
        for (const auto& entry : survey->cases)
            if (words.caseName.empty() || words.caseName == entry.name)
                worst = std::max(worst, draw(viewpoint, entry.name,
                                             std::filesystem::path(words.all) /
                                                 fileName(fmt::format("{}, {}.png", viewpoint.name, entry.name))));
    return worst;
}

} // namespace pyro::pages
