// What a view adds to the surfaces of a case, by the quantities that the case has: curves, arrows, a deformed shape.
// What cannot be made says why in its picture.
#pragma once

#include "render/arrow_picture.h"
#include "render/deformed_picture.h"
#include "render/path_picture.h"

namespace pyro {

// The section of this name, if it is shown and ready.
template <class Sections>
std::shared_ptr<const SectionPicture> shownSectionNamed(const Sections& sections, const std::string& name) {
    for (const auto& one : sections)
        if (one.view.shown && one.view.name == name)
            return one.picture;
    return nullptr;
}

// Errors of both: Cancelled.
Result<PathPicture> pathsOf(const FieldPicture& picture, const CellOrders& orders, const QuantityList& quantities,
                            const PathView& view, const PathSources& sources, Progress& progress);
Result<ArrowPicture> arrowsOf(const FieldPicture& picture, const CellOrders& orders, const QuantityList& quantities,
                              const ArrowView& view, std::span<const std::shared_ptr<const SectionPicture>> sections,
                              Progress& progress);
// `moved`: the case that the displacement is of; null: it is not there yet.
DeformedPicture deformedOf(const FieldPicture& picture, const OpenedCase* moved, const QuantityList& quantities,
                           const std::string& quantity, std::optional<double> factor);

} // namespace pyro
