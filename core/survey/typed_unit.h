// What a bare number means where someone types: the unit that stands on display there. Survey files keep to bare SI.
#pragma once

#include "core/survey/edit.h"
#include "core/survey/view_state.h"

namespace pyro {

// "34" with `unit` "degC" is "34 degC"; a text that has a unit of its own, is no number or meets no unit stays as
// typed.
std::string withUnit(const std::string& typed, const std::string& unit);
// The unit that a written value has; empty: none, or it is no value.
std::string unitOfText(const std::string& text);

// The unit of the field of a limit; empty: the field holds none, or it is without dimension.
std::string typedUnit(const Survey& survey, const Limit& limit, LimitField field, const ViewState& view);
// Of a further key of a gauge, as withGaugeKey takes it.
std::string typedUnit(const Gauge& gauge, const std::string& key, const ViewState& view);
std::string typedUnit(BoundaryField field, const ViewState& view);

} // namespace pyro
