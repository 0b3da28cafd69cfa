// A lone grid divided into parts by an integer cell array.
#pragma once

#include "core/case/readers/intake.h"

namespace pyro {

struct SplitParts {
    struct Part {
        std::string name; // "ARRAY VALUE"
        vtkSmartPointer<vtkPointSet> grid;
    };
    std::string array;
    std::vector<std::string> couldBe; // all cell arrays of whole numbers that would divide it
    std::vector<Part> parts;          // by rising value; empty: the grid stays whole
};

// Whether an array's name tells that it numbers parts: it is or ends in material, part, region, zone, block, domain,
// body or group, also with id or ids behind it; in any case.
bool namesParts(const std::string& array);

// `wanted`: CaseSplit::parts. An array is taken by itself when it is of integers, its name tells so and it has 2 to
// 1000 values. Errors: NameUnknown and WrongType for an array that is wanted and not there, or no whole numbers;
// SizeAbsurd for one with more values.
Result<SplitParts> splitParts(vtkPointSet& grid, const std::optional<std::string>& wanted, const std::string& where);

} // namespace pyro
