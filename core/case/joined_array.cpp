#include "core/case/joined_array.h"

#include "core/case/case.h"

#include <cmath>
#include <map>
#include <mutex>

namespace pyro {
namespace {

constexpr std::string_view between = ", ";

// The three arrays, where the name can be read as theirs; names may hold the separator themselves.
std::array<const StoredArray*, 3> threeOf(const Region& region, std::string_view name, Location on) {
    const auto plain = [&](std::string_view one) -> const StoredArray* {
        for (const auto& array : region.arrays)
            if (array.name == one && array.on == on && array.components == 1)
                return &array;
        return nullptr;
    };
    for (auto first = name.find(between); first != std::string_view::npos; first = name.find(between, first + 1))
        for (auto second = name.find(between, first + between.size()); second != std::string_view::npos;
             second = name.find(between, second + 1)) {
            const std::array<const StoredArray*, 3> found{
                plain(name.substr(0, first)),
                plain(name.substr(first + between.size(), second - first - between.size())),
                plain(name.substr(second + between.size()))};
            if (found[0] != nullptr && found[1] != nullptr && found[2] != nullptr)
                return found;
        }
    return {};
}

} // namespace

struct JoinedArrays::Kept {
    struct One {
        std::vector<double> values;
        StoredArray array;
    };
    std::mutex guard;
    std::map<std::pair<std::string, Location>, std::unique_ptr<One>, std::less<>> made;
};

JoinedArrays::JoinedArrays() : m_kept(std::make_shared<Kept>()) {}

std::string joinedName(const std::array<std::string, 3>& names) {
    return names[0] + std::string(between) + names[1] + std::string(between) + names[2];
}

const StoredArray* JoinedArrays::find(const Region& region, std::string_view name, Location on) const {
    if (name.find(between) == std::string_view::npos)
        return nullptr;
    const std::lock_guard lock(m_kept->guard);
    const std::pair key(std::string(name), on);
    if (const auto known = m_kept->made.find(key); known != m_kept->made.end())
        return &known->second->array;
    const auto three = threeOf(region, name, on);
    if (three[0] == nullptr)
        return nullptr;
    auto one = std::make_unique<Kept::One>();
    const auto count = three[0]->values.size();
    one->values.resize(3 * count);
    auto& array = one->array;
    array = {key.first, on, 3, {}, std::nan(""), std::nan(""), 0};
    for (std::size_t i = 0; i < count; ++i) {
        double squares = 0;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            one->values[3 * i + axis] = three[axis]->values[i];
            squares += three[axis]->values[i] * three[axis]->values[i];
        }
        const double length = std::sqrt(squares);
        array.notFinite += std::isfinite(length) ? 0 : 1;
        if (std::isfinite(length)) {
            array.min = std::fmin(array.min, length);
            array.max = std::fmax(array.max, length);
        }
    }
    array.values = RealView(std::span<const double>(one->values));
    return &m_kept->made.emplace(key, std::move(one)).first->second->array;
}

} // namespace pyro
