// What is derived from a case's mesh alone and kept beside its store: measures, outer faces, and which cell of
// which part stands behind every boundary face.
#pragma once

#include "core/field/case_shells.h"
#include "core/field/part_indexes.h"

namespace pyro {

struct PartIndex {
    std::span<const double> cellMeasure; // m3 (m2 for surface parts)
    std::span<const double> nodeShare;   // sums to `size`
    ShellView shell;
    double size = 0;
    std::array<double, 6> box{}; // x from, to, y from, to, z from, to; metres
};

constexpr std::uint32_t noNumber = ~0U;

struct BoundaryIndex {
    std::span<const double> cellMeasure; // m2
    std::span<const double> nodeShare;
    double size = 0;
    std::array<double, 6> box{};
    std::span<const std::uint32_t> part; // per face: its part, noNumber where no part's outer face matches
    std::span<const std::uint32_t> cell; // per face: the cell within that part
    std::span<const std::uint32_t> node; // per node: the same node within the part of an adjoining face
    std::span<const double> normal;      // per face: 3 numbers, unit vector out of the part
};

struct CaseIndex {
    std::vector<PartIndex> parts;
    std::vector<BoundaryIndex> boundaries;
    Remarks remarks;      // flawed cells, faces without a part
    bool measured = true; // false: only the shells are there, everything else is empty
    std::shared_ptr<const CaseShells> shells;
    std::shared_ptr<const PartIndexes> search; // null while unmeasured
    std::shared_ptr<const ArrayFile> file;
};

// Only the outer faces, for a first picture.
std::shared_ptr<const CaseIndex> unmeasuredIndex(std::shared_ptr<const CaseShells> shells);

// The index from beside the store, or built and put there. Errors: Cancelled, WriteFailed.
Result<std::shared_ptr<const CaseIndex>> indexOf(const Case& solved, Progress& progress);

} // namespace pyro
