// Outer faces as triangles for drawing; those of curved cells divided until they look as curved as they are.
#pragma once

#include "core/field/shell.h"
#include "render/surface.h"

namespace pyro {

PartSurface surfaceOf(const Region& part, const ShellView& shell);

} // namespace pyro
