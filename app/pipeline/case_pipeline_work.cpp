// What is made of a case that is open: pictures, readings, verdicts over all steps, cells in order for sections.
#include "app/pipeline/case_pipeline.h"

#include "core/evaluate/known_history.h"
#include "core/evaluate/over_steps.h"

namespace pyro {
namespace {

// The file of the step before the one on display, where the field changes with time.
std::optional<StepFile> stepBefore(const CaseState& state) {
    if (state.step <= 0 || !changesWithTime(state.series))
        return std::nullopt;
    return state.series.steps[static_cast<std::size_t>(state.step - 1)];
}

Result<Readings> evaluateAfter(const Survey& survey, const CaseEntry& entry, const OpenedCase& opened, const Step& step,
                               StepContext context, const std::optional<StepFile>& before, Progress& progress) {
    std::optional<OpenedCase> last;
    if (before && (context.balances || !survey.gauges.empty())) { // who asks for what is stored between steps
        NoProgress quiet;
        if (auto found = openStep(*before, &opened, {}, quiet)) {
            last = std::move(*found);
            context.before = &*last;
            context.sinceBefore = step.time.value_or(0) - before->step.time.value_or(0);
        }
    }
    Remarks remarks;
    if (context.balances)
        if (auto history = knownHistory(entry, context.folder, opened.solved->file, opened.solved.get(), remarks))
            context.solver = std::move(history); // before that of the steps
    auto readings = evaluate(survey, entry, opened, step, progress, context);
    if (readings)
        readings->remarks.insert(readings->remarks.end(), remarks.begin(), remarks.end());
    return readings;
}

constexpr std::uint64_t quicklyChecked = 500'000; // cells of a case that is doubted without being asked to

bool isQuick(const OpenedCase& opened) {
    std::uint64_t cells = 0;
    for (const auto& part : opened.solved->parts)
        cells += part.mesh.cells();
    return cells <= quicklyChecked;
}

std::vector<Limit> withFields(const std::vector<Limit>& limits) {
    return std::ranges::any_of(limits, [](const Limit& limit) { return limit.form->readsFields; })
               ? limits
               : std::vector<Limit>();
}

} // namespace

// Verdicts come first; balances and checks follow once they are there.
StepContext CasePipeline::context() const {
    const auto needs = m_needs();
    StepContext context;
    context.changes = changesWithTime(m_state.series);
    context.balances = needs.balances || (m_state.readings && isQuick(*m_state.opened));
    context.otherCase = needs.otherCase;
    context.otherAtTime = needs.otherAtTime;
    context.folder = m_document.folder();
    if (m_state.history && m_state.history->size() > 1)
        context.solver = std::make_shared<const SolverHistory>(historyOfSteps(*m_state.history));
    return context;
}

void CasePipeline::evaluate() {
    const auto* entry = this->entry();
    if (entry == nullptr || !m_state.opened)
        return;
    auto quantities = recognise(*m_state.opened->solved, entry->quantities);
    if (!quantities) {
        m_state.readings.reset();
        emit problem(quantities.error());
        emit changed(Change::Cases | Change::Readings);
        return;
    }
    m_state.quantities = std::move(*quantities);
    draw();
    order();
    request<Readings>(
        Work::Evaluating, "Evaluating " + QString::fromStdString(m_name),
        [survey = m_document.survey(), entry = *entry, opened = *m_state.opened, step = m_state.shownStep(),
         context = context(), before = stepBefore(m_state)](Progress& progress) {
            return evaluateAfter(survey, entry, opened, step, context, before, progress);
        },
        [this](Result<Readings> readings) { takeReadings(std::move(readings)); });
}

void CasePipeline::takeReadings(Result<Readings> readings) {
    if (!readings) {
        emit problem(readings.error());
        return;
    }
    m_state.readings = std::make_shared<const Readings>(std::move(*readings));
    judge(); // the limits may have been edited
    emit changed(Change::Readings);
    readHistories();
    if (!m_state.readings->balances && isQuick(*m_state.opened))
        evaluate();
}

void CasePipeline::draw() {
    const auto* entry = this->entry();
    if (!m_onDisplay || entry == nullptr || !m_state.opened)
        return;
    if (m_state.quantities.quantities.empty())
        if (auto quantities = recognise(*m_state.opened->solved, entry->quantities))
            m_state.quantities = std::move(*quantities);
    const auto* wanted = m_state.quantities.namedOrFirst(m_look.quantity);
    if (wanted == nullptr)
        return;
    const auto component = drawnComponent(*wanted, m_look.component);
    if (m_state.drawn && sameReading(m_state.drawn->first, *wanted) && m_state.drawn->second == component) {
        if (m_state.picture)
            emit changed(Change::Picture);
        return;
    }
    m_state.drawn = std::pair(*wanted, component);
    request<FieldPicture>(
        Work::Drawing, "Drawing " + QString::fromStdString(m_name),
        [opened = *m_state.opened, quantity = *wanted, component, before = m_state.seen()](Progress& progress) {
            return makePicture(opened, quantity, before.get(), progress, component);
        },
        [this](Result<FieldPicture> picture) {
            if (!picture) {
                m_state.drawn.reset();
                emit problem(picture.error());
                return;
            }
            m_state.picture = std::make_shared<const FieldPicture>(std::move(*picture));
            m_state.preview.reset();
            keepRanges();
            emit changed(Change::Picture);
        });
}

void CasePipeline::keepRanges() {
    auto& ranges = m_state.seenRanges[DrawnKey(m_state.picture->quantity, m_state.picture->component)];
    const auto& parts = m_state.picture->opened.solved->parts;
    for (std::size_t part = 0; part < parts.size(); ++part) {
        const auto own = rangeOf(*m_state.picture, std::array{part});
        auto& known = ranges.try_emplace(parts[part].name, own).first->second;
        known = {std::fmin(known[0], own[0]), std::fmax(known[1], own[1])};
    }
}

void CasePipeline::order() {
    if (!m_onDisplay || !m_look.throughVolumes || !m_state.opened || m_state.orders || isRunning(Work::Ordering))
        return;
    request<CellOrders>(
        Work::Ordering, "Preparing sections of " + QString::fromStdString(m_name),
        [opened = *m_state.opened](Progress& progress) { return makeOrders(opened, progress); },
        [this](Result<CellOrders> orders) {
            if (!orders)
                return;
            m_state.orders = std::make_shared<const CellOrders>(std::move(*orders));
            emit changed(Change::View);
        });
}

// Histories are read in the stages that need them only: every step of a series is opened for them.
void CasePipeline::readHistories() {
    const auto* entry = this->entry();
    if (entry == nullptr || !m_state.opened || m_state.series.steps.size() < 2)
        return;
    const auto needs = m_needs();
    if (!needs.histories || (needs.settling && historyFile(*entry, m_document.folder(), m_path)))
        return; // the solver's own history tells more than the steps
    const auto& survey = m_document.survey();
    HistoryKey key{survey.gauges, survey.materials, *entry, withFields(survey.limits)};
    const bool same = m_historyKey == key;
    if (same && !m_historyGrows)
        return;
    m_historyKey = std::move(key);
    m_historyGrows = false;
    Survey measured = survey;
    measured.cases = {*entry};
    request<SurveyRun>(
        Work::Histories, "Reading " + QString::fromStdString(m_name) + " on all steps",
        [measured, file = std::filesystem::path(m_document.file().toStdString()),
         known = same ? m_state.history : nullptr](Progress& progress) {
            return runSurvey(measured, file, {"", -1, {}, false, known}, progress);
        },
        [this](Result<SurveyRun> run) { takeHistory(std::move(run)); });
}

void CasePipeline::takeHistory(Result<SurveyRun> run) {
    if (!run) {
        m_historyKey.reset();
        emit problem(run.error());
        return;
    }
    if (m_state.history && m_state.history->size() > run->cases[0].steps.size())
        return; // of before new steps came
    m_state.history = std::make_shared<const std::vector<Readings>>(std::move(run->cases[0].steps));
    judge();
    emit changed(Change::Readings);
    if (m_needs().settling) // whether the steps have settled
        evaluate();
}

// From the steps as they were read, with the limits as they are now.
void CasePipeline::judge() {
    const auto& survey = m_document.survey();
    m_state.worst.reset();
    if (!m_state.history || m_state.history->size() < 2 || !changesWithTime(m_state.series) || survey.limits.empty())
        return;
    if (withFields(survey.limits).empty())
        m_state.worst = std::make_shared<const std::vector<LimitReading>>(
            worstLimitsAgain(survey, readOverSteps(survey.gauges, *m_state.history), *m_state.history));
    else if (m_state.history->front().limits.size() == survey.limits.size())
        m_state.worst = std::make_shared<const std::vector<LimitReading>>(worstLimits(*m_state.history));
}

} // namespace pyro
