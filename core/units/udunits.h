// UDUNITS-2 behind its lock; for the files of this room only.
#pragma once

#include <memory>
#include <mutex>
#include <string_view>
#include <udunits2.h>

namespace pyro::udunits {

// UDUNITS works with global state, so every use of it holds this lock.
std::mutex& lock();
ut_system* system();

struct Free {
    void operator()(ut_unit* unit) const { ut_free(unit); }
};
using Handle = std::unique_ptr<ut_unit, Free>;

// Null for a unit that is not known; the degree sign and raised digits are understood. The lock must be held.
Handle parse(std::string_view text);

} // namespace pyro::udunits
