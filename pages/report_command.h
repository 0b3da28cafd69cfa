// pyrometer-cli report and render.
#pragma once

#include "core/feedback/error.h"

#include <optional>
#include <ostream>
#include <string>
#include <vector>

namespace pyro::pages {

// One line on the error stream; returns exit status 2.
int complain(const Error& error, std::ostream& err);

struct ReportWords {
    std::string survey;
    std::vector<std::string> outputs;
    std::string templateFile;
    std::string onlyCase;
    std::optional<int> step; // nothing: all, of which the worst is judged
};
int writeReports(const ReportWords& words, std::ostream& err);

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
int drawViewpoints(const RenderWords& words, std::ostream& out, std::ostream& err);

} // namespace pyro::pages
