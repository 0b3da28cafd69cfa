// What of the active case is seen: visible parts, range, distribution, isotherm levels.

#include "app/session/session.h"
#include "app/stages/stage.h"

#include "core/units/unit.h"

#include "core/limits/judge.h"
#include "core/thermal/part_fields.h"

#include <cmath>

namespace pyro {

std::vector<std::size_t> Session::shownBoundaries() const {
    std::vector<std::size_t> shown;
    if (const auto picture = seenPicture())
        for (const auto& name : view().boundaries)
            if (const auto boundary = picture->opened.solved->boundaryNamed(name))
                shown.push_back(*boundary);
    return shown;
}

std::vector<std::size_t> Session::litBoundaries() const {
    std::vector<std::size_t> lit;
    if (const auto picture = seenPicture(); picture && stageOf(*this).picksBoundaries)
        for (const auto& name : {m_selection.selectedBoundary(), m_selection.pointedBoundary()})
            if (const auto boundary = picture->opened.solved->boundaryNamed(name);
                boundary && std::ranges::find(lit, *boundary) == lit.end())
                lit.push_back(*boundary);
    return lit;
}

bool Session::isFluid(std::size_t part) const {
    const auto* state = activeCase();
    const auto& region = state->opened->solved->parts[part];
    const auto note = activeEntry()->parts.find(region.name);
    const bool noted = note != activeEntry()->parts.end() && !note->second.kind.empty();
    return isFluidPart(region, state->quantities, noted ? std::optional(note->second.kind == "fluid") : std::nullopt);
}

QString writtenName(const Quantity& quantity, const std::string& component) {
    QString name = QString::fromStdString(quantity.name).replace('_', ' ');
    name[0] = name[0].toUpper();
    return quantity.components == 3 && !component.empty() ? name + " along " + QString::fromStdString(component) : name;
}

ShownUnit Session::unit() const {
    const auto picture = seenPicture();
    return picture ? unitOf(picture->quantity) : shownUnit("temperature", "K", view());
}

IsolineValues Session::isolines() const {
    const auto view = this->view();
    return view.field.isotherms.of(isolineKey(view.quantity, view.component));
}

std::vector<double> Session::isolineMarks() const {
    const auto values = isolines();
    auto marks = values.marks;
    const auto* state = activeCase();
    const auto picture = seenPicture();
    if (state == nullptr || !state->readings || !picture)
        return marks;
    for (const auto& source : values.marksOf) {
        if (source.kind == MarkSource::Kind::Part) {
            for (const auto& limit : survey().limits)
                if (limit.target.kind == TargetKind::Part && limit.target.name == source.name &&
                    isTemperatureLimit(limit) && picture->quantity.siUnit == "K")
                    for (const auto& bound : {limit.max, limit.min})
                        if (bound)
                            marks.push_back(bound->si);
            continue;
        }
        const auto gauge = std::ranges::find(state->readings->gauges, source.name, &GaugeReading::id);
        if (gauge == state->readings->gauges.end() || !gauge->value)
            continue;
        if (const auto toSi = conversion(gauge->unit, picture->quantity.siUnit))
            marks.push_back((*toSi)(*gauge->value));
    }
    return marks;
}

double Session::isothermSpacing() const {
    const auto chosen = isolines().spacing;
    const auto range = shownRange();
    if (chosen || !range)
        return chosen.value_or(1);
    const auto shown = unit();
    return niceSpacing(shown.of((*range)[0]), shown.of((*range)[1]), 20);
}

// Levels stand at round values of the unit on display: every 5 degC, not every 5 K from absolute zero.
std::vector<std::size_t> Session::materialGroups() const {
    const auto* state = activeCase();
    if (state == nullptr || !state->opened)
        return {};
    std::map<std::string, std::size_t> known;
    std::vector<std::size_t> groups;
    for (const auto& part : state->opened->solved->parts) {
        const auto note = activeEntry()->parts.find(part.name);
        const bool named = note != activeEntry()->parts.end() && !note->second.material.empty();
        groups.push_back(known.emplace(named ? "material " + note->second.material : "part " + part.name, known.size())
                             .first->second);
    }
    return groups;
}

std::optional<LevelRule> Session::isothermRule() const {
    const auto view = this->view();
    if (!view.field.isotherms.shown || !shownRange())
        return std::nullopt;
    const auto shown = unit();
    return LevelRule{shown.si(0), shown.si(isothermSpacing()) - shown.si(0), view.field.isotherms.heavyEvery,
                     isolineMarks()};
}

std::shared_ptr<const FieldPicture> Session::seenPicture() const {
    const auto* state = activeCase();
    return state != nullptr ? state->seen() : nullptr;
}

std::vector<std::size_t> Session::visibleParts() const {
    std::vector<std::size_t> visible;
    const auto* state = activeCase();
    const auto picture = seenPicture();
    if (!picture && (state == nullptr || !state->opened))
        return visible;
    const auto view = this->view();
    const auto& parts = (picture ? picture->opened : *state->opened).solved->parts;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const auto opacity = view.opacity.find(parts[i].name);
        if (view.shows(parts[i].name) && (opacity == view.opacity.end() || opacity->second > 0))
            visible.push_back(i);
    }
    return visible;
}

