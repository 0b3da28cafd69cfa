// A vector from three arrays of one component each, along x, y and z.
#pragma once

#include <array>
#include <memory>
#include <string>

namespace pyro {

struct Region;
struct StoredArray;
enum class Location;

// "VelocityX, VelocityY, VelocityZ": how the three are named as one.
std::string joinedName(const std::array<std::string, 3>& names);

// The vectors made of a region's arrays so far. Thread-safe; copies of a region share it.
class JoinedArrays {
public:
    JoinedArrays();
    // Null when `name` is no joined name, or the region lacks one of the arrays there.
    const StoredArray* find(const Region& region, std::string_view name, Location on) const;

private:
    struct Kept;
    std::shared_ptr<Kept> m_kept;
};

} // namespace pyro
