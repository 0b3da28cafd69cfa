#include "render/seen.h"

#include "core/limits/judge.h"
#include "core/survey/view_state.h"
#include "core/thermal/part_fields.h"
#include "core/units/unit.h"

#include <cmath>

namespace pyro {

std::vector<std::size_t> visibleParts(const Seen& seen) {
    std::vector<std::size_t> visible;
    if (!seen.picture && seen.opened == nullptr)
        return visible;
    const auto& view = seen.view();
    const auto& parts = (seen.picture ? seen.picture->opened : *seen.opened).solved->parts;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const auto opacity = view.opacity.find(parts[i].name);
        if (view.shows(parts[i].name) && (opacity == view.opacity.end() || opacity->second > 0))
            visible.push_back(i);
    }
    return visible;
}

std::array<double, 6> visibleBox(const Seen& seen) {
    std::array<double, 6> whole{};
    bool first = true;
    if (seen.opened == nullptr)
        return whole;
    for (const auto part : visibleParts(seen)) {
        const auto& box = seen.opened->index->parts[part].box;
        for (std::size_t i = 0; i < 6; ++i)
            whole[i] = first ? box[i] : i % 2 == 0 ? std::min(whole[i], box[i]) : std::max(whole[i], box[i]);
        first = false;
    }
    return whole;
}

std::optional<Point> hottestVisible(const Seen& seen) {
    const RegionReading* hottest = nullptr;
    if (seen.readings != nullptr)
        for (const auto at : visibleParts(seen)) {
            const auto& part = seen.readings->parts[at];
            if (part.max && (hottest == nullptr || *part.max > *hottest->max))
                hottest = &part;
        }
    return hottest != nullptr ? std::optional(hottest->hottest->at) : std::nullopt;
}

std::vector<std::size_t> shownBoundaries(const Seen& seen) {
    std::vector<std::size_t> shown;
    if (seen.picture)
        for (const auto& name : seen.view().boundaries)
            if (const auto boundary = seen.picture->opened.solved->boundaryNamed(name))
                shown.push_back(*boundary);
    return shown;
}

bool isFluid(const Seen& seen, std::size_t part) {
    const auto& region = seen.opened->solved->parts[part];
    const auto note = seen.entry->parts.find(region.name);
    const bool noted = note != seen.entry->parts.end() && !note->second.kind.empty();
    return isFluidPart(region, *seen.quantities, noted ? std::optional(note->second.kind == "fluid") : std::nullopt);
}

std::vector<std::size_t> materialGroups(const Seen& seen) {
    if (seen.opened == nullptr)
        return {};
    std::map<std::string, std::size_t> known;
    std::vector<std::size_t> groups;
    for (const auto& part : seen.opened->solved->parts) {
        const auto note = seen.entry->parts.find(part.name);
        const bool named = note != seen.entry->parts.end() && !note->second.material.empty();
        groups.push_back(known.emplace(named ? "material " + note->second.material : "part " + part.name, known.size())
                             .first->second);
    }
    return groups;
}

const RegionReading* partInFocus(const Seen& seen, const std::string& named) {
    if (seen.readings == nullptr || seen.opened == nullptr)
        return nullptr;
    const auto& parts = seen.readings->parts;
    std::vector<const RegionReading*> visible;
    for (const auto at : visibleParts(seen))
        if (at < parts.size() && parts[at].max)
            visible.push_back(&parts[at]);
    const auto find = [&](const std::string& name) -> const RegionReading* {
        const auto found = std::ranges::find(visible, name, [](const RegionReading* part) { return part->name; });
        return found == visible.end() ? nullptr : *found;
    };
    if (const auto* chosen = find(named))
        return chosen;
    for (const auto at : byMargin(seen.readings->limits)) {
        const auto& limit = seen.readings->limits[at];
        if (limit.target.kind == TargetKind::Part && limit.isTemperature && limit.margin)
            if (const auto* part = find(limit.target.name))
                return part;
    }
    const auto hottest = std::ranges::max_element(visible, {},
                                                  [](const RegionReading* part) { return part->max->kelvin; });
    return hottest == visible.end() ? nullptr : *hottest;
}

ShownUnit unitOf(const Seen& seen) {
    return seen.picture ? shownUnit(seen.picture->quantity.name, seen.picture->quantity.siUnit, seen.view())
                        : shownUnit("temperature", "K", seen.view());
}

