// How long files of each kind take until the case is in the store and until its picture is made, against the library's
// reader and its surface, in paired rounds of one run; and how fast a series of small steps goes. A million hexahedra
// with a temperature. Files lie in a temporary folder and go with the program.
#include "benchmarks/compare.h"
#include "core/case/store.h"
#include "core/evaluate/evaluate.h"
#include "core/field/case_shells.h"
#include "render/surface.h"

#include <cgnslib.h>
#include <filesystem>
#include <fmt/format.h>
#include <unistd.h>
#include <vtkAppendFilter.h>
#include <vtkCGNSReader.h>
#include <vtkCompositeDataGeometryFilter.h>
#include <vtkCompositeDataSet.h>
#include <vtkDataSetReader.h>
#include <vtkDataSetWriter.h>
#include <vtkDoubleArray.h>
#include <vtkExodusIIReader.h>
#include <vtkExodusIIWriter.h>
#include <vtkFieldData.h>
#include <vtkGeometryFilter.h>
#include <vtkImageData.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPolyData.h>
#include <vtkStructuredGrid.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLImageDataReader.h>
#include <vtkXMLImageDataWriter.h>
#include <vtkXMLStructuredGridReader.h>
#include <vtkXMLStructuredGridWriter.h>
#include <vtkXMLUnstructuredGridReader.h>
#include <vtkXMLUnstructuredGridWriter.h>

namespace {

using namespace pyro;
using namespace pyro::bench;

constexpr int rounds = 5;

vtkSmartPointer<vtkImageData> image(int perSide) {
    auto grid = vtkSmartPointer<vtkImageData>::New();
    grid->SetDimensions(perSide + 1, perSide + 1, perSide + 1);
    grid->SetSpacing(1e-3, 1e-3, 1e-3);
    vtkNew<vtkDoubleArray> kelvin;
    kelvin->SetName("temperature");
    for (vtkIdType i = 0; i < grid->GetNumberOfPoints(); ++i)
        kelvin->InsertNextValue(300 + static_cast<double>(i % 977));
    grid->GetPointData()->AddArray(kelvin);
    return grid;
}

vtkSmartPointer<vtkStructuredGrid> structured(vtkImageData& from) {
    auto grid = vtkSmartPointer<vtkStructuredGrid>::New();
    grid->SetDimensions(from.GetDimensions());
    vtkNew<vtkPoints> points;
    points->SetDataTypeToDouble();
    points->SetNumberOfPoints(from.GetNumberOfPoints());
    std::array<double, 3> at{};
    for (vtkIdType i = 0; i < from.GetNumberOfPoints(); ++i) {
        from.GetPoint(i, at.data());
        points->SetPoint(i, at.data());
    }
    grid->SetPoints(points);
    grid->GetPointData()->ShallowCopy(from.GetPointData());
    return grid;
}

template <class Writer, class Grid>
void write(Grid& grid, const std::filesystem::path& file) {
    vtkNew<Writer> writer;
    writer->SetInputData(&grid);
    writer->SetFileName(file.c_str());
    if constexpr (requires { writer->SetDataModeToAppended(); }) {
        writer->SetDataModeToAppended();
        writer->SetCompressorTypeToNone();
        writer->EncodeAppendedDataOff();
    }
    if constexpr (requires { writer->SetFileTypeToBinary(); })
        writer->SetFileTypeToBinary();
    writer->Write();
}

void writeCgns(vtkStructuredGrid& grid, const std::filesystem::path& file) {
    std::array<int, 3> n{};
    grid.GetDimensions(n.data());
    int id = 0;
    int base = 0;
    int zone = 0;
    int number = 0;
    cg_open(file.c_str(), CG_MODE_WRITE, &id);
    cg_base_write(id, "Base", 3, 3, &base);
    const std::array<cgsize_t, 9> size{n[0], n[1], n[2], n[0] - 1, n[1] - 1, n[2] - 1, 0, 0, 0};
    cg_zone_write(id, base, "Zone", size.data(), CGNS_ENUMV(Structured), &zone);
    std::vector<double> values(static_cast<std::size_t>(grid.GetNumberOfPoints()));
    for (int axis = 0; axis < 3; ++axis) {
        for (std::size_t i = 0; i < values.size(); ++i)
            values[i] = grid.GetPoint(static_cast<vtkIdType>(i))[axis];
        cg_coord_write(id, base, zone, CGNS_ENUMV(RealDouble), ("Coordinate" + std::string(1, "XYZ"[axis])).c_str(),
                       values.data(), &number);
    }
    int solution = 0;
    cg_sol_write(id, base, zone, "Flow", CGNS_ENUMV(Vertex), &solution);
    for (std::size_t i = 0; i < values.size(); ++i)
        values[i] = grid.GetPointData()->GetArray(0)->GetComponent(static_cast<vtkIdType>(i), 0);
    cg_field_write(id, base, zone, solution, CGNS_ENUMV(RealDouble), "Temperature", values.data(), &number);
    cg_close(id);
}

struct Times {
    double read;    // s, until the data are there
    double picture; // s, until the outer faces are there too, with what colours them
};

void showByLibrary(vtkDataObject& data) {
    vtkNew<vtkGeometryFilter> surface;
    vtkNew<vtkCompositeDataGeometryFilter> surfaces;
    auto& filter = vtkCompositeDataSet::SafeDownCast(&data) != nullptr ? static_cast<vtkAlgorithm&>(*surfaces)
                                                                       : *surface;
    filter.SetInputDataObject(&data);
    filter.Update();
    auto* faces = vtkPolyData::SafeDownCast(filter.GetOutputDataObject(0));
    if (faces == nullptr || faces->GetNumberOfCells() == 0 || faces->GetPointData()->GetNumberOfArrays() == 0)
        fmt::print("the library shows nothing\n");
}

template <class Reader>
Times byLibrary(const std::filesystem::path& file) {
    vtkNew<Reader> reader;
    Times out{};
    out.read = secondsOf([&] {
        reader->SetFileName(file.c_str());
        if constexpr (requires { reader->SetAllArrayStatus(0, 1); }) { // Exodus
            reader->UpdateInformation();
            reader->SetAllArrayStatus(vtkExodusIIReader::NODAL, 1);
        }
        if constexpr (requires { reader->EnableAllPointArrays(); }) {
            reader->UpdateInformation();
            reader->EnableAllPointArrays();
        }
        reader->Update();
    });
    out.picture = out.read + secondsOf([&] { showByLibrary(*reader->GetOutputDataObject(0)); });
    return out;
}

Times byUs(const std::filesystem::path& file) {
    std::filesystem::remove_all(storeFolder());
    NoProgress progress;
    Times out{};
    std::shared_ptr<const Case> solved;
    out.read = secondsOf([&] {
        if (const auto opened = openCase(file, {}, progress))
            solved = *opened;
    });
    if (!solved)
        return out;
    out.picture =
        out.read + secondsOf([&] {
            const auto shells = shellsOf(*solved, progress);
            const auto quantities = recognise(*solved, {});
            if (!makePicture({solved, unmeasuredIndex(*shells)}, *quantities->named("temperature"), nullptr, progress))
                fmt::print("we show nothing\n");
        });
    return out;
}

void series(const std::filesystem::path& folder) {
    constexpr int steps = 200;
    for (int step = 0; step < steps; ++step) {
        const auto grid = image(8);
        vtkNew<vtkDoubleArray> time;
        time->SetName("TimeValue");
        time->InsertNextValue(step);
        grid->GetFieldData()->AddArray(time);
        write<vtkXMLImageDataWriter>(*grid, folder / fmt::format("step_{:04}.vti", step));
    }
    NoProgress progress;
    const auto found = seriesOf(folder / "step_0000.vti", std::nullopt, {}, progress);
    if (!found)
        return;
    for (const auto* what : {"first look", "second look"}) {
        const double taken = secondsOf([&] {
            const OpenedCase* like = nullptr;
            std::optional<OpenedCase> last;
            for (const auto& step : found->steps) {
                auto opened = openStep(step, like, {}, progress);
                if (!opened)
                    return;
                last = std::move(*opened);
                like = &*last;
            }
        });
        fmt::print("| {} small steps, {} | {:.0f} steps/s |\n", steps, what, steps / taken);
    }
}

} // namespace

