// A matrix of numbers as infrared cameras write it: text, or a picture of one channel.
#pragma once

#include "core/feedback/error.h"

#include <filesystem>
#include <string>
#include <vector>

namespace pyro {

struct ValueMatrix {
    std::size_t columns = 0;
    std::size_t rows = 0;
    std::vector<double> values; // row by row from the upper left; NaN: a gap
    bool counts = false;        // whole numbers of a picture, which stand for something else
    std::vector<std::string> notes;
};

// `.csv` and `.txt` by parseCsv: lines of words before the matrix are left out, fields that are empty or no number are
// gaps. `.png` of 8 or 16 bits and `.tif` of 8, 16 or 32 bits or of floating point, of one channel. Errors:
// FileMissing, FileUnreadable for what is no such file, has colours or lines of different width, SizeAbsurd.
Result<ValueMatrix> readMatrix(const std::filesystem::path& file);

} // namespace pyro
