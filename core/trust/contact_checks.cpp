#include "core/field/vector_algebra.h"
#include "core/thermal/face_boundaries.h"
#include "core/trust/checks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace pyro {
namespace {

constexpr std::size_t mostProbes = 600; // faces of a part that are looked out of
constexpr double widestGap = 0.02;      // of the case's size: further apart is apart
constexpr double widestWetted = 0.005;  // the same between faces that lie on a boundary: clearances may be meant
constexpr double leastShare = 0.01;     // of a part's faces
constexpr double mostResistance = 10;   // m2.K/W: what is beyond is no contact, but rounding
constexpr double leastJump = 0.01;      // of the range of temperatures

double sizeOf(const CaseIndex& index) {
    double size = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        double low = 1e300;
        double high = -1e300;
        for (const auto& part : index.parts) {
            low = std::min(low, part.box[2 * axis]);
            high = std::max(high, part.box[2 * axis + 1]);
        }
        size = std::max(size, high - low);
    }
    return size;
}

// What two parts have between them.
struct Pair {
    double touching = 0; // m2
    double heat = 0;     // W from the first to the second
    double jump = 0;     // K, mean over the touching area, first less second
    double gapArea = 0;  // m2 that faces the other within a gap
    bool wetted = false; // by a boundary
    double gap = 1e300;  // m, the narrowest
    Point at{};          // within the gap, or where the jump is largest
    double largest = 0;  // K
};
using Pairs = std::map<std::pair<std::uint32_t, std::uint32_t>, Pair>;

} // namespace

class Contacts {
public:
    explicit Contacts(const TrustInput& input)
        : m_input(input), m_fields(input.heat.fields()), m_case(m_fields.solved()), m_index(m_fields.index()),
          m_size(sizeOf(m_index)) {
        for (std::uint32_t part = 0; part < m_case.parts.size(); ++part)
            if (m_case.parts[part].dimension == 3)
                look(part);
    }
    const Pairs& pairs() const { return m_pairs; }
    bool alone(std::uint32_t part) const { return m_alone.at(part); }
    double areaOf(std::uint32_t part) const { return m_area.at(part); }

private:
    void look(std::uint32_t part) {
        const auto& areas = m_input.heat.areas(part);
        const auto& shell = m_index.parts[part].shell;
        const auto& heat = m_input.heat.shell(part);
        const auto boundaryOf = boundariesOfFaces(m_input.heat, part, Boundaries::Named);
        std::vector<std::uint32_t> open; // faces that no other part touches
        bool touches = false;
        double sum = 0;
        for (std::uint32_t face = 0; face < shell.faces(); ++face) {
            sum += areas.face[face];
            const auto twin = m_input.heat.twin(part, face);
            if (twin.part != ~0U) {
                touches = true;
                if (twin.part > part)
                    touch(part, face, twin, areas, heat ? heat->face[face] : 0);
            } else
                open.push_back(face);
        }
        m_area[part] = sum;
        m_alone[part] = !touches &&
                        std::ranges::all_of(boundaryOf, [](std::uint32_t boundary) { return boundary == noNumber; });
        const std::size_t stride = std::max<std::size_t>(1, open.size() / mostProbes);
        for (std::size_t i = 0; i < open.size(); i += stride)
            probe(part, areas.centre[open[i]], areas.normal[open[i]], areas.face[open[i]] * static_cast<double>(stride),
                  boundaryOf[open[i]] != noNumber);
    }

    std::optional<double> meanOn(std::uint32_t part, std::span<const std::uint32_t> nodes) const {
        const auto temperature = m_fields.temperatureOn(part, Location::Node);
        if (!temperature)
            return std::nullopt;
        double sum = 0;
        for (const auto node : nodes)
            sum += temperature->at(node) / static_cast<double>(nodes.size());
        return sum;
    }

    void touch(std::uint32_t part, std::uint32_t face, const TwinFace& twin, const ShellAreas& areas, double heat) {
        auto& pair = m_pairs[{part, twin.part}];
        const double area = areas.face[face];
        pair.touching += area;
        pair.heat += heat;
        if (twin.piece) // of a larger face, whose mean is that of another place
            return;
        const auto here = meanOn(part, m_index.parts[part].shell.face(face));
        auto there = std::optional(0.0);
        for (std::uint32_t i = 0; there && i < twin.count; ++i) {
            const auto one = meanOn(twin.part, m_index.parts[twin.part].shell.face(twin.face + i));
            there = one ? std::optional(*there + *one / twin.count) : std::nullopt;
        }
        if (!here || !there || !std::isfinite(*here - *there))
            return;
        pair.jump += area * (*here - *there);
        if (std::abs(*here - *there) > pair.largest) {
            pair.largest = std::abs(*here - *there);
            pair.at = areas.centre[face];
        }
    }

    // Straight out of a face, ever further, until another part is met.
    void probe(std::uint32_t part, const Point& from, const Point& normal, double area, bool wetted) {
        const auto beyond = [&](double away) {
            return Point{from[0] + away * normal[0], from[1] + away * normal[1], from[2] + away * normal[2]};
        };
        double away = 1e-5 * m_size / 1.6;
        while ((away *= 1.6) < (wetted ? widestWetted : widestGap) * m_size) {
            const auto at = beyond(away);
            for (std::uint32_t other = 0; other < m_case.parts.size(); ++other) {
                if (other == part || !inBox(other, at) || !m_index.search->locator(other).find(at))
                    continue;
                auto& pair = m_pairs[{std::min(part, other), std::max(part, other)}];
                pair.gapArea += 0.5 * area; // it is met from either side
                pair.wetted = pair.wetted || wetted;
                double low = away / 1.6;
                double high = away;
                while (high - low > 1e-3 * high) {
                    const double middle = 0.5 * (low + high);
                    (m_index.search->locator(other).find(beyond(middle)) ? high : low) = middle;
                }
                if (high < pair.gap) {
                    pair.gap = high;
                    if (pair.largest == 0)
                        pair.at = from;
                }
                return;
            }
        }
    }
    bool inBox(std::uint32_t part, const Point& at) const {
        const auto& box = m_index.parts[part].box;
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (at[axis] < box[2 * axis] || at[axis] > box[2 * axis + 1])
                return false;
        return true;
    }

