#include "core/limits/limit_form.h"

namespace pyro {

std::span<const LimitForm* const> limitForms() {
    static constexpr const LimitForm* all[]{
#define LIMIT_FORM(name) &name##Form,
#include "core/limits/list.inc"
#undef LIMIT_FORM
    };
    return all;
}

} // namespace pyro
