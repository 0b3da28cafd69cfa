#include "core/case/readers/vtk_hdf.h"

#include "core/case/readers/format.h"
#include "core/case/readers/grid.h"
#include "core/case/readers/hdf_data.h"

#include <vtkHDFReader.h>
#include <vtkNew.h>

namespace pyro {

Done readVtkHdf(const CaseSource& source, Intake& to) {
    if (const auto opened = HdfFile::open(source.file); !opened)
        return tl::unexpected(opened.error());
    vtkNew<vtkHDFReader> reader;
    if (reader->CanReadFile(source.file.c_str()) == 0)
        return fail(ErrorCode::FormatUnknown, "it is an HDF5 file, but not one of VTK's: it has no group VTKHDF with a kind that is read", source.file.string(), "Open the file that tells of it (.xdmf, .cgns), or export again");
    const auto complaint = complaintDuring([&] {
        reader->SetFileName(source.file.c_str());
        reader->Update();
    });
    if (!complaint.empty())
        return fail(ErrorCode::FileUnreadable, "its data cannot be read: " + complaint, source.file.string(), "Copy the file again or have the solver write it again");
    auto* grid = vtkDataSet::SafeDownCast(reader->GetOutputDataObject(0));
    if (grid == nullptr)
        return fail(ErrorCode::NotSupported, "it holds several grids in one, which are not read", source.file.string(), "Export one grid, or blocks in a .vtm");
    if (grid->GetNumberOfCells() == 0)
        return fail(ErrorCode::NoCells, "the file has no cells", source.file.string(), "Export the mesh together with the result");
    auto cells = asCells(*grid, source.file.string());
    if (!cells)
        return tl::unexpected(cells.error());
    return to.takeLone({source.file.stem().string(), false, std::move(*cells), source.file.string()});
}

} // namespace pyro
