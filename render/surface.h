// The outer faces of a part with the values of one quantity, packed for drawing. Made by a job, then shown.
#pragma once

#include "core/evaluate/evaluate.h"
#include "core/evaluate/region_readings.h"
#include "core/field/distribution.h"
#include "core/field/locate.h"

namespace pyro {

struct PartSurface {
    std::vector<float> points;           // 3 per node of the surface
    std::vector<std::uint32_t> partNode; // node number in the part, per node of the surface, as far as it is one
    // The nodes behind those lie within curved faces: where the nodes of the part that each goes by begin, one more at
    // the end, and with which weights.
    std::vector<std::uint32_t> blendStart{0};
    std::vector<std::uint32_t> blendNode;
    std::vector<float> blendWeight;
    std::vector<std::int32_t> triangles; // 3 nodes each
    std::vector<std::uint32_t> partCell; // cell number in the part, per triangle
    std::size_t division = 1;            // of each side of a curved piece
    std::vector<std::uint32_t> face;     // face of the shell, per triangle; empty where none is divided
    std::vector<std::uint32_t> edges;    // 2 nodes each: where faces meet at more than 30 degrees or end
    // A reduced surface of the same nodes for drawing while moving; empty where the surface is small anyway.
    std::vector<std::int32_t> coarse;        // triangles, 3 nodes each
    std::vector<std::uint32_t> coarseSource; // per coarse triangle: the triangle it stands for

    std::size_t nodes() const { return points.size() / 3; }
    // use(node of the part, weight) for what a node of the surface is made of.
    template <class Use>
    void forSources(std::size_t node, Use use) const {
        if (node < partNode.size())
            return use(partNode[node], 1.0);
        for (auto i = blendStart[node - partNode.size()]; i < blendStart[node - partNode.size() + 1]; ++i)
            use(blendNode[i], static_cast<double>(blendWeight[i]));
    }
};

using Surfaces = std::vector<PartSurface>;
using SurfaceValues = std::vector<std::vector<float>>;

// All that the viewport and the heat strip need of one quantity of a case.
struct FieldPicture {
    OpenedCase opened; // keeps alive what `fields` points to
    Quantity quantity;
    Component component;                             // of a vector; Natural: its magnitude
    std::shared_ptr<const Surfaces> surfaces;        // per part; the same for every quantity of a case
    std::shared_ptr<const SurfaceValues> values;     // SI; per part: per surface node or triangle; empty: not there
    std::vector<std::optional<RegionValues>> fields; // per part: the stored values, before conversion to SI
    std::vector<Distribution> distributions;         // SI; per part; empty while the case is not measured
    std::vector<std::array<double, 2>> ranges;       // SI; per part: lowest and highest stored value; NaN: none
    // of all parts and boundaries; empty while the case is not measured
    std::vector<RegionValue> regions;
    double min; // SI, over all parts; NaN when there is no finite value
    double max;
};

// Lowest and highest stored value of some parts on the picture, SI; NaN where none of them has one.
std::array<double, 2> rangeOf(const FieldPicture& picture, std::span<const std::size_t> parts);

// The value of the picture's quantity where a cell of a part is met, SI: node values by the cell's shape functions,
// cell values as they are. NaN where the part has none.
double valueAt(const FieldPicture& picture, std::size_t part, const CellPlace& place);

// Surfaces with more triangles than this get a reduced one.
constexpr std::size_t mostTrianglesWhileMoving = 40'000;

// Fills `coarse` by putting together all nodes within the cells of a grid over the surface's box and dropping the
// triangles that collapse (Rossignac and Borrel 1993). Values stay those of stored nodes.
void reduce(PartSurface& surface);

// What an earlier picture of the same case holds already is taken from it; `before` may be null.
// Errors: Cancelled.
Result<FieldPicture> makePicture(const OpenedCase& opened, const Quantity& quantity, const FieldPicture* before,
                                 Progress& progress, Component component = Component::Natural);

// A case opened for its picture, at the wanted step or else its last one, and the picture of the wanted quantity or
// else of its first one; null when the case has no quantity. Errors: as seriesOf and openForPicture.
struct LookWish {
    std::filesystem::path file;
    std::optional<bool> series = {};
    std::optional<int> step = {};
    QuantityChoices choices = {};
    std::string quantity = "temperature";
    Component component = Component::Natural;
    CaseSplit split = {};
};
struct FirstLook {
    Series series;
    int step; // in the series
    OpenedCase opened;
    std::shared_ptr<const FieldPicture> picture;
};
Result<FirstLook> firstLook(const LookWish& wish, Progress& progress);

} // namespace pyro
