#include "core/readings/verdict.h"

#include <cmath>

namespace pyro {
namespace {

int rank(Verdict verdict) {
    switch (verdict) {
    case Verdict::Within:
        return 0;
    case Verdict::Tight:
        return 1;
    case Verdict::Unknown:
        return 2;
    case Verdict::Over:
        return 3;
    }
    return 2;
}

} // namespace

std::string_view verdictName(Verdict verdict) {
    switch (verdict) {
    case Verdict::Within:
        return "within";
    case Verdict::Tight:
        return "tight";
    case Verdict::Over:
        return "over";
    case Verdict::Unknown:
        return "unknown";
    }
    return "unknown";
}

Verdict judge(TemperatureDifference margin, TemperatureDifference required) {
    if (std::isnan(margin.kelvin) || std::isnan(required.kelvin))
        return Verdict::Unknown;
    if (margin.kelvin < 0)
        return Verdict::Over;
    return margin.kelvin < required.kelvin ? Verdict::Tight : Verdict::Within;
}

Verdict worse(Verdict a, Verdict b) { return rank(a) >= rank(b) ? a : b; }

} // namespace pyro
