// One section through all chosen parts with the values of the quantity on display, packed for drawing.
#pragma once

#include "core/survey/view_state.h"
#include "render/surface.h"

namespace pyro {

// The cells of all parts in an order for cutting, one entry per part; made once per mesh by a job.
struct CellOrders {
    std::span<const CellOrder> parts;
    std::shared_ptr<const PartIndexes> kept; // what `parts` point into
};
// Errors: Cancelled.
Result<CellOrders> makeOrders(const OpenedCase& opened, Progress& progress);

struct SectionPicture {
    std::string name;
    Plane plane;                         // normal of length 1
    std::vector<float> points;           // 3 per node
    std::vector<std::int32_t> triangles; // 3 nodes each
    // SI; per node or per triangle as the quantity is stored; NaN: no value there
    std::vector<float> values;
    std::vector<std::uint32_t> part;  // per triangle
    std::vector<std::uint32_t> edges; // 2 nodes each, of the cut cells
    bool valuesOnNodes = true;
    double area = 0;       // m2
    double withValues = 0; // m2 of it in parts that have the quantity
    // area weighted over these, SI; nothing when one of their values is not finite
    std::optional<double> mean;
    std::optional<double> min; // SI, of what is drawn
    std::optional<double> max;

    bool empty() const { return triangles.empty(); }
};

// `parts`: those that are cut. A plane that misses them all gives an empty picture.
SectionPicture makeSection(const OpenedCase& opened, const CellOrders& orders, const FieldPicture& picture,
                           const SectionView& view, std::span<const std::size_t> parts);

} // namespace pyro
