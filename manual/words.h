// What is asked for on the command line of each program, as its parser leaves it.
#pragma once

#include <optional>
#include <string>
#include <vector>

namespace pyro {

struct InspectWords {
    std::string file;
    std::string json; // empty: no JSON
};

struct EvaluateWords {
    std::string survey;
    std::string onlyCase;
    std::string step = "last"; // "last", "all" or a number
    std::string json;
    std::string csvFolder;
    std::string junit;
    std::string ambient; // "40 degC"; both replace what the survey says of an estimate
    std::string power;   // "80 %"
};

struct ReportWords {
    std::string survey;
    std::vector<std::string> outputs;
    std::string templateFile;
    std::string onlyCase;
    std::optional<int> step; // nothing: all, of which the worst is judged
};

struct RenderWords {
    std::string survey;
    std::vector<std::string> viewpoints; // several: side by side
    std::string caseName;
    std::optional<int> step;
    std::string size = "1600x1000";
    double scale = 1;
    double points = 9;
    std::string ground = "white";
    std::string scaleAt = "beneath";
    bool legend = false;
    bool labels = true;
    bool everyStep = false;
    int framesPerSecond = 5;
    std::string output;
    std::string all;
};

struct CliWords {
    InspectWords inspect;
    EvaluateWords evaluate;
    ReportWords report;
    RenderWords render;
};

struct WindowWords {
    std::vector<std::string> files;
    std::string demo;
    std::string tour; // folder of its pictures
    bool selfCheck = false;
    std::string onlyCheck; // of these, in a process of its own
};

struct RigWords {
    std::string input;
    std::string output;
    std::string history;
    std::string demo;
    std::string folder;
    bool progressLines = false;
};

} // namespace pyro
