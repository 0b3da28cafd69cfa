// Boundaries that the file does not name: outer faces without a boundary, divided part by part at sharp edges
//.
#pragma once

#include "core/case/case_split.h"
#include "core/feedback/progress.h"
#include "core/field/case_shells.h"

namespace pyro {

struct Patch {
    std::string name;                 // "z min", "face 1", with the part before it where the case has several
    std::uint32_t part;               // position in Case::parts
    std::vector<std::uint32_t> faces; // of its shell, in their order
};

// Faces that touch another part or that a boundary covers belong to none. `angle`: rad between the normals of two faces
// that meet in an edge; sharper edges divide. Plane ones across an axis are named by it, the others by falling area;
// the same on every run.
std::vector<Patch> patchesOf(const Case& solved, std::span<const ShellView> shells, double angle);

// The patches cut and joined as the split tells; what it names and is not there is told.
void cutAndJoin(const Case& solved, std::span<const ShellView> shells, const CaseSplit& split,
                std::vector<Patch>& patches, Remarks& remarks);

// The case with the patches as further boundaries, from beside the store or made and put there.
// Errors: Cancelled, WriteFailed.
Result<std::shared_ptr<const Case>> withPatches(const std::shared_ptr<const Case>& solved, const CaseShells& shells,
                                                const CaseSplit& split, Progress& progress);

// The case with the patches of another one on the same mesh.
std::shared_ptr<const Case> withPatchesOf(const std::shared_ptr<const Case>& solved, const Case& like);

} // namespace pyro
