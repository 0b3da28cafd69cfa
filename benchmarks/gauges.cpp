// Gauges against the library's filters in the same run: 4.1 million hexahedra, then 4.1 million tetrahedra. Each figure
// is the median of paired rounds. Prints a Markdown table.
#include "benchmarks/compare.h"
#include "benchmarks/large_case.h"
#include "core/evaluate/evaluate.h"
#include "core/survey/survey_file.h"

#include <cmath>
#include <unistd.h>
#include <vtkCellData.h>
#include <vtkDataArray.h>
#include <vtkIntegrateAttributes.h>
#include <vtkNew.h>
#include <vtkPlane.h>
#include <vtkPlaneCutter.h>
#include <vtkPointData.h>
#include <vtkPoints.h>
#include <vtkPolyData.h>
#include <vtkProbeFilter.h>
#include <vtkSmartPointer.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLPolyDataReader.h>
#include <vtkXMLUnstructuredGridReader.h>

namespace {

using namespace pyro;
using namespace pyro::bench;

// The library's integral and mean of a field over a mesh.
std::array<double, 2> integrated(vtkDataObject& mesh, const char* extent) {
    vtkNew<vtkIntegrateAttributes> filter;
    filter->SetInputData(&mesh);
    filter->Update();
    auto* out = vtkUnstructuredGrid::SafeDownCast(filter->GetOutputDataObject(0));
    const double integral = out->GetPointData()->GetArray("temperature")->GetComponent(0, 0);
    return {integral, integral / out->GetCellData()->GetArray(extent)->GetComponent(0, 0)};
}

Point placeOf(std::size_t at) { // spread within the cube, away from its sides
    const auto part = [at](double by) { return 0.02 + 0.06 * std::fmod(static_cast<double>(at + 1) * by, 1.0); };
    return {part(0.618034), part(0.754878), part(0.569840)};
}

// 50 gauges: 6 of the part, 12 of its six sides, 16 of eight sections, 15 points and a line of 1000.
Survey fiftyGauges(const std::string& file) {
    Json gauges = Json::array();
    const auto add = [&](Json gauge) {
        gauge["id"] = fmt::format("g{}", gauges.size());
        gauge["quantity"] = "temperature";
        gauges.push_back(gauge);
    };
    for (const auto* statistic : {"mean", "min", "max", "range", "integral", "deviation"})
        add({{"where", "all"}, {"statistic", statistic}});
    for (const auto* side : {"x-", "x+", "y-", "y+", "z-", "z+"})
        for (const auto* statistic : {"mean", "max"})
            add({{"where", {{"boundary", side}}}, {"statistic", statistic}});
    for (int i = 0; i < 8; ++i)
        for (const auto* statistic : {"mean", "max"})
            add({{"where", {{"plane", {{"origin", {0.01 + 0.01 * i, 0.05, 0.05}}, {"normal", {1, 0.2, 0.1 * i}}}}}},
                 {"statistic", statistic}});
    for (std::size_t i = 0; i < 15; ++i)
        add({{"where", {{"point", placeOf(i)}}}});
    add({{"where", {{"line", {{"from", {0.005, 0.01, 0.02}}, {"to", {0.095, 0.085, 0.08}}, {"points", 1000}}}}}});
    auto survey = surveyFromJson(
        {{"pyrometer", 1}, {"cases", {{{"name", "large"}, {"file", file}}}}, {"gauges", gauges}}, "benchmark");
    return *survey;
}

// The same by filters, one after another.
double byFilters(vtkUnstructuredGrid& grid, const std::vector<vtkSmartPointer<vtkPolyData>>& sides) {
    double sum = 0;
    auto* field = grid.GetPointData()->GetArray("temperature");
    for (int i = 0; i < 3; ++i) // mean, integral, deviation: each a run over the volume
        sum += integrated(grid, "Volume")[1];
    for (int i = 0; i < 3; ++i) { // min, max, range
        std::array<double, 2> range{};
        field->Modified(); // or it would tell the range that it keeps
        field->GetRange(range.data());
        sum += range[1];
    }
    for (const auto& side : sides) {
        sum += integrated(*side, "Area")[1];
        std::array<double, 2> range{};
        side->GetPointData()->GetArray("temperature")->GetRange(range.data());
        sum += range[1];
    }
    for (int i = 0; i < 8; ++i)
        for (int statistic = 0; statistic < 2; ++statistic) {
            vtkNew<vtkPlane> plane;
            plane->SetOrigin(0.01 + 0.01 * i, 0.05, 0.05);
            plane->SetNormal(1, 0.2, 0.1 * i);
            vtkNew<vtkPlaneCutter> cutter;
            cutter->SetInputData(&grid);
            cutter->SetPlane(plane);
            cutter->GeneratePolygonsOn();
            cutter->SetInterpolateAttributes(true);
            cutter->Update();
            sum += integrated(*cutter->GetOutputDataObject(0), "Area")[1];
        }
    const auto probe = [&](const std::vector<Point>& at) {
        vtkNew<vtkPoints> points;
        for (const auto& place : at)
            points->InsertNextPoint(place.data());
        vtkNew<vtkPolyData> places;
        places->SetPoints(points);
        vtkNew<vtkProbeFilter> filter;
        filter->SetInputData(places);
        filter->SetSourceData(&grid);
        filter->Update();
        sum += filter->GetOutput()->GetPointData()->GetArray("temperature")->GetComponent(0, 0);
    };
    for (std::size_t i = 0; i < 15; ++i)
        probe({placeOf(i)});
    std::vector<Point> line;
    for (int i = 0; i < 1000; ++i)
        line.push_back({0.005 + 0.09 * i / 999, 0.01 + 0.075 * i / 999, 0.02 + 0.06 * i / 999});
    probe(line);
    return sum;
}

void onMesh(const std::string& cells, const BlockData& block, int perSide, const std::filesystem::path& folder) {
    std::vector<BlockData> blocks{block};
    std::vector<vtkSmartPointer<vtkPolyData>> sides;
    for (int axis = 0; axis < 3; ++axis)
        for (const bool high : {false, true}) {
            blocks.push_back(sideOf(block, perSide, axis, high));
            const auto file = folder / fmt::format("{}-{}{}.vtp", cells, axis, high);
            (void)writeBlock(blocks.back(), file, Encoding::Raw);
            vtkNew<vtkXMLPolyDataReader> reader;
            reader->SetFileName(file.c_str());
            reader->Update();
            sides.push_back(reader->GetOutput());
        }
    const auto file = folder / (cells + ".vtm");
    (void)writeCase(blocks, file, Encoding::Raw);
    (void)writeBlock(block, folder / (cells + ".vtu"), Encoding::Raw);
    vtkNew<vtkXMLUnstructuredGridReader> reader;
    reader->SetFileName((folder / (cells + ".vtu")).c_str());
    reader->Update();
    auto* grid = reader->GetOutput();
    NoProgress progress;
    const auto opened = openForEvaluation(file, {}, progress);
    if (!opened) {
        fmt::print("{}\n", opened.error().text());
        return;
    }
    const auto evaluated = [&](const Survey& survey) {
        NoProgress quiet;
        const auto readings = evaluate(survey, survey.cases[0], *opened, {}, quiet);
        if (!readings)
            return std::nan("");
        double sum = 0;
        for (const auto& gauge : readings->gauges) {
            sum += gauge.value.value_or(0);
            if (!gauge.read())
                fmt::print("{}: {}\n", gauge.id, gauge.why);
        }
        return sum;
    };
    double kept = 0;
    auto one = fiftyGauges(file.string());
    one.gauges.resize(1);
    compare(
        "volume mean and integral, " + cells, [&](int) { kept += evaluated(one); },
        {{"vtkIntegrateAttributes", [&](int) { kept += integrated(*grid, "Volume")[1]; }}}, 5);
    const auto fifty = fiftyGauges(file.string());
    double seconds = 0;
    const double peak = peakOf([&] { seconds = secondsOf([&] { kept += evaluated(fifty); }); });
    fmt::print("| 50 gauges, {}, the first time | indexes made and kept | {:.0f} ms | | | {:.0f} MB | |\n", cells,
               1e3 * seconds, peak);
    compare(
        "50 gauges, " + cells, [&](int) { kept += evaluated(fifty); },
        {{"filters one after another", [&](int) { kept += byFilters(*grid, sides); }}}, 3);
    if (!std::isfinite(kept))
        fmt::print("a reading is not finite\n");
}

} // namespace

int main() {
    const auto folder = std::filesystem::temp_directory_path() / fmt::format("pyrometer-bench-{}", ::getpid());
    std::filesystem::create_directories(folder);
    ::setenv("XDG_CACHE_HOME", folder.c_str(), 1);
    fmt::print("| what | against | ours | theirs | ratio | our peak | their peak |\n| --- | --- | --- | --- | --- | "
               "--- | --- |\n");
    onMesh("hexahedra", largeHexahedra(), 160, folder);
    onMesh("tetrahedra", largeTetrahedra(), 88, folder);
    std::filesystem::remove_all(folder);
    return 0;
}
