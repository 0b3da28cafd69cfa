// What is computed on a field, against the library's own filters in the same run: 4.1 million hexahedra, then 4.1
// million tetrahedra. Each figure is the median of paired rounds. Prints a Markdown table.
#include "benchmarks/compare.h"
#include "benchmarks/large_case.h"
#include "core/evaluate/evaluate.h"
#include "core/field/cut.h"
#include "core/field/gradient.h"
#include "core/field/recovered_gradient.h"
#include "core/field/sample.h"
#include "core/field/stream.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fstream>
#include <functional>
#include <random>
#include <set>
#include <tbb/parallel_for.h>
#include <tbb/parallel_reduce.h>
#include <tbb/scalable_allocator.h>
#include <unistd.h>
#include <vtkCellArray.h>
#include <vtkCellDerivatives.h>
#include <vtkContour3DLinearGrid.h>
#include <vtkContourFilter.h>
#include <vtkCutter.h>
#include <vtkDataSetSurfaceFilter.h>
#include <vtkDoubleArray.h>
#include <vtkGeometryFilter.h>
#include <vtkGradientFilter.h>
#include <vtkNew.h>
#include <vtkPlane.h>
#include <vtkPlaneCutter.h>
#include <vtkPointData.h>
#include <vtkPoints.h>
#include <vtkPolyData.h>
#include <vtkProbeFilter.h>
#include <vtkSmartPointer.h>
#include <vtkSpanSpace.h>
#include <vtkStreamTracer.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridReader.h>

