// Three arrays that are the components of one vector, told by their names.
#pragma once

#include <string>
#include <vector>

namespace pyro {

// One array of a file, or three that make a vector.
struct JoinedArray {
    std::string name;
    // positions in the list of names; of a vector 3, beyond the list where a plane case has no third
    std::vector<std::size_t> arrays;
};

// "VelocityX VelocityY VelocityZ", "vel_x vel_y vel_z" and the like, in any case, become "Velocity", "vel"; all others
// stay alone.
std::vector<JoinedArray> joinVectors(const std::vector<std::string>& names, std::size_t dimensions);

} // namespace pyro
