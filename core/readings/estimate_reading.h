// What an estimate of another ambient temperature and another power tells.
#pragma once

#include "core/readings/readings.h"

namespace pyro {

// A level that is just met, or why there is none.
struct LevelAtLimit {
    std::optional<double> value;
    std::string why;
};

struct EstimatedLimit {
    LimitReading reading; // at the ambient and the power asked for
    LevelAtLimit ambient; // K, at which it is just met with the power asked for
    LevelAtLimit power;   // share of the case's power, at which it is just met at the ambient asked for
};

struct MovedEnvironment {
    std::string boundary;
    double from;            // K
    double to;              // K
    bool isAmbient = false; // it has the case's ambient temperature
};

struct Estimate {
    std::optional<double> from;     // K, the case's ambient
    std::optional<double> ambient;  // K; nothing: not known, and not moved
    double power = 1;               // share of the case's power
    std::string why;                // set when nothing can be told
    std::vector<std::string> basis; // cases whose fields are added up, this one first
    std::vector<MovedEnvironment> environments;
    std::vector<EstimatedLimit> limits;        // in the order of the survey
    std::optional<std::size_t> firstByAmbient; // the limit that a rising ambient reaches first
    std::optional<std::size_t> firstByPower;   // the limit that a rising power reaches first
    std::string whyNoPower;                    // set when the power at the limits cannot be told

    std::vector<LimitReading> readings() const; // of the limits, without their levels
    Verdict verdict() const;
};

} // namespace pyro