std::array<double, 2> visibleRange(const Seen& seen) {
    return seen.picture ? rangeOf(*seen.picture, visibleParts(seen)) : std::array{std::nan(""), std::nan("")};
}

std::optional<std::array<double, 2>> shownRange(const Seen& seen) {
    if (!seen.picture)
        return std::nullopt;
    if (const auto range = seen.view().range)
        return range;
    const auto [low, high] = seen.view().field.strip.common && seen.commonRange ? seen.commonRange()
                                                                                : visibleRange(seen);
    if (std::isnan(low))
        return std::nullopt;
    return std::array<double, 2>{low, high > low ? high : low + 1e-6 * std::max(1.0, std::abs(low))};
}

bool isLogarithmic(const Seen& seen) {
    const auto range = shownRange(seen);
    return seen.view().field.strip.logarithmic && range && (*range)[0] > 0 &&
           seen.picture->quantity.name != "temperature";
}

Distribution visibleDistribution(const Seen& seen) {
    Distribution sum;
    if (seen.picture)
        for (const auto part : visibleParts(seen))
            sum.merge(seen.picture->distributions[part]);
    return sum;
}

std::vector<double> limitLevels(const Survey& survey, const std::string& part) {
    std::vector<double> out;
    for (const auto& limit : survey.limits)
        if (limit.target.kind == TargetKind::Part && limit.target.name == part && isTemperatureLimit(limit))
            for (const auto& bound : {limit.max, limit.min})
                if (bound)
                    out.push_back(bound->si);
    return out;
}

IsolineValues isolineValues(const Seen& seen) {
    return seen.view().field.isotherms.of(isolineKey(seen.view().quantity, seen.view().component));
}

namespace {

// The allowed temperatures of a part.
void markLimits(const Seen& seen, const std::string& part, std::vector<double>& marks) {
    if (seen.picture->quantity.siUnit != "K")
        return;
    const auto levels = limitLevels(seen.survey, part);
    marks.insert(marks.end(), levels.begin(), levels.end());
}

} // namespace

std::vector<double> isolineMarks(const Seen& seen) {
    const auto values = isolineValues(seen);
    auto marks = values.marks;
    if (seen.readings == nullptr || !seen.picture)
        return marks;
    for (const auto& source : values.marksOf) {
        if (source.kind == MarkSource::Kind::Part) {
            markLimits(seen, source.name, marks);
            continue;
        }
        const auto gauge = std::ranges::find(seen.readings->gauges, source.name, &GaugeReading::id);
        if (gauge == seen.readings->gauges.end() || !gauge->value)
            continue;
        if (const auto toSi = conversion(gauge->unit, seen.picture->quantity.siUnit))
            marks.push_back((*toSi)(*gauge->value));
    }
    return marks;
}

double isothermSpacing(const Seen& seen) {
    const auto chosen = isolineValues(seen).spacing;
    const auto range = shownRange(seen);
    if (chosen || !range)
        return chosen.value_or(1);
    const auto shown = unitOf(seen);
    return niceSpacing(shown.of((*range)[0]), shown.of((*range)[1]), 20);
}

std::optional<LevelRule> isothermRule(const Seen& seen) {
    if (!seen.view().field.isotherms.shown || !shownRange(seen))
        return std::nullopt;
    const auto shown = unitOf(seen);
    return LevelRule{shown.si(0), shown.si(isothermSpacing(seen)) - shown.si(0), seen.view().field.isotherms.heavyEvery,
                     isolineMarks(seen)};
}

std::vector<double> hotspotLevels(const Seen& seen, const std::string& gauge, double least) {
    if (seen.readings == nullptr || !seen.picture)
        return {};
    const GaugeReading* found = nullptr;
    for (std::size_t i = 0; i < std::min(seen.readings->gauges.size(), seen.survey.gauges.size()); ++i) {
        const auto& reading = seen.readings->gauges[i];
        if (!reading.derivation || reading.derivation->spots.empty() ||
            seen.survey.gauges[i].quantity != seen.picture->quantity.name)
            continue;
        if (found == nullptr || reading.id == gauge)
            found = &reading;
    }
    const auto toSi = found != nullptr ? conversion(found->unit, seen.picture->quantity.siUnit)
                                       : tl::unexpected(Error{});
    std::vector<double> levels;
    if (toSi)
        for (const auto& spot : found->derivation->spots)
            if (spot.prominence >= least)
                levels.push_back((*toSi)(spot.value));
    return levels;
}

} // namespace pyro
