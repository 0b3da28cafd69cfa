// What the session has worked out: its cases by their pipelines, and what lies over the picture of the one on display.

#include "app/session/session.h"
#include "app/session/settings.h"
#include "app/stages/stage.h"

#include "core/evaluate/series_range.h"
#include "core/evaluate/sweep_run.h"
#include "core/readings/estimate_reading.h"
#include "core/survey/edit.h"

#include <QFileInfo>

namespace pyro {
namespace {

// Whether a case is estimated without what other cases could tell.
bool lacksPower(const CaseState& state) {
    return state.readings && state.readings->estimate && !state.readings->estimate->whyNoPower.empty();
}

bool subtractsCases(const Survey& survey) {
    return std::ranges::any_of(survey.gauges, [](const Gauge& gauge) { return gauge.rest.contains("minus"); });
}

} // namespace

void Session::openCase(const QString& file) {
    std::error_code ignored;
    const std::filesystem::path path = std::filesystem::weakly_canonical(std::filesystem::absolute(file.toStdString()),
                                                                         ignored);
    LookWish wish{.file = path};
    wish.quantity = view().quantity;
    wish.component = componentNamed(view().component);
    m_jobs.run<FirstLook>(
        "Opening " + QFileInfo(file).fileName(), m_open.get(),
        [wish](Progress& progress) { return firstLook(wish, progress); },
        [this, path, stamps = stampsOf(path)](Result<FirstLook> look) {
            if (!look)
                return complain(look.error());
            auto next = withCase(survey(), m_document.storedPath(path));
            auto view = viewOf(next);
            view.caseName = next.cases.back().name;
            view.step.reset();
            auto& pipeline = pipelineFor(next.cases.back()); // its being there keeps the edit from having it read
            edit("Open case", withView(std::move(next), view));
            settings::addRecentFile(QString::fromStdString(path.string()));
            pipeline.take(std::move(*look), stamps);
        });
}

void Session::findCase(const std::string& name, const QString& file) {
    std::error_code ignored;
    const auto path = std::filesystem::weakly_canonical(std::filesystem::absolute(file.toStdString()), ignored);
    editOrComplain("Find file", withCaseFile(survey(), name, m_document.storedPath(path)));
}

CasePipeline* Session::pipelineOf(const CaseEntry& entry) const {
    const auto found = m_cases.find(caseKey(m_document, entry));
    return found == m_cases.end() ? nullptr : found->second.get();
}

CasePipeline* Session::activePipeline() const {
    const auto* entry = activeEntry();
    return entry == nullptr ? nullptr : pipelineOf(*entry);
}

CasePipeline& Session::pipelineFor(const CaseEntry& entry) {
    auto& pipeline = m_cases[caseKey(m_document, entry)];
    if (pipeline)
        return *pipeline;
    pipeline.reset(new CasePipeline(
        entry, m_document, m_jobs, [this] { return needs(); }, this));
    auto* made = pipeline.get();
    connect(made, &CasePipeline::problem, this, &Session::complain);
    connect(made, &CasePipeline::changed, this, [this, made](Changes what) {
        if (made == activePipeline())
            updateSections();
        emit changed(what);
    });
    connect(made, &CasePipeline::opened, this, [this, made] {
        for (const auto& [key, other] : m_cases)
            if (other.get() != made && lacksPower(other->state())) // this one may tell its power apart
                other->evaluate();
        m_watch.again(); // what was written while it was opened
    });
    connect(made, &CasePipeline::stepMoved, this, [this, made](std::optional<int> step) {
        if (made != activePipeline())
            return;
        auto view = this->view();
        view.step = step;
        m_document.look(view);
    });
    return *made;
}

CaseLook Session::caseLook() const {
    const auto& field = view().field;
    return {view().quantity, componentNamed(view().component), view().step,
            !field.sections.empty() || !field.labels.empty() || field.paths.shown || field.arrows.shown ||
                !isolineValues(seen()).surfaces.empty()};
}

bool Session::isBeside(const CaseEntry& entry) const {
    if (!stageOf(*this).showsCompared || view().compare.left.contains(entry.name))
        return false;
    const auto cases = comparedCases();
    return std::ranges::find(cases, &entry) != cases.end();
}

// Of a series its step that is nearest to the time of the one on display, else the last.
CaseLook Session::lookBeside(const CaseEntry& entry) const {
    auto look = caseLook();
    look.step.reset();
    const auto* active = activeCase();
    const auto* own = stateOf(entry);
    if (active == nullptr || own == nullptr || !active->shownStep().time)
        return look;
    const double time = *active->shownStep().time;
    double least = std::numeric_limits<double>::infinity();
    for (const auto& file : own->series.steps)
        if (file.step.time && std::abs(*file.step.time - time) < least) {
            least = std::abs(*file.step.time - time);
            look.step = file.step.index;
        }
    return look;
}

void Session::refresh() {
    for (const auto& entry : survey().cases) {
        const bool known = pipelineOf(entry) != nullptr;
        auto& pipeline = pipelineFor(entry);
        if (!known || pipeline.isDividedOtherwise())
            pipeline.read(caseLook());
        if (&entry == activeEntry())
            continue;
        if (isBeside(entry))
            pipeline.show(lookBeside(entry));
        else
            pipeline.hide();
    }
    if (auto* pipeline = activePipeline())
        pipeline->show(caseLook());
    watchCase();
}

void Session::setStep(int step) {
    auto view = this->view();
    if (view.step == step)
        return;
    view.step = step;
    m_document.look(view);
    emit changed(Change::View);
    if (auto* pipeline = activePipeline())
        pipeline->seek(view.step);
    for (const auto& entry : survey().cases)
        if (&entry != activeEntry() && isBeside(entry))
            if (auto* pipeline = pipelineOf(entry))
                pipeline->seek(lookBeside(entry).step);
}

void Session::fitAllSteps() {
    const auto* entry = activeEntry();
    const auto* state = activeCase();
    if (entry == nullptr || state == nullptr || !state->picture)
        return;
    std::vector<std::string> parts;
    for (const auto part : visibleParts(seen()))
        parts.push_back(state->opened->solved->parts[part].name);
    m_jobs.run<std::array<double, 2>>(
        "Reading all steps", m_open.get(),
        [series = state->series, choices = entry->quantities, quantity = state->picture->quantity.name,
         parts](Progress& progress) { return rangeOverSteps(series, choices, quantity, parts, progress); },
        [this](Result<std::array<double, 2>> range) {
            if (!range)
                return complain(range.error());
            auto view = this->view();
            view.range = *range;
            if ((*range)[1] > (*range)[0])
                editView("Fit range to all steps", view);
        });
}

// Those that are open, for estimates. One with several times is none: of others it is not said which step belongs to
// this one's.
std::function<Result<OpenedCase>(const CaseEntry&, Progress&)> Session::otherCases() const {
    std::map<std::string, OpenedCase> open;
    for (const auto& entry : survey().cases)
        if (const auto* state = stateOf(entry); state != nullptr && state->opened && !changesWithTime(state->series))
            open.emplace(entry.name, *state->opened);
    return [open = std::move(open)](const CaseEntry& entry, Progress&) -> Result<OpenedCase> {
        const auto found = open.find(entry.name);
        if (found == open.end())
            return fail(ErrorCode::NotSupported, "it is not open yet, or changes with time", entry.name);
        return found->second;
    };
}

CaseNeeds Session::needs() const {
    const auto& stage = stageOf(*this);
    return {m_balancesWanted || survey().estimate || stage.needsBalances,
            stage.needsHistories != nullptr && stage.needsHistories(survey()), stage.judgesSettling,
            survey().estimate ? otherCases() : nullptr, subtractsCases(survey()) ? othersAtTime() : nullptr};
}

// The step that is open, where it is the one wanted; else steps are opened from their files.
std::function<Result<CaseAtTime>(const CaseEntry&, std::optional<double>, Progress&)> Session::othersAtTime() const {
    struct Other {
        std::filesystem::path path;
        Series series;
        std::optional<OpenedCase> opened; // of a case that does not change
    };
    std::map<std::string, Other> others;
    for (const auto& entry : survey().cases) {
        auto& other = others[entry.name];
        other.path = pathOf(entry);
        const auto* state = stateOf(entry);
        if (state == nullptr)
            continue;
        other.series = state->series;
        if (!changesWithTime(state->series))
            other.opened = state->opened;
    }
    return [others = std::move(others)](const CaseEntry& entry, std::optional<double> time,
                                        Progress& progress) -> Result<CaseAtTime> {
        const auto found = others.find(entry.name);
        if (found == others.end())
            return fail(ErrorCode::NameUnknown, "the survey has no case of this name");
        if (found->second.opened)
            return CaseAtTime{*found->second.opened};
        OpenOptions options;
        options.split = entry.wholeSplit();
        auto series = found->second.series.steps.empty() ? seriesOf(found->second.path, entry.series, options, progress)
                                                         : Result<Series>(found->second.series);
        return series ? openAtTime(*series, time, options, progress) : tl::unexpected(series.error());
    };
}

void Session::updateSections() {
    const auto* state = activeCase();
    m_sections.update(view().field, state != nullptr ? state->orders.get() : nullptr,
                      state != nullptr ? state->picture : nullptr, visibleParts(seen()));
    updateLabels();
    updateExtras();
}

void Session::updateLabels() {
    const auto* state = activeCase();
    LabelKey key{view().field.labels, state != nullptr ? state->picture : nullptr,
                 state != nullptr ? state->orders : nullptr};
    if (key == m_labelKey)
        return;
    m_labelKey = std::move(key);
    m_labels = m_labelKey.picture && m_labelKey.orders
                   ? readLabels(*m_labelKey.picture, *m_labelKey.orders, m_labelKey.places)
                   : std::vector<PinnedLabel>();
}

void Session::updateExtras() {
    const auto* state = activeCase();
    if (state == nullptr || !state->readings)
        return m_extras.clear();
    const auto& other = view().field.deformed.caseName;
    const auto* moved = other.empty() ? activeEntry() : survey().caseNamed(other);
    const auto* movedState = moved != nullptr ? stateOf(*moved) : nullptr;
    const bool isRead = movedState != nullptr && movedState->opened && !movedState->error;
    m_extras.update({view().field, state->picture, state->orders, state->quantities, hottestVisible(seen()),
                     m_sections.shown(), visibleParts(seen()), isolineValues(seen()).surfaces,
                     isRead ? movedState->opened : std::optional<OpenedCase>(),
                     isRead ? movedState->quantities : QuantityList{}});
}

void Session::wantSweep() {
    SweepKey key{survey().sweep, survey().gauges, survey().limits, survey().cases, survey().materials};
    if (key == m_sweepKey)
        return;
    m_sweepKey = std::move(key);
    if (m_sweepCancel)
        *m_sweepCancel = true;
    m_sweep.reset();
    if (!planSweep(survey(), m_document.folder()))
        return;
    m_sweepCancel = m_jobs.run<std::optional<SweepReading>>(
        "Evaluating the sweep", m_open.get(),
        [survey = survey(), file = m_document.folder() / "survey"](Progress& progress) {
            RunOptions options;
            options.balances = true;
            return runSweep(survey, file, {}, options, progress);
        },
        [this, wanted = m_sweepKey](Result<std::optional<SweepReading>> sweep) {
            if (!(wanted == m_sweepKey)) // asked for anew meanwhile
                return;
            if (!sweep) {
                m_sweepKey = {};
                return complain(sweep.error());
            }
            if (*sweep)
                m_sweep = std::make_shared<const SweepReading>(std::move(**sweep));
            emit changed(Change::Readings);
        });
}

} // namespace pyro
