#include "core/evaluate/other_cases.h"

#include "core/evaluate/given.h"

#include <fmt/format.h>

namespace pyro {

struct OtherCases::Held {
    struct Instant {
        OpenedCase opened;
        QuantityList quantities;
        std::optional<PartFields> fields;
    };
    Instant before;
    std::optional<Instant> after;
    Result<OtherFields> told = fail(ErrorCode::NotSupported, "");

    static Done fill(Instant& into, OpenedCase opened, const Survey& survey, const CaseEntry& entry) {
        into.opened = std::move(opened);
        auto quantities = recognise(*into.opened.solved, entry.quantities);
        if (!quantities)
            return tl::unexpected(quantities.error());
        into.quantities = std::move(*quantities);
        into.fields.emplace(*into.opened.solved, *into.opened.index, into.quantities,
                            propertiesOf(survey, entry, *into.opened.solved));
        return {};
    }
};

OtherCases::OtherCases(const Survey& survey, const StepContext& context, const PlacedCase& own,
                       std::optional<double> time, Progress& progress)
    : m_survey(survey), m_context(context), m_own(own), m_time(time), m_progress(progress) {}
OtherCases::~OtherCases() = default;

Result<OtherFields> OtherCases::fields(const std::string& caseName) {
    auto& held = m_held[caseName];
    if (!held) {
        held = std::make_unique<Held>();
        held->told = open(caseName);
    }
    return held->told;
}

Result<OtherFields> OtherCases::open(const std::string& caseName) {
    const auto* entry = m_survey.caseNamed(caseName);
    if (entry == nullptr)
        return fail(ErrorCode::NameUnknown, "the survey has no case of this name");
    if (!m_context.otherAtTime)
        return fail(ErrorCode::NotSupported, "no other case is at hand here");
    SubProgress quiet(m_progress, 0, 0);
    auto opened = m_context.otherAtTime(*entry, m_time, quiet);
    if (!opened)
        return tl::unexpected(opened.error());
    auto& held = *m_held[caseName];
    OtherFields out{.caseName = caseName, .share = opened->share, .when = opened->when};
    if (const auto done = Held::fill(held.before, std::move(opened->before), m_survey, *entry); !done)
        return tl::unexpected(done.error());
    out.fields = &*held.before.fields;
    const auto placement = placementBetween(m_own, {*entry, *held.before.opened.solved, *held.before.opened.index});
    if (!placement)
        return tl::unexpected(placement.error());
    out.placement = *placement;
    if (opened->after) {
        if (const auto done = Held::fill(held.after.emplace(), std::move(*opened->after), m_survey, *entry); !done)
            return tl::unexpected(done.error());
        out.after = &*held.after->fields;
    }
    return out;
}

} // namespace pyro
