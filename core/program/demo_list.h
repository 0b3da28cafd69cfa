// The demos that are shipped, as demos/*/demos.json lists them: surveys, and the cases that the rig solves for them.
#pragma once

#include "core/feedback/error.h"

#include <filesystem>
#include <nlohmann/json.hpp>

namespace pyro {

struct DemoCase {
    std::string input;     // a .rig.json beside the list
    std::string output;    // "cases/baseline.vtm", below the folder where the demo is put
    std::string history;   // the same, a .csv; empty: none
    double coarser = 1;    // spacings of the grid so many times as wide
    nlohmann::json change; // of the input, a JSON Patch (RFC 6902); null: none
};

struct Demo {
    std::string name;
    std::string title;
    std::string about;              // half a sentence
    std::string survey;             // file beside the list
    std::vector<std::string> files; // what the survey reads besides cases
    std::vector<DemoCase> cases;
    std::filesystem::path source; // folder of the list
};

// In the order in which they are listed. Errors: FileMissing where nothing is installed, Syntax and WrongType with the
// list's name.
Result<std::vector<Demo>> shippedDemos();
// Errors: also NameUnknown, with the names that there are.
Result<Demo> shippedDemo(const std::string& name);

// Where demos are put unless another folder is named: in the user's cache, by version of the program.
std::filesystem::path demoFolder();
// Whether all its cases and its survey stand in the folder, whatever they were made of.
bool isSolved(const Demo& demo, const std::filesystem::path& folder);
// A transient's first file, "cases/warm-up_0000.vtm", counts for the whole.
bool isSolved(const DemoCase& one, const std::filesystem::path& folder);

} // namespace pyro
