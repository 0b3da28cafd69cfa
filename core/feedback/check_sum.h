// Check sums of files, by which anyone tells whether a file is still the one that was evaluated.
#pragma once

#include "core/feedback/error.h"

#include <filesystem>
#include <span>

namespace pyro {

// SHA-256 (FIPS 180-4) of the files one after the other, in hexadecimal: what `cat FILES | sha256sum` tells.
// Errors: FileUnreadable.
Result<std::string> sha256Of(std::span<const std::filesystem::path> files);

} // namespace pyro
