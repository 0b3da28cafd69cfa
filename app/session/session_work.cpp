// The work a survey causes: cases are read, drawn, measured, evaluated, ordered for sections, and followed by paths.

#include "app/session/session.h"
#include "app/session/settings.h"
#include "app/stages/stage.h"

#include "core/evaluate/known_history.h"
#include "core/evaluate/series_range.h"
#include "core/readings/estimate_reading.h"
#include "core/survey/edit.h"

#include <QFileInfo>

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

// Whether a case is estimated without what other cases could tell.
bool lacksPower(const CaseState* state) {
    return state != nullptr && state->readings && state->readings->estimate &&
           !state->readings->estimate->whyNoPower.empty();
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
        "Opening " + QFileInfo(file).fileName(), this, [wish](Progress& progress) { return firstLook(wish, progress); },
        ifOpen([this, path, stamps = stampsOf(path)](Result<FirstLook> look) {
            if (!look)
                return complain(look.error());
            auto next = withCase(survey(), m_document.storedPath(path));
            auto view = viewOf(next);
            view.caseName = next.cases.back().name;
            view.step.reset();
            const auto key = keyOf(next.cases.back());
            m_cases[key].stamps = stamps; // and its being there keeps the edit from having it read again
            edit("Open case", withView(std::move(next), view));
            settings::addRecentFile(QString::fromStdString(path.string()));
            takeLook(key, std::move(*look));
        }));
}

void Session::findCase(const std::string& name, const QString& file) {
    std::error_code ignored;
    const auto path = std::filesystem::weakly_canonical(std::filesystem::absolute(file.toStdString()), ignored);
    editOrComplain("Find file", withCaseFile(survey(), name, m_document.storedPath(path)));
}

namespace {

bool isDividedOtherwise(const CaseState& state, const CaseEntry& entry) {
    return !state.series.steps.empty() && state.series.steps.front().split != entry.wholeSplit();
}

} // namespace

void Session::refresh() {
    for (const auto& entry : survey().cases)
        if (const auto* state = stateOf(entry); state == nullptr) {
            load(entry);
        } else if (isDividedOtherwise(*state, entry)) {
            m_cases.erase(keyOf(entry));
            load(entry);
        }
    if (const auto* entry = activeEntry()) {
        followStep(*entry);
        drawCase(*entry);
        orderCase(*entry);
    }
    watchCase();
}

// A case shows its first picture as soon as its surface is known; what needs its volumes follows.
void Session::load(const CaseEntry& entry) {
    const auto path = pathOf(entry);
    const auto key = keyOf(entry);
    m_cases[key].stamps = stampsOf(path);
    const LookWish wish{path,
                        entry.series,
                        view().step,
                        entry.quantities,
                        view().quantity,
                        componentNamed(view().component),
                        entry.wholeSplit()};
    m_jobs.run<FirstLook>(
        "Reading " + QString::fromStdString(entry.name), this,
        [wish](Progress& progress) { return firstLook(wish, progress); }, ifOpen([this, key](Result<FirstLook> look) {
            if (!look)
                return takeFailure(key, look.error());
            takeLook(key, std::move(*look));
        }));
    emit changed(Change::Cases);
}

void Session::takeLook(const CaseKey& key, FirstLook look) {
    auto& state = m_cases[key];
    state.preview = look.picture;
    state.series = std::move(look.series);
    state.step = look.step;
    for (const auto& remark : state.series.remarks)
        if (remark.code == "step-unreadable") { // not known yet, so that it is looked at again
            ++state.waiting;
            std::erase_if(state.stamps, [&](const FileStamp& stamp) { return stamp.file == remark.where; });
        }
    emit changed(Change::Cases | Change::Picture);
    measure(key, std::move(look.opened));
}

void Session::measure(const CaseKey& key, OpenedCase opened) {
    const auto title = "Measuring " +
                       QString::fromStdString(std::filesystem::path(opened.solved->file).stem().string());
    m_jobs.run<OpenedCase>(
        title, this, [opened = std::move(opened)](Progress& progress) { return measured(opened, progress); },
        ifOpen([this, key](Result<OpenedCase> whole) {
            if (!whole)
                return takeFailure(key, whole.error());
            takeOpened(key, std::move(*whole));
        }));
}

void Session::takeFailure(const CaseKey& key, const Error& error) {
    auto& state = m_cases[key];
    state.preview.reset();
    state.error = error;
    emit changed(Change::Cases | Change::Picture);
    complain(error);
}

