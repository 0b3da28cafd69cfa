// What of the case on display the session adds to how it is seen: the other cases, and what is chosen.

#include "app/session/session.h"
#include "app/stages/stage.h"

#include <cmath>

namespace pyro {

Seen Session::seenOf(const CaseEntry* entry, const CaseState* state) const {
    Seen seen{survey(), entry};
    if (state == nullptr)
        return seen;
    seen.opened = state->opened ? &*state->opened : nullptr;
    seen.quantities = &state->quantities;
    seen.readings = state->readings.get();
    seen.picture = state->seen();
    return seen;
}

Seen Session::seen() const {
    const auto* state = activeCase();
    auto seen = seenOf(activeEntry(), state);
    if (state != nullptr && hasSeveralPictures())
        seen.commonRange = [this] { return commonRange(); };
    return seen;
}

std::shared_ptr<const FieldPicture> Session::seenPicture() const {
    const auto* state = activeCase();
    return state != nullptr ? state->seen() : nullptr;
}

ShownUnit Session::unit() const { return pyro::unitOf(seen()); }

QString writtenName(const Quantity& quantity, const std::string& component) {
    QString name = QString::fromStdString(quantity.name).replace('_', ' ');
    name[0] = name[0].toUpper();
    return quantity.components == 3 && !component.empty() ? name + " along " + QString::fromStdString(component) : name;
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

bool Session::hasSeveralPictures() const {
    const auto* state = activeCase();
    return survey().cases.size() > 1 || (state != nullptr && state->series.steps.size() > 1);
}

// Of every case on the quantity on display: over the steps that were shown, over all where their readings are known,
// else over what is stored.
std::array<double, 2> Session::commonRange() const {
    auto range = visibleRange(seen());
    const auto picture = seenPicture();
    if (!picture)
        return range;
    const auto& view = this->view();
    const auto take = [&](const std::array<double, 2>& own) {
        range = {std::fmin(range[0], own[0]), std::fmax(range[1], own[1])};
    };
    for (const auto& entry : survey().cases) {
        const auto* state = stateOf(entry);
        if (state == nullptr || !state->opened)
            continue;
        const auto& solved = *state->opened->solved;
        const auto* quantity = state->quantities.named(picture->quantity.name);
        const auto seen = quantity != nullptr
                              ? state->seenRanges.find(DrawnKey(*quantity, componentNamed(view.component)))
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

} // namespace pyro
