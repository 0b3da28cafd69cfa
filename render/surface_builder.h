// Outer faces as triangles for drawing; those of curved cells divided until they look as curved as they are.
#pragma once

#include "core/field/shell.h"
#include "render/surface.h"

namespace pyro {

PartSurface surfaceOf(const Region& part, const ShellView& shell);
// Some of its faces, divided as the whole is.
PartSurface surfaceOf(const Region& part, const ShellView& faces, std::size_t division);

// A boundary on curved faces of one part, divided as that part is drawn, so that it lies on it: `partNode` and
// `blendNode` are nodes of the boundary, `partCell` are its faces. Nothing where its faces are straight, of several
// parts or of none.
std::optional<PartSurface> surfaceOfBoundary(const FieldPicture& picture, std::size_t boundary);

} // namespace pyro
