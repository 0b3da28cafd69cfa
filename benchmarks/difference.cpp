// The difference field of 4 million cells on another mesh of 4 million, against the library's probe filter.
#include "benchmarks/compare.h"
#include "benchmarks/large_case.h"
#include "core/compare/difference_field.h"

#include <cmath>
#include <vtkDataArray.h>
#include <vtkPointData.h>
#include <vtkProbeFilter.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridReader.h>

namespace {

using namespace pyro;
using namespace pyro::bench;

OpenedCase opened(const std::filesystem::path& file) {
    NoProgress progress;
    auto found = openForEvaluation(file, {}, progress);
    if (!found) {
        fmt::print(stderr, "{}\n", found.error().text());
        std::exit(1);
    }
    return std::move(*found);
}

vtkSmartPointer<vtkUnstructuredGrid> gridOf(const std::filesystem::path& file) {
    vtkNew<vtkXMLUnstructuredGridReader> reader;
    reader->SetFileName(file.c_str());
    reader->Update();
    return reader->GetOutput();
}

// `cold`: the meshes have just been opened, and nothing is indexed for finding places.
void difference(const std::string& what, const std::filesystem::path& own, const std::filesystem::path& other) {
    const auto first = opened(own);
    const auto second = opened(other);
    const auto quantities = *recognise(*first.solved, {});
    const auto others = *recognise(*second.solved, {});
    const CaseAtTime at{second};
    NoProgress progress;
    const auto places = gridOf(own);
    const auto source = gridOf(other);
    const auto ours = [&] { return *differenceOf(first, quantities, {at, others}, "temperature", progress); };
    const auto theirs = [&] {
        vtkNew<vtkProbeFilter> filter;
        filter->SetInputData(places);
        filter->SetSourceData(source);
        filter->Update();
        return vtkSmartPointer<vtkDataArray>(filter->GetOutput()->GetPointData()->GetArray("temperature"));
    };
    const auto mine = ours();
    const auto probed = theirs();
    const auto* stored = first.solved->parts[0].find("temperature", Location::Node);
    const auto& values = mine.opened.solved->parts[0].arrays[0].values;
    double off = 0;
    std::size_t both = 0;
    for (std::size_t i = 0; i < values.size(); ++i)
        if (const double their = probed->GetComponent(static_cast<vtkIdType>(i), 0);
            std::isfinite(values[i]) && their > 0) {
            off = std::max(off, std::abs(values[i] - (stored->values[i] - their)));
            ++both;
        }
    fmt::print("| {} | covered {:.4f}, both at {:.4f}, largest difference {:.1e} K | | | | | |\n", what, mine.covered,
               static_cast<double>(both) / static_cast<double>(values.size()), off);
    compare(
        what, [&](int) { (void)ours(); }, {{"vtkProbeFilter", [&](int) { (void)theirs(); }}}, 1);
}

} // namespace

int main() {
    const auto folder = std::filesystem::temp_directory_path() / "pyrometer-bench-difference";
    std::filesystem::create_directories(folder);
    if (!writeBlock(largeHexahedra(), folder / "hexahedra.vtu", Encoding::Raw) ||
        !writeBlock(largeTetrahedra(), folder / "tetrahedra.vtu", Encoding::Raw))
        return 1;
    fmt::print("| what | against | ours | theirs | theirs / ours | our peak | their peak |\n"
               "| --- | --- | --- | --- | --- | --- | --- |\n");
    difference("hexahedra minus tetrahedra", folder / "hexahedra.vtu", folder / "tetrahedra.vtu");
    difference("tetrahedra minus hexahedra", folder / "tetrahedra.vtu", folder / "hexahedra.vtu");
    return 0;
}
