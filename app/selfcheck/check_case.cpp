#include "app/selfcheck/checks.h"
#include "app/selfcheck/run_program.h"
#include "core/evaluate/survey_run.h"
#include "core/program/program.h"
#include "core/survey/survey_file.h"

#include <QTemporaryDir>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

// One square metre of brick and felt between two airs: resistances in series, EN ISO 6946.
constexpr const char* wall = R"json({"rig": 1, "title": "Wall of the self-check",
 "grid": {"x": {"spacing": 0.5}, "y": {"spacing": 0.5}, "z": {"spacing": 0.02}},
 "materials": {"brick": {"conductivity": "0.8 W/(m.K)"}, "felt": {"conductivity": "0.04 W/(m.K)"}},
 "boxes": [{"part": "brick", "material": "brick", "from": [0, 0, 0], "to": [1, 1, 0.24]},
           {"part": "felt", "material": "felt", "from": [0, 0, 0.24], "to": [1, 1, 0.34]}],
 "environments": [
  {"boundary": "inside", "temperature": "20 degC", "surface_resistance": "0.13 m2.K/W", "faces": [{"side": "-z"}]},
  {"boundary": "outside", "temperature": "-10 degC", "surface_resistance": "0.04 m2.K/W",
   "faces": [{"side": "+z"}]}]})json";
constexpr double exactHeat = 30 / (0.13 + 0.24 / 0.8 + 0.1 / 0.04 + 0.04); // W

constexpr const char* survey =
    R"json({"pyrometer": 1, "title": "Self-check", "cases": [{"name": "wall", "file": "wall.vtm"}],
 "gauges": [{"id": "Q", "where": {"boundary": "inside"}, "quantity": "heat_flux", "statistic": "integral"}]})json";

Done solved(const std::filesystem::path& folder) {
    if (auto written = writeFileAtomically(folder / "wall.rig.json", wall); !written)
        return written;
    if (auto written = writeFileAtomically(folder / "wall.survey.json", survey); !written)
        return written;
    const auto end = runProgram(helperProgram("pyrometer-rig"),
                                {QString::fromStdString((folder / "wall.rig.json").string()), "-o",
                                 QString::fromStdString((folder / "wall.vtm").string())},
                                60'000);
    if (end.how != ProgramEnd::How::Well)
        return fail(ErrorCode::NotSupported, "the rig did not solve it: " + end.err.toStdString());
    return {};
}

Result<double> heatOf(const std::filesystem::path& folder) {
    if (auto done = solved(folder); !done)
        return tl::unexpected(done.error());
    const auto file = folder / "wall.survey.json";
    const auto read = loadSurvey(file);
    if (!read)
        return tl::unexpected(read.error());
    NoProgress progress;
    const auto run = runSurvey(*read, file, {}, progress);
    if (!run)
        return tl::unexpected(run.error());
    const auto& one = run->cases.at(0);
    if (one.error)
        return tl::unexpected(*one.error);
    const auto& gauge = one.steps.at(0).gauges.at(0);
    if (!gauge.value)
        return fail(ErrorCode::NotSupported, "its heat flow is not told: " + gauge.why);
    return *gauge.value;
}

} // namespace

CheckLine checkSmallCase() {
    const QTemporaryDir folder;
    if (!folder.isValid())
        return {"solved case", false, "no folder for temporary files", "Free space in /tmp, or set TMPDIR"};
    const auto heat = heatOf(folder.path().toStdString());
    if (!heat)
        return {"solved case", false, heat.error().what, heat.error().remedy};
    const double away = std::abs(std::abs(*heat) - exactHeat) / exactHeat;
    const auto found = fmt::format("a wall of two layers: {:.6f} W, exactly {:.6f} W", std::abs(*heat), exactHeat);
    if (!(away < 1e-8))
        return {"solved case", false, found, "Figures of this installation cannot be trusted; install it again"};
    return {"solved case", true, found};
}

} // namespace pyro
