#include "core/readings/settling.h"

namespace pyro {

std::string_view settlingName(SettlingState state) {
    switch (state) {
    case SettlingState::Settled:
        return "settled";
    case SettlingState::Drifting:
        return "drifting";
    case SettlingState::Oscillating:
        return "oscillating";
    case SettlingState::TooShort:
        return "too short";
    }
    return "too short";
}

} // namespace pyro