std::array<double, 6> Session::visibleBox() const {
    std::array<double, 6> whole{};
    bool first = true;
    const auto* state = activeCase();
    for (const auto part : visibleParts()) {
        const auto& box = state->opened->index->parts[part].box;
        for (std::size_t i = 0; i < 6; ++i)
            whole[i] = first ? box[i] : i % 2 == 0 ? std::min(whole[i], box[i]) : std::max(whole[i], box[i]);
        first = false;
    }
    return whole;
}

std::optional<Point> Session::hottestVisible() const {
    const auto* state = activeCase();
    const RegionReading* hottest = nullptr;
    if (state != nullptr && state->readings)
        for (const auto at : visibleParts()) {
            const auto& part = state->readings->parts[at];
            if (part.max && (hottest == nullptr || *part.max > *hottest->max))
                hottest = &part;
        }
    return hottest != nullptr ? std::optional(hottest->hottest->at) : std::nullopt;
}

Distribution Session::visibleDistribution() const {
    Distribution sum;
    const auto picture = seenPicture();
    if (!picture)
        return sum;
    for (const auto part : visibleParts())
        sum.merge(picture->distributions[part]);
    return sum;
}

std::optional<std::array<double, 2>> Session::shownRange() const {
    const auto picture = seenPicture();
    if (!picture)
        return std::nullopt;
    if (const auto range = view().range)
        return range;
    const auto [low, high] = view().field.strip.common && hasSeveralPictures() ? commonRange() : visibleRange();
    if (std::isnan(low))
        return std::nullopt;
    return std::array<double, 2>{low, high > low ? high : low + 1e-6 * std::max(1.0, std::abs(low))};
}

const RegionReading* Session::partInFocus() const {
    const auto* state = activeCase();
    if (state == nullptr || !state->readings || !state->opened)
        return nullptr;
    const auto& parts = state->readings->parts;
    std::vector<const RegionReading*> visible;
    for (const auto at : visibleParts())
        if (at < parts.size() && parts[at].max)
            visible.push_back(&parts[at]);
    const auto named = [&](const std::string& name) -> const RegionReading* {
        const auto found = std::ranges::find(visible, name, [](const RegionReading* part) { return part->name; });
        return found == visible.end() ? nullptr : *found;
    };
    if (const auto* selected = named(m_selection.selectedPart()))
        return selected;
    for (const auto at : byMargin(state->readings->limits)) {
        const auto& limit = state->readings->limits[at];
        if (limit.target.kind == TargetKind::Part && limit.isTemperature && limit.margin)
            if (const auto* part = named(limit.target.name))
                return part;
    }
    const auto hottest = std::ranges::max_element(visible, {},
                                                  [](const RegionReading* part) { return part->max->kelvin; });
    return hottest == visible.end() ? nullptr : *hottest;
}

