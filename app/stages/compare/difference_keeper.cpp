#include "app/stages/compare/difference_keeper.h"

#include "core/compare/case_placement.h"
#include "core/compare/difference_field.h"
#include "render/text.h"

namespace pyro {
namespace {

struct Made {
    std::shared_ptr<const FieldPicture> picture;
    double covered;
    std::string when;
};

// The baseline at the time of the other case: its step on display where that is the one, else from its files.
Result<CaseAtTime> baselineAt(const CaseState& own, const CaseState& baseline, const OpenOptions& options,
                              Progress& progress) {
    const auto time = own.shownStep().time;
    if (!changesWithTime(baseline.series) || !changesWithTime(own.series) || !time || baseline.shownStep().time == time)
        return CaseAtTime{*baseline.opened};
    return openAtTime(baseline.series, time, options, progress);
}

} // namespace

DifferenceKeeper::DifferenceKeeper(Session& session, QObject* parent) : QObject(parent), m_session(session) {}

const DifferencePicture& DifferenceKeeper::of(const CaseEntry& entry, const CaseEntry& baseline) {
    auto& kept = m_kept[entry.name];
    const auto* own = m_session.stateOf(entry);
    const auto* base = m_session.stateOf(baseline);
    const auto isReady = [](const CaseState* state) {
        return state != nullptr && !state->error && state->opened && state->picture;
    };
    if (!isReady(own) || !isReady(base)) {
        kept = {};
        return kept.made;
    }
    Key key{
        own->opened->solved, base->opened->solved, own->picture->quantity.name, {entry.placement, baseline.placement}};
    if (key == kept.key)
        return kept.made;
    if (kept.cancel)
        *kept.cancel = true;
    kept = {std::move(key), {}, nullptr};
    begin(kept, entry, *own, *base, baseline);
    return kept.made;
}

void DifferenceKeeper::begin(Kept& kept, const CaseEntry& ownEntry, const CaseState& own, const CaseState& baseline,
                             const CaseEntry& baselineEntry) {
    const auto& name = ownEntry.name;
    OpenOptions options;
    options.split = baselineEntry.wholeSplit();
    kept.cancel = m_session.jobs().run<Made>(
        q("Subtracting " + baselineEntry.name + " from " + name), this,
        [own, baseline, options, ownEntry, baselineEntry,
         quantity = kept.key.quantity](Progress& progress) -> Result<Made> {
            SubProgress opening(progress, 0, 0.3);
            const auto at = baselineAt(own, baseline, options, opening);
            if (!at)
                return tl::unexpected(at.error());
            SubProgress subtracting(progress, 0.3, 0.8);
            const auto placement = placementBetween({ownEntry, *own.opened->solved, *own.opened->index},
                                                    {baselineEntry, *at->before.solved, *at->before.index});
            if (!placement)
                return tl::unexpected(placement.error());
            auto field = differenceOf(*own.opened, own.quantities, {*at, baseline.quantities, *placement}, quantity,
                                      subtracting);
            if (!field)
                return tl::unexpected(field.error());
            SubProgress drawing(progress, 0.8, 1);
            auto picture = makePicture(field->opened, field->quantity, own.picture.get(), drawing);
            if (!picture)
                return tl::unexpected(picture.error());
            return Made{std::make_shared<const FieldPicture>(std::move(*picture)), field->covered, field->when};
        },
        [this, name, key = kept.key](Result<Made> made) {
            auto& there = m_kept[name];
            if (!(there.key == key)) // asked for anew meanwhile
                return;
            if (made)
                there.made = {std::move(made->picture), made->covered, made->when, {}};
            else
                there.made.why = made.error().what;
            emit changed();
        });
}

} // namespace pyro
