// Plane elements and linear bridges of a transmittance as they are typed: "0.34 W/(m2.K) x 1.2 m; 0.28 x 2 m".
#pragma once

#include "core/feedback/error.h"
#include "core/gauge/gauge.h"
#include "core/quantities/gauge_keys.h"

namespace pyro {

// The value of a key of plane elements (transmittance times length or area) or of linear ones (value times length). A
// bare first number is in W/(m2.K), of linear ones in W/(m.K), a bare second one in m. Errors: Syntax, WrongUnit with
// the element that is meant.
Result<Json> elementsOfText(GaugeKeyKind kind, const std::string& text);
// As elementsOfText reads it; an element with layers or a gauge stays as JSON.
std::string textOfElements(GaugeKeyKind kind, const Json& elements);

} // namespace pyro
