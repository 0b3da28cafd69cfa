#include "render/drawn_case.h"

#include "core/survey/survey_file.h"

#include <fmt/format.h>

namespace pyro {

std::string timeText(const Series& series, int step) {
    if (series.steps.size() < 2)
        return {};
    const auto& time = series.steps[static_cast<std::size_t>(step)].step.time;
    return time ? fmt::format("t = {:g} s", *time) : std::string();
}

Result<DrawnCase> openDrawnCase(const CaseEntry& entry, const std::filesystem::path& folder, std::optional<int> step,
                                const ViewState& view, Progress& progress) {
    LookWish asked{besideSurvey(entry.file, folder), entry.series};
    asked.step = step;
    asked.choices = entry.quantities;
    asked.quantity = view.quantity;
    asked.component = componentNamed(view.component);
    asked.split = entry.wholeSplit();
    auto look = firstLook(asked, progress);
    if (!look)
        return tl::unexpected(look.error());
    if (!look->picture)
        return fail(ErrorCode::NotSupported, "the case has no field to draw", entry.file);
    auto quantities = recognise(*look->opened.solved, entry.quantities);
    if (!quantities)
        return tl::unexpected(quantities.error());
    DrawnCase out{entry, std::move(look->opened), false, std::move(*quantities), {}, std::move(look->picture)};
    out.when = timeText(look->series, look->step);
    return out;
}

} // namespace pyro
