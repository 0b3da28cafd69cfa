// A VTK grid turned into the flat arrays of one region: cells of stored types only, node numbers of 32 bits.
#pragma once

#include "core/case/case.h"
#include "core/case/readers/xml_scan.h"

#include <vtkPointSet.h>
#include <vtkSmartPointer.h>

namespace pyro {

// Reads one .vtu or .vtp with the library's reader. Errors: as scanXmlGrid, and what the library reports.
Result<vtkSmartPointer<vtkPointSet>> readGrid(const std::filesystem::path& file);

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