void Session::takeOpened(const CaseKey& key, OpenedCase opened) {
    m_cases[key].opened = std::move(opened);
    emit changed(Change::Cases);
    for (const auto& entry : survey().cases)
        if (keyOf(entry) == key || lacksPower(stateOf(entry))) // this one may tell its power apart
            evaluateCase(entry);
    m_watch.again(); // what was written while it was opened
}

// Brings the step of the view on display. While one is being opened the next waits: a quick drag of the scrubber
// leaves out what it passes.
void Session::followStep(const CaseEntry& entry) {
    const auto key = keyOf(entry);
    const auto found = m_cases.find(key);
    if (found == m_cases.end() || !found->second.opened || found->second.openingStep)
        return;
    auto& state = found->second;
    const int wanted = state.series.nearest(view().step);
    if (wanted == state.step)
        return;
    openStepOf(entry, wanted);
}

void Session::openStepOf(const CaseEntry& entry, int wanted) {
    const auto key = keyOf(entry);
    auto& state = m_cases[key];
    state.openingStep = true;
    m_jobs.run<OpenedCase>(
        "Reading step " + QString::number(wanted), this,
        [step = state.series.steps[static_cast<std::size_t>(wanted)], like = *state.opened](Progress& progress) {
            return openStep(step, &like, {}, progress);
        },
        ifOpen([this, key, wanted](Result<OpenedCase> opened) {
            m_cases[key].openingStep = false;
            takeStep(key, wanted, std::move(opened));
        }));
}

void Session::takeStep(const CaseKey& key, int step, Result<OpenedCase> opened) {
    auto& state = m_cases[key];
    if (!opened) { // what was on display stays, and so does its place on the scrubber
        auto view = this->view();
        view.step = state.step;
        m_document.look(view);
        emit changed(Change::View);
        complain(opened.error());
        return;
    }
    if (opened->index != state.opened->index) { // another mesh: its nodes, cells and parts have other numbers
        state.picture.reset();
        state.readings.reset();
        state.orders.reset();
        m_extras.clear();
    }
    state.step = step;
    state.opened = std::move(*opened);
    state.drawn.reset();
    updateSections();
    emit changed(Change::Cases);
    for (const auto& entry : survey().cases)
        if (keyOf(entry) == key) {
            evaluateCase(entry);
            followStep(entry);
        }
}

void Session::setStep(int step) {
    auto view = this->view();
    if (view.step == step)
        return;
    view.step = step;
    m_document.look(view);
    emit changed(Change::View);
    if (const auto* entry = activeEntry())
        followStep(*entry);
}

void Session::fitAllSteps() {
    const auto* entry = activeEntry();
    const auto* state = activeCase();
    if (entry == nullptr || state == nullptr || !state->picture)
        return;
    std::vector<std::string> parts;
    for (const auto part : visibleParts())
        parts.push_back(state->opened->solved->parts[part].name);
    m_jobs.run<std::array<double, 2>>(
        "Reading all steps", this,
        [series = state->series, choices = entry->quantities, quantity = state->picture->quantity.name,
         parts](Progress& progress) { return rangeOverSteps(series, choices, quantity, parts, progress); },
        ifOpen([this](Result<std::array<double, 2>> range) {
            if (!range)
                return complain(range.error());
            auto view = this->view();
            view.range = *range;
            if ((*range)[1] > (*range)[0])
                editView("Fit range to all steps", view);
        }));
}

namespace {

constexpr std::uint64_t quicklyChecked = 500'000; // cells of a case that is doubted without being asked to

bool isQuick(const OpenedCase& opened) {
    std::uint64_t cells = 0;
    for (const auto& part : opened.solved->parts)
        cells += part.mesh.cells();
    return cells <= quicklyChecked;
}

} // namespace

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

// Verdicts come first; balances and checks follow once they are there.
StepContext Session::contextOf(const CaseState& state) const {
    StepContext context;
    context.changes = changesWithTime(state.series);
    context.balances = m_balancesWanted || survey().estimate || stageOf(*this).needsBalances ||
                       (state.readings && isQuick(*state.opened));
    if (survey().estimate)
        context.otherCase = otherCases();
    context.folder = m_document.folder();
    if (state.history && state.history->size() > 1)
        context.solver = std::make_shared<const SolverHistory>(historyOfSteps(*state.history));
    return context;
}

