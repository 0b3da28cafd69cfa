// Where the name of a part points to in a picture.
#pragma once

#include "render/field_scene.h"

#include <QSize>

namespace pyro {

// Pixel of a place of the part's surface that is seen, near the middle of what is; origin lower left. Nothing where
// others hide it or it lies outside of the picture. The scene must be attached to its window.
std::optional<std::array<double, 2>> placeOfPart(FieldScene& scene, const FieldPicture& picture, std::size_t part,
                                                 const QSize& size);

} // namespace pyro