namespace {

using namespace pyro;
using namespace pyro::bench;
Plane planeOf(int round) { return *withUnitNormal({{0.03 + 0.004 * round, 0.05, 0.05}, {1, 0.2, 0.1}}); }

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
    compare(
        "section moved, " + cells,
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
    compare(
        "isotherm surface, " + cells,
        [&](int round) { const auto cut = levelSurface(part, order, ranges, field.values, value(round)); },
        {{"vtkContourFilter", [&](int round) { run(general, round); }},
         {"vtkContour3DLinearGrid", [&](int round) { run(linear, round); }},
         {"the same, scalar tree kept", [&](int round) { run(tree, round); }}},
        5);
}

// 100 000 points within the block, scattered.
std::vector<Point> scattered(int round) {
    std::mt19937 random(static_cast<unsigned>(round) + 7);
    std::uniform_real_distribution<double> at(0.004, 0.096);
    std::vector<Point> points(100'000);
    for (auto& point : points)
        point = {at(random), at(random), at(random)};
    return points;
}

void samples(const std::string& cells, const Region& part, const CellOrder& order, vtkUnstructuredGrid& grid) {
    const auto& field = *part.find("temperature", Location::Node);
    const PointLocator locator(part, order);
    const auto probed = [&](int round) {
        const auto places = scattered(round);
        vtkNew<vtkPoints> points;
        points->SetDataTypeToDouble();
        for (const auto& place : places)
            points->InsertNextPoint(place.data());
        vtkNew<vtkPolyData> at;
        at->SetPoints(points);
        vtkNew<vtkProbeFilter> filter;
        filter->SetInputData(at);
        filter->SetSourceData(&grid);
        filter->Update();
        return vtkSmartPointer<vtkDataArray>(filter->GetOutput()->GetPointData()->GetArray("temperature"));
    };
    const auto probe = [&](int round) { (void)probed(round); };
    const auto theirs = probed(0);
    for (const auto& ours :
         {sampleAll(part, locator, field.values, scattered(0)), sampleAll(part, field.values, scattered(0))}) {
        double off = 0;
        for (std::size_t i = 0; i < ours.size(); ++i)
            off = std::max(off, std::abs(ours[i] - theirs->GetComponent(static_cast<vtkIdType>(i), 0)));
        fmt::print("| 100 000 samples, {} | largest difference | {:.1e} K | | | | |\n", cells, off);
    }
    compare(
        "100 000 samples, first call, " + cells,
        [&](int round) { (void)sampleAll(part, field.values, scattered(round)); }, {{"vtkProbeFilter", probe}}, 3);
    compare(
        "100 000 samples, index kept, " + cells,
        [&](int round) { (void)sampleAll(part, locator, field.values, scattered(round)); }, {{"vtkProbeFilter", probe}},
        3);
}

void gradients(const std::string& cells, const Region& part, const PartIndex& index, vtkUnstructuredGrid& grid) {
    const auto& field = *part.find("temperature", Location::Node);
    const auto library = [&](bool) {
        vtkNew<vtkGradientFilter> filter;
        filter->SetInputData(&grid);
        filter->SetInputScalars(vtkDataObject::FIELD_ASSOCIATION_POINTS, "temperature");
        filter->Update();
    };
    compare(
        "gradient at nodes, " + cells, [&](int) { (void)nodeGradient(part, field.values); },
        {{"vtkGradientFilter", [&](int) { library(true); }}}, 1);
    compare(
        "gradient at nodes, mended at faces, " + cells,
        [&](int) { (void)recoveredGradient(part, field.values, index.shell.nodes, index.cellMeasure); },
        {{"vtkGradientFilter", [&](int) { library(true); }}}, 1);
    compare(
        "gradient in cells, " + cells, [&](int) { (void)cellGradient(part, field.values); },
        {{"vtkCellDerivatives",
          [&](int) {
              vtkNew<vtkCellDerivatives> filter;
              filter->SetInputData(&grid);
              filter->SetVectorModeToComputeGradient();
              filter->SetTensorModeToPassTensors();
              filter->Update();
          }}},
        1);
}

void surfaces(const std::string& cells, const Region& part, vtkUnstructuredGrid& grid) {
    const auto library = [&](auto filter) {
        filter->SetInputData(&grid);
        filter->Update();
    };
    compare(
        "outer surface, " + cells, [&](int) { (void)outerFaces(part); },
        {{"vtkGeometryFilter", [&](int) { library(vtkSmartPointer<vtkGeometryFilter>::New()); }},
         {"vtkDataSetSurfaceFilter", [&](int) { library(vtkSmartPointer<vtkDataSetSurfaceFilter>::New()); }}},
        3);
}

void streams(const std::string& cells, const Case& solved, const CellOrder& order, vtkUnstructuredGrid& grid) {
    const std::vector<CellOrder> orders{order};
    const VectorField field(solved, orders, "velocity", Location::Node);
    StreamRule rule;
    rule.longest = 0.2;
    const auto seeds = [](int round) {
        auto all = scattered(round);
        all.resize(200);
        return all;
    };
    compare(
        "200 streamlines, " + cells,
        [&](int round) {
            const auto from = seeds(round);
            tbb::parallel_for(std::size_t{0}, from.size(),
                              [&](std::size_t i) { (void)traceStream(field, from[i], rule); });
        },
        {{"vtkStreamTracer",
          [&](int round) {
              vtkNew<vtkPoints> points;
              for (const auto& seed : seeds(round))
                  points->InsertNextPoint(seed.data());
              vtkNew<vtkPolyData> at;
              at->SetPoints(points);
              vtkNew<vtkStreamTracer> tracer;
              tracer->SetInputData(&grid);
              tracer->SetSourceData(at);
              tracer->SetInputArrayToProcess(0, 0, 0, vtkDataObject::FIELD_ASSOCIATION_POINTS, "velocity");
              tracer->SetIntegratorTypeToRungeKutta4();
              tracer->SetIntegrationDirectionToBoth();
              tracer->SetIntegrationStepUnit(vtkStreamTracer::CELL_LENGTH_UNIT);
              tracer->SetInitialIntegrationStep(0.3);
              tracer->SetMaximumPropagation(0.2);
              tracer->SetMaximumNumberOfSteps(5000);
              tracer->Update();
          }}},
        2);
}

// A swirl about the block's axis, with some flow along it.
void addVelocity(BlockData& block) {
    ArrayData velocity{"velocity", Location::Node, 3, {}};
    velocity.values.reserve(block.points.size());
    for (std::size_t i = 0; i < block.points.size(); i += 3)
        for (const double component : {-(block.points[i + 1] - 0.05), block.points[i] - 0.05, 0.01})
            velocity.values.push_back(component);
    block.arrays.push_back(std::move(velocity));
}

// The limit by memory bandwidth: every byte of the mesh and of one field, once, on all cores.
void printLimit(const std::string& cells, const Region& part) {
    const auto sumOf = [](auto values) {
        return tbb::parallel_reduce(
            tbb::blocked_range<std::size_t>(0, values.size(), 1 << 16), 0.0,
            [&](const auto& range, double sum) {
                for (auto i = range.begin(); i != range.end(); ++i)
                    sum += static_cast<double>(values[i]);
                return sum;
            },
            std::plus<>());
    };
    const auto& field = part.find("temperature", Location::Node)->values;
    double sum = 0;
    std::vector<double> times;
    for (int round = 0; round < 5; ++round)
        times.push_back(secondsOf([&] {
            part.mesh.coordinates.visit([&](auto values) { sum += sumOf(values); });
            sum += sumOf(part.mesh.connectivity);
            field.visit([&](auto values) { sum += sumOf(values); });
        }));
    const double bytes = part.mesh.coordinates.visit([](auto values) {
        return static_cast<double>(values.size_bytes());
    }) + static_cast<double>(part.mesh.connectivity.size_bytes()) +
                         field.visit([](auto values) { return static_cast<double>(values.size_bytes()); });
    fmt::print("| mesh and field read once, {} | limit by memory bandwidth | {:.1f} ms | | | {:.0f} MB read{} | |\n",
               cells, 1e3 * median(times), bytes / 1e6, std::isfinite(sum) ? "" : "?");
}

void onMesh(const std::string& cells, BlockData block, const std::filesystem::path& folder,
            const std::set<std::string>& only) {
    addVelocity(block);
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
    printLimit(cells, part);
    CellOrder order;
    double seconds = 0;
    const double peak = peakOf([&] { seconds = secondsOf([&] { order = cellOrder(part); }); });
    fmt::print("| order of cells and their boxes, {} | built once | {:.0f} ms | | | {:.0f} MB | |\n", cells,
               1e3 * seconds, peak);
    fmt::print("| ranges of a field, {} | built once | {:.0f} ms | | | | |\n", cells,
               1e3 * secondsOf([&] { (void)blockRanges(order, *part.find("temperature", Location::Node)); }));
    const auto wanted = [&](const char* chapter) { return only.empty() || only.contains(chapter); };
    if (wanted("sections"))
        sections(cells, part, order, *grid);
    if (wanted("isotherms"))
        isotherms(cells, part, order, *grid);
    if (wanted("surfaces"))
        surfaces(cells, part, *grid);
    if (wanted("samples"))
        samples(cells, part, order, *grid);
    if (wanted("gradients"))
        gradients(cells, part, opened->index->parts[0], *grid);
    if (wanted("streams"))
        streams(cells, *opened->solved, order, *grid);
}

} // namespace

// Arguments: the chapters to run (sections, isotherms, surfaces, samples, gradients, streams); none: all.
int main(int count, char** words) {
    const std::set<std::string> only(words + 1, words + count);
    const auto folder = std::filesystem::temp_directory_path() / fmt::format("pyrometer-bench-{}", ::getpid());
    std::filesystem::create_directories(folder);
    ::setenv("XDG_CACHE_HOME", folder.c_str(), 1);
    fmt::print("| what | against | ours | theirs | ratio | our peak | their peak |\n| --- | --- | --- | --- | --- | "
               "--- | --- |\n");
    onMesh("hexahedra", bench::largeHexahedra(), folder, only);
    onMesh("tetrahedra", bench::largeTetrahedra(), folder, only);
    std::filesystem::remove_all(folder);
    return 0;
}