void Session::evaluateCase(const CaseEntry& entry) {
    const auto found = m_cases.find(keyOf(entry));
    if (found == m_cases.end() || !found->second.opened)
        return;
    auto& state = found->second;
    auto quantities = recognise(*state.opened->solved, entry.quantities);
    if (!quantities) {
        state.readings.reset();
        complain(quantities.error());
        emit changed(Change::Cases | Change::Readings);
        return;
    }
    state.quantities = std::move(*quantities);
    if (&entry == activeEntry()) {
        drawCase(entry);
        orderCase(entry);
    }
    m_jobs.run<Readings>(
        "Evaluating " + QString::fromStdString(entry.name), this,
        [survey = survey(), entry, opened = *state.opened, step = state.shownStep(), context = contextOf(state),
         before = stepBefore(state)](Progress& progress) {
            return evaluateAfter(survey, entry, opened, step, context, before, progress);
        },
        ifOpen([this, key = found->first, number = ++state.evaluation](Result<Readings> readings) {
            if (m_cases[key].evaluation != number)
                return;
            if (!readings)
                return complain(readings.error());
            m_cases[key].readings = std::make_shared<const Readings>(std::move(*readings));
            judgeWorst(); // the limits may have been edited
            updateSections();
            emit changed(Change::Readings);
            readHistories();
            if (!m_cases[key].readings->balances && isQuick(*m_cases[key].opened))
                for (const auto& one : survey().cases)
                    if (keyOf(one) == key)
                        return evaluateCase(one);
        }));
}

void Session::drawCase(const CaseEntry& entry) {
    const auto found = m_cases.find(keyOf(entry));
    if (found == m_cases.end() || !found->second.opened)
        return;
    auto& state = found->second;
    if (state.quantities.quantities.empty())
        if (auto quantities = recognise(*state.opened->solved, entry.quantities))
            state.quantities = std::move(*quantities);
    const auto* wanted = state.quantities.namedOrFirst(view().quantity);
    if (wanted == nullptr)
        return;
    auto component = componentNamed(view().component);
    if (isAlongAxes(*wanted) && component == Component::Natural)
        component = Component::X;
    if (state.drawn && sameReading(state.drawn->first, *wanted) && state.drawn->second == component) {
        if (state.picture) {
            updateSections();
            emit changed(Change::Picture);
        }
        return;
    }
    state.drawn = std::pair(*wanted, component);
    m_jobs.run<FieldPicture>(
        "Drawing " + QString::fromStdString(entry.name), this,
        [opened = *state.opened, quantity = *wanted, component, before = state.seen()](Progress& progress) {
            return makePicture(opened, quantity, before.get(), progress, component);
        },
        ifOpen([this, key = found->first, number = ++state.drawing](Result<FieldPicture> picture) {
            if (m_cases[key].drawing != number)
                return;
            if (!picture) {
                m_cases[key].drawn.reset();
                complain(picture.error());
                return;
            }
            m_cases[key].picture = std::make_shared<const FieldPicture>(std::move(*picture));
            m_cases[key].preview.reset();
            keepRanges(m_cases[key]);
            updateSections();
            emit changed(Change::Picture);
        }));
}

void Session::orderCase(const CaseEntry& entry) {
    const auto found = m_cases.find(keyOf(entry));
    const auto wanted = view().field;
    const bool needed = !wanted.sections.empty() || !wanted.labels.empty() || wanted.paths.shown ||
                        wanted.arrows.shown || !isolines().surfaces.empty();
    if (!needed || found == m_cases.end() || !found->second.opened || found->second.orders || found->second.ordering)
        return;
    found->second.ordering = true;
    m_jobs.run<CellOrders>(
        "Preparing sections of " + QString::fromStdString(entry.name), this,
        [opened = *found->second.opened](Progress& progress) { return makeOrders(opened, progress); },
        ifOpen([this, key = found->first, index = found->second.opened->index](Result<CellOrders> orders) {
            m_cases[key].ordering = false;
            if (m_cases[key].opened->index != index) // a step of another mesh came meanwhile
                return refresh();
            if (!orders)
                return;
            m_cases[key].orders = std::make_shared<const CellOrders>(std::move(*orders));
            updateSections();
            emit changed(Change::View);
        }));
}

void Session::updateSections() {
    const auto* state = activeCase();
    m_sections.update(view().field, state != nullptr ? state->orders.get() : nullptr,
                      state != nullptr ? state->picture : nullptr, visibleParts());
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
    m_extras.update({view().field, state->picture, state->orders, state->quantities, hottestVisible(),
                     m_sections.shown(), visibleParts(), isolines().surfaces});
}

} // namespace pyro