    const TrustInput& m_input;
    const PartFields& m_fields;
    const Case& m_case;
    const CaseIndex& m_index;
    double m_size;
    Pairs m_pairs;
    std::map<std::uint32_t, bool> m_alone;
    std::map<std::uint32_t, double> m_area;
};

namespace {

double rangeOf(const Readings& readings) {
    double low = 1e300;
    double high = -1e300;
    for (const auto& part : readings.parts)
        if (part.min && part.max) {
            low = std::min(low, part.min->kelvin);
            high = std::max(high, part.max->kelvin);
        }
    return high > low ? high - low : 0;
}

bool hasSeveralParts(const TrustInput& input) { return input.heat.fields().solved().parts.size() > 1; }

// Found once for the checks that rest on them.
const Contacts& contactsOf(const TrustInput& input) {
    if (!input.contacts)
        input.contacts = std::make_shared<const Contacts>(input);
    return *input.contacts;
}

const std::string& nameOf(const TrustInput& input, std::uint32_t part) {
    return input.heat.fields().solved().parts[part].name;
}
const std::string& shownOf(const TrustInput& input, std::uint32_t part) { return input.shown(nameOf(input, part)); }

void gapsAnswer(const TrustInput& input, Check& check) {
    const auto& contacts = contactsOf(input);
    double worst = 0;
    for (const auto& [which, pair] : contacts.pairs()) {
        const double smaller = std::min(contacts.areaOf(which.first), contacts.areaOf(which.second));
        if (pair.gapArea > leastShare * smaller && pair.gapArea / smaller > worst) {
            worst = pair.gapArea / smaller;
            const auto small = contacts.areaOf(which.first) <= contacts.areaOf(which.second) ? which.first
                                                                                             : which.second;
            check.state = pair.touching > pair.gapArea || pair.wetted ? CheckState::Review : CheckState::Failed;
            check.figure = fmt::format("{:.2g} mm between {} and {}, over {:.3g} cm2", 1e3 * pair.gap,
                                       shownOf(input, which.first), shownOf(input, which.second), 1e4 * pair.gapArea);
            check.part = nameOf(input, small);
            check.at = pair.at;
        }
    }
}

void jumpsAnswer(const TrustInput& input, Check& check) {
    const auto& fields = input.heat.fields();
    const double range = rangeOf(input.readings);
    double steepest = 0;
    for (const auto& [which, pair] : contactsOf(input).pairs()) {
        if (pair.touching <= 0)
            continue;
        const double jump = pair.jump / pair.touching;
        // a wall and what flows along it
        const bool film = fields.isFluid(which.first) != fields.isFluid(which.second) && jump * pair.heat > 0;
        if (!film && std::abs(jump) > leastJump * range && std::abs(jump) > steepest) {
            steepest = std::abs(jump);
            const double flux = pair.heat / pair.touching;
            const bool passes = jump * flux > 0 && jump / flux < mostResistance;
            check.state = passes ? CheckState::Review : CheckState::Failed;
            check.figure = fmt::format("{:.3g} K between {} and {}{}", std::abs(jump), shownOf(input, which.first),
                                       shownOf(input, which.second),
                                       passes ? fmt::format(", as a contact resistance of {:.3g} m2.K/W", jump / flux)
                                              : ", and no heat passes");
            check.part = nameOf(input, which.first);
            check.at = pair.at;
        }
    }
}

void aloneAnswer(const TrustInput& input, Check& check) {
    const auto& fields = input.heat.fields();
    const auto& contacts = contactsOf(input);
    for (std::uint32_t part = 0; part < fields.solved().parts.size(); ++part)
        if (fields.solved().parts[part].dimension == 3 && contacts.alone(part)) {
            check.state = CheckState::Failed;
            check.part = nameOf(input, part);
            check.figure = shownOf(input, part) + " touches nothing";
            const auto& box = fields.index().parts[part].box;
            check.at = Point{0.5 * (box[0] + box[1]), 0.5 * (box[2] + box[3]), 0.5 * (box[4] + box[5])};
        }
}

} // namespace

constexpr CheckKind gapsCheck{
    .key = "gaps",
    .title = "Parts that lie close together touch",
    .figure = "no gap was found",
    .threshold = "no gap narrower than 2 % of the model",
    .meaning = "A gap that was not meant, or meshes that do not match, let no heat pass.",
    .applies = hasSeveralParts,
    .answer = gapsAnswer,
};

constexpr CheckKind jumpsCheck{
    .key = "jumps",
    .title = "Temperatures agree where parts touch",
    .figure = "no step of more than 1 % of the range",
    .threshold = "below 1 % of the range",
    .meaning = "A step is a contact resistance, or a coupling that is missing.",
    .applies = hasSeveralParts,
    .answer = jumpsAnswer,
};

constexpr CheckKind aloneCheck{
    .key = "alone",
    .title = "No isolated part",
    .figure = "none is alone",
    .threshold = "none",
    .meaning = "A part that touches nothing and has no boundary has no way for its heat.",
    .applies = hasSeveralParts,
    .answer = aloneAnswer,
};

} // namespace pyro
