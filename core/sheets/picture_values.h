// The numbers of pictures of one channel.
#pragma once

#include "core/sheets/value_matrix.h"

namespace pyro {

// As readMatrix tells.
Result<ValueMatrix> readPng(const std::filesystem::path& file);
Result<ValueMatrix> readTiff(const std::filesystem::path& file);

} // namespace pyro
