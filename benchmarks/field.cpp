// What is computed on a field, against the library's own filters in the same run: 4.1 million hexahedra, then 4.1
// million tetrahedra. Each figure is the median of paired rounds. Prints a Markdown table.
#include "benchmarks/large_case.h"
#include "core/evaluate/evaluate.h"
#include "core/field/cut.h"

#include <algorithm>
#include <chrono>
#include <fmt/format.h>
#include <functional>
#include <unistd.h>
#include <vtkCellArray.h>
#include <vtkContour3DLinearGrid.h>
#include <vtkContourFilter.h>
#include <vtkCutter.h>
#include <vtkDoubleArray.h>
#include <vtkNew.h>
#include <vtkPlane.h>
#include <vtkPlaneCutter.h>
#include <vtkPointData.h>
#include <vtkPolyData.h>
#include <vtkSpanSpace.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridReader.h>

namespace {

using namespace pyro;
using Clock = std::chrono::steady_clock;

double secondsOf(const std::function<void()>& work) {
    const auto begin = Clock::now();
    work();
    return std::chrono::duration<double>(Clock::now() - begin).count();
}

double median(std::vector<double> values) {
    std::ranges::sort(values);
    return values[values.size() / 2];
}

using Work = std::function<void(int round)>;
struct Rival {
    std::string name;
    Work work;
};

// Rounds of ours and all rivals in turn; a row for each rival. The first round is not counted.
void compare(const std::string& what, const Work& ours, const std::vector<Rival>& rivals, int rounds) {
    std::vector<double> own;
    std::vector<std::vector<double>> other(rivals.size());
    for (int round = 0; round <= rounds; ++round) {
        const double mine = secondsOf([&] { ours(round); });
        std::vector<double> theirs;
        for (const auto& rival : rivals)
            theirs.push_back(secondsOf([&] { rival.work(round); }));
        if (round == 0)
            continue;
        own.push_back(mine);
        for (std::size_t i = 0; i < rivals.size(); ++i)
            other[i].push_back(theirs[i]);
    }
    for (std::size_t i = 0; i < rivals.size(); ++i) {
        std::vector<double> ratio;
        for (std::size_t k = 0; k < own.size(); ++k)
            ratio.push_back(other[i][k] / own[k]);
        fmt::print("| {} | {} | {:.1f} ms | {:.1f} ms | {:.1f} |\n", what, rivals[i].name, 1e3 * median(own),
                   1e3 * median(other[i]), median(ratio));
    }
    std::fflush(stdout);
}

Plane planeOf(int round) {
    return *withUnitNormal({{0.03 + 0.004 * round, 0.05, 0.05}, {1, 0.2, 0.1}});
}

vtkSmartPointer<vtkPlane> libraryPlane(const Plane& plane) {
    auto made = vtkSmartPointer<vtkPlane>::New();
    made->SetOrigin(plane.origin.data());
    made->SetNormal(plane.normal.data());
    return made;
}

void sections(const std::string& cells, const Region& part, const CellOrder& order, vtkUnstructuredGrid& grid) {
    const auto& field = *part.find("temperature", Location::Node);
    vtkNew<vtkPlaneCutter> tree;
    tree->SetInputData(&grid);
    tree->BuildTreeOn();
    vtkNew<vtkPlaneCutter> linear;
    linear->SetInputData(&grid);
    linear->BuildTreeOff();
    const auto run = [](vtkPlaneCutter& cutter, int round) {
        cutter.SetPlane(libraryPlane(planeOf(round)));
        cutter.Update();
    };
    vtkNew<vtkCutter> general;
    general->SetInputData(&grid);
    compare("section moved, " + cells,
            [&](int round) {
                const auto cut = section(part, order, planeOf(round));
                const auto values = valuesOn(cut, field);
            },
            {{"vtkPlaneCutter, tree kept", [&](int round) { run(*tree, round); }},
             {"vtkPlaneCutter, no tree", [&](int round) { run(*linear, round); }},
             {"vtkCutter",
              [&](int round) {
                  general->SetCutFunction(libraryPlane(planeOf(round)));
                  general->Update();
              }}},
            7);
}

void isotherms(const std::string& cells, const Region& part, const CellOrder& order, vtkUnstructuredGrid& grid) {
    const auto& field = *part.find("temperature", Location::Node);
    const auto ranges = blockRanges(order, field);
    const auto value = [](int round) { return 318.0 + 2.0 * round; };
    vtkNew<vtkContourFilter> general;
    general->SetInputData(&grid);
    general->ComputeNormalsOff();
    vtkNew<vtkContour3DLinearGrid> linear;
    linear->SetInputData(&grid);
    linear->SetComputeNormals(0);
    vtkNew<vtkContour3DLinearGrid> tree;
    tree->SetInputData(&grid);
    tree->SetComputeNormals(0);
    tree->UseScalarTreeOn();
    vtkNew<vtkSpanSpace> space;
    tree->SetScalarTree(space);
    const auto run = [&](auto& filter, int round) {
        filter->SetValue(0, value(round));
        filter->Update();
    };
    compare("isotherm surface, " + cells,
            [&](int round) { const auto cut = levelSurface(part, order, ranges, field.values, value(round)); },
            {{"vtkContourFilter", [&](int round) { run(general, round); }},
             {"vtkContour3DLinearGrid", [&](int round) { run(linear, round); }},
             {"the same, scalar tree kept", [&](int round) { run(tree, round); }}},
            5);
}

void onMesh(const std::string& cells, const BlockData& block, const std::filesystem::path& folder) {
    const auto file = folder / (cells + ".vtu");
    (void)writeBlock(block, file, Encoding::Raw);
    NoProgress progress;
    const auto opened = openForEvaluation(file, {}, progress);
    const auto& part = opened->solved->parts[0];
    vtkNew<vtkXMLUnstructuredGridReader> reader;
    reader->SetFileName(file.c_str());
    reader->Update();
    auto* grid = reader->GetOutput();
    grid->GetPointData()->SetActiveScalars("temperature");
    CellOrder order;
    fmt::print("| order of cells and their boxes, {} | built once | {:.0f} ms | | |\n", cells,
               1e3 * secondsOf([&] { order = cellOrder(part); }));
    fmt::print("| ranges of a field, {} | built once | {:.0f} ms | | |\n", cells,
               1e3 * secondsOf([&] { (void)blockRanges(order, *part.find("temperature", Location::Node)); }));
    sections(cells, part, order, *grid);
    isotherms(cells, part, order, *grid);
}

} // namespace

int main() {
    const auto folder = std::filesystem::temp_directory_path() / fmt::format("pyrometer-bench-{}", ::getpid());
    std::filesystem::create_directories(folder);
    ::setenv("XDG_CACHE_HOME", folder.c_str(), 1);
    fmt::print("| what | against | ours | theirs | ratio |\n| --- | --- | --- | --- | --- |\n");
    onMesh("hexahedra", bench::largeHexahedra(), folder);
    onMesh("tetrahedra", bench::largeTetrahedra(), folder);
    std::filesystem::remove_all(folder);
    return 0;
}