std::array<double, 2> Session::visibleRange() const {
    const auto picture = seenPicture();
    return picture ? rangeOf(*picture, visibleParts()) : std::array{std::nan(""), std::nan("")};
}

bool Session::hasSeveralPictures() const {
    const auto* state = activeCase();
    return survey().cases.size() > 1 || (state != nullptr && state->series.steps.size() > 1);
}

namespace {

std::string rangeKey(const Quantity& quantity, const std::string& component) {
    return quantity.array + (quantity.on == Location::Node ? " on nodes " : " on cells ") + component;
}

} // namespace

void Session::keepRanges(CaseState& state) const {
    auto& ranges = state.seenRanges[rangeKey(state.picture->quantity, view().component)];
    const auto& parts = state.picture->opened.solved->parts;
    for (std::size_t part = 0; part < parts.size(); ++part) {
        const auto own = rangeOf(*state.picture, std::array{part});
        auto& known = ranges.try_emplace(parts[part].name, own).first->second;
        known = {std::fmin(known[0], own[0]), std::fmax(known[1], own[1])};
    }
}

// Of every case on the quantity on display: over the steps that were shown, over all where their readings are known,
// else over what is stored.
std::array<double, 2> Session::commonRange() const {
    auto range = visibleRange();
    const auto picture = seenPicture();
    if (!picture)
        return range;
    const auto view = this->view();
    const auto take = [&](const std::array<double, 2>& own) {
        range = {std::fmin(range[0], own[0]), std::fmax(range[1], own[1])};
    };
    for (const auto& entry : survey().cases) {
        const auto* state = stateOf(entry);
        if (state == nullptr || !state->opened)
            continue;
        const auto& solved = *state->opened->solved;
        const auto* quantity = state->quantities.named(picture->quantity.name);
        const auto seen = quantity != nullptr ? state->seenRanges.find(rangeKey(*quantity, view.component))
                                              : state->seenRanges.end();
        for (std::size_t part = 0; part < solved.parts.size(); ++part) {
            if (!view.shows(solved.parts[part].name))
                continue;
            if (seen != state->seenRanges.end()) {
                if (const auto known = seen->second.find(solved.parts[part].name); known != seen->second.end())
                    take(known->second);
            } else if (quantity != nullptr && quantity->components == 1) {
                take(storedRange(solved, std::array{part}, *quantity));
            }
            if (picture->quantity.name == "temperature" && state->history)
                for (const auto& step : *state->history)
                    if (part < step.parts.size() && step.parts[part].min)
                        take({step.parts[part].min->kelvin, step.parts[part].max->kelvin});
        }
    }
    return range;
}

bool Session::isLogarithmic() const {
    const auto range = shownRange();
    return view().field.strip.logarithmic && range && (*range)[0] > 0 && seenPicture()->quantity.name != "temperature";
}

std::vector<double> Session::hotspotLevels() const {
    const auto* state = activeCase();
    const auto picture = seenPicture();
    if (state == nullptr || !state->readings || !picture)
        return {};
    const GaugeReading* found = nullptr;
    for (std::size_t i = 0; i < std::min(state->readings->gauges.size(), survey().gauges.size()); ++i) {
        const auto& reading = state->readings->gauges[i];
        if (!reading.derivation || reading.derivation->spots.empty() ||
            survey().gauges[i].quantity != picture->quantity.name)
            continue;
        if (found == nullptr || reading.id == m_selection.selectedGauge())
            found = &reading;
    }
    const auto toSi = found != nullptr ? conversion(found->unit, picture->quantity.siUnit) : tl::unexpected(Error{});
    std::vector<double> levels;
    if (toSi)
        for (const auto& spot : found->derivation->spots)
            if (spot.prominence >= m_selection.spotFloor())
                levels.push_back((*toSi)(spot.value));
    return levels;
}

} // namespace pyro
