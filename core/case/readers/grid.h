// A VTK grid turned into the flat arrays of one region: cells of stored types only, node numbers of 32 bits.
#pragma once

#include "core/case/case.h"
#include "core/case/lower_case.h"
#include "core/case/readers/xml_scan.h"

#include <functional>
#include <vtkPointSet.h>
#include <vtkSmartPointer.h>

namespace pyro {

// Reads one .vtu, .vtp, .vti, .vtr or .vts with the library's reader, structured ones as cells. Errors: as scanXmlGrid,
// and what the library reports.
Result<vtkSmartPointer<vtkPointSet>> readGrid(const std::filesystem::path& file);

// A file that holds one grid, of any kind: those of readGrid, their parallel forms, legacy .vtk. Remarks: arrays that
// some pieces lack.
bool isGridFile(const std::filesystem::path& file); // by its ending
Result<vtkSmartPointer<vtkPointSet>> readGridFile(const std::filesystem::path& file, Remarks& remarks);
// The files it is made of besides itself.
std::vector<std::filesystem::path> piecesOfGridFile(const std::filesystem::path& file);

// What the library complained about first while `read` ran; empty when it did not.
std::string complaintDuring(const std::function<void()>& read);

// The time in a file's field data (TimeValue), seconds, from its head alone; of a .vtm that of its first block.
std::optional<double> timeOf(const std::filesystem::path& file);

struct StoredGrid {
    nlohmann::json entry; // for the store's meta data
    bool hasVolume;
    Remarks remarks;
};

// Writes the grid's arrays under `key` ("part/3"). `where` names file or block in messages.
// Errors: NoCells, IndexOutOfRange, LengthMismatch, NotSupported (cell type), SizeAbsurd (over 2^32 nodes).
Result<StoredGrid> storeGrid(vtkPointSet& grid, const std::string& key, const std::string& name,
                             const std::string& where, ArrayFileWriter& store);

} // namespace pyro