int main() {
    const auto folder = std::filesystem::temp_directory_path() / fmt::format("pyrometer-bench-{}", ::getpid());
    std::filesystem::create_directories(folder);
    ::setenv("XDG_CACHE_HOME", folder.c_str(), 1);
    {
        const auto grid = image(100);
        const auto curvilinear = structured(*grid);
        vtkNew<vtkAppendFilter> cells;
        // hexahedra; of an image they would be voxels, with which the library is slow
        cells->AddInputData(curvilinear);
        cells->Update();
        write<vtkXMLImageDataWriter>(*grid, folder / "grid.vti");
        write<vtkXMLStructuredGridWriter>(*curvilinear, folder / "grid.vts");
        write<vtkXMLUnstructuredGridWriter>(*cells->GetOutput(), folder / "grid.vtu");
        write<vtkDataSetWriter>(*cells->GetOutput(), folder / "grid.vtk");
        write<vtkExodusIIWriter>(*cells->GetOutput(), folder / "grid.e");
        writeCgns(*curvilinear, folder / "grid.cgns");
    }
    fmt::print("| kind | library reads | ours in the store | ratio | library's surface | our picture | ratio |\n| --- "
               "| --- | --- | --- | --- | --- | --- |\n");
    const auto compare = [&](const char* name, Times (*library)(const std::filesystem::path&)) {
        std::array<std::vector<double>, 6> all;
        for (int round = 0; round <= rounds; ++round) {
            const auto theirs = library(folder / name);
            const auto ours = byUs(folder / name);
            if (round > 0) // the first one warms up
                for (std::size_t i = 0;
                     const double one : {theirs.read, ours.read, ours.read / theirs.read, theirs.picture, ours.picture,
                                         ours.picture / theirs.picture})
                    all[i++].push_back(one);
        }
        fmt::print("| {} | {:.0f} ms | {:.0f} ms | {:.2f} | {:.0f} ms | {:.0f} ms | {:.2f} |\n", name,
                   1e3 * median(all[0]), 1e3 * median(all[1]), median(all[2]), 1e3 * median(all[3]),
                   1e3 * median(all[4]), median(all[5]));
    };
    compare("grid.vti", byLibrary<vtkXMLImageDataReader>);
    compare("grid.vts", byLibrary<vtkXMLStructuredGridReader>);
    compare("grid.vtu", byLibrary<vtkXMLUnstructuredGridReader>);
    compare("grid.vtk", byLibrary<vtkDataSetReader>);
    compare("grid.e", byLibrary<vtkExodusIIReader>);
    compare("grid.cgns", byLibrary<vtkCGNSReader>);
    series(folder);
    std::filesystem::remove_all(folder);
}
