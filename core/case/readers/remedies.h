// What a user can do about a broken file, in words that several readers share.
#pragma once

namespace pyro {

inline constexpr const char* writeAgain = "Have the solver write the file again";

} // namespace pyro
