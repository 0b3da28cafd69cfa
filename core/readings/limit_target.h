// What a limit is about.
#pragma once

#include <string>
#include <string_view>

namespace pyro {

enum class TargetKind { Part, Boundary, Gauge };
std::string_view targetKindName(TargetKind kind); // "part", "boundary", "gauge"

struct LimitTarget {
    TargetKind kind = TargetKind::Part;
    std::string name;
    bool operator==(const LimitTarget&) const = default;
};

} // namespace pyro
