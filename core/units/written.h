// A value with unit that keeps the user's own spelling.
#pragma once

#include <nlohmann/json.hpp>
#include <string>

namespace pyro {

// JSON of documents: keys keep their order.
using Json = nlohmann::ordered_json;

// A value as the user wrote it, with its meaning in SI.
template <class Si>
struct Written {
    std::string text; // "110 degC"
    Si si{};
    bool operator==(const Written&) const = default;
};
} // namespace pyro
