#include "core/limits/touch_limits.h"

#include <array>

namespace pyro {

std::span<const TouchLimit> touchLimits() {
    static constexpr double zero = 273.15;
    static constexpr std::array<TouchLimit, 11> all{{{"bare metal", "1 s", 65 + zero},
                                                     {"ceramics, glass, stone", "1 s", 80 + zero},
                                                     {"plastics", "1 s", 85 + zero},
                                                     {"wood", "1 s", 110 + zero},
                                                     {"bare metal", "10 s", 55 + zero},
                                                     {"ceramics, glass, stone", "10 s", 66 + zero},
                                                     {"plastics", "10 s", 71 + zero},
                                                     {"wood", "10 s", 89 + zero},
                                                     {"any material", "1 min", 51 + zero},
                                                     {"any material", "10 min", 48 + zero},
                                                     {"any material", "8 h and longer", 43 + zero}}};
    return all;
}

} // namespace pyro
