// What of the active case is seen: visible parts, range, distribution, isotherm levels, paths.
#include "app/session/session.h"

#include <cmath>

namespace pyro {

std::shared_ptr<const PathPicture> Session::paths() const {
    const auto* state = activeCase();
    return state != nullptr && view().field.paths.shown ? state->paths : nullptr;
}

Affine Session::toShown() const {
    const auto picture = seenPicture();
    if (!picture || picture->quantity.name != "temperature")
        return {};
    const auto unit = view().unit;
    const double zero = toDisplay(Temperature{0}, unit);
    return {toDisplay(Temperature{1}, unit) - zero, zero};
}

double Session::isothermSpacing() const {
    const auto chosen = view().field.isotherms.spacing;
    const auto range = shownRange();
    if (chosen || !range)
        return chosen.value_or(1);
    const auto shown = toShown();
    return niceSpacing(shown((*range)[0]), shown((*range)[1]), 20);
}

// Levels stand at round values of the unit on display: every 5 degC, not every 5 K from absolute zero.
std::optional<LevelRule> Session::isothermRule() const {
    const auto view = this->view();
    if (!view.field.isotherms.shown || !shownRange())
        return std::nullopt;
    const auto toSi = toShown().inverse();
    return LevelRule{toSi(0), toSi.difference(isothermSpacing()), view.field.isotherms.heavyEvery, view.field.isotherms.marks};
}

SurveyRun Session::activeRun() const {
    SurveyRun run{m_file.toStdString(), {}};
    const auto* entry = activeEntry();
    const auto* state = activeCase();
    if (entry == nullptr || state == nullptr)
        return run;
    run.cases.push_back({entry->name, pathOf(*entry).string(), state->error, {}});
    if (state->readings)
        run.cases.back().steps.push_back(*state->readings);
    return run;
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
    const auto [low, high] = storedRange(*picture->opened.solved, visibleParts(), picture->quantity);
    if (std::isnan(low))
        return std::nullopt;
    return std::array<double, 2>{low, high > low ? high : low + 1e-6 * std::max(1.0, std::abs(low))};
}

bool Session::isLogarithmic() const {
    const auto range = shownRange();
    return view().field.strip.logarithmic && range && (*range)[0] > 0 && seenPicture()->quantity.name != "temperature";
}

} // namespace pyro
