#include "app/session/session.h"

#include "app/session/settings.h"
#include "core/survey/edit.h"
#include "core/survey/survey_file.h"

#include <QFileInfo>
#include <QUndoCommand>
#include <cmath>
#include <fmt/format.h>

namespace pyro {

// Undo and redo are the same swap of whole surveys; a survey is small.
class SurveyCommand final : public QUndoCommand {
public:
    SurveyCommand(Session& session, const QString& what, Survey next, int mergeKey)
        : QUndoCommand(what), m_session(session), m_before(session.m_survey), m_after(std::move(next)), m_key(mergeKey) {}

    void redo() override { m_session.apply(m_after); }
    void undo() override { m_session.apply(m_before); }
    int id() const override { return m_key; }
    bool mergeWith(const QUndoCommand* other) override {
        m_after = static_cast<const SurveyCommand*>(other)->m_after;
        setObsolete(m_after == m_before);
        return true;
    }

private:
    Session& m_session;
    Survey m_before;
    Survey m_after;
    int m_key;
};

Session::Session(QObject* parent) : QObject(parent) {}

QString Session::displayName() const {
    if (!m_survey.title.empty())
        return QString::fromStdString(m_survey.title);
    return m_file.isEmpty() ? "Untitled survey" : QFileInfo(m_file).fileName();
}

void Session::edit(const QString& what, Survey next, int mergeKey) {
    if (!(next == m_survey))
        m_undo.push(new SurveyCommand(*this, what, std::move(next), mergeKey));
}

void Session::editOrComplain(const QString& what, Result<Survey> next) {
    if (next)
        edit(what, std::move(*next));
    else
        complain(next.error());
}

void Session::editView(const QString& what, const ViewState& next, int mergeKey) {
    edit(what, withView(m_survey, next), mergeKey);
}

void Session::setCamera(const CameraState& camera) {
    auto view = this->view();
    view.camera = camera;
    m_survey = withView(std::move(m_survey), view);
}

void Session::moveCamera(const CameraState& camera) {
    setCamera(camera);
    emit changed(Change::Camera);
}

void Session::setStage(const QString& stage) {
    auto view = this->view();
    if (view.stage == stage.toStdString())
        return;
    view.stage = stage.toStdString();
    m_survey = withView(std::move(m_survey), view);
    emit changed(Change::View);
}

// The camera and the stage stay as they are now: undoing an edit is no reason to jump about.
void Session::apply(const Survey& survey) {
    const auto now = view();
    const bool viewOnly = [&] {
        Survey a = survey;
        a.view = m_survey.view;
        return a == m_survey;
    }();
    m_survey = survey;
    auto next = view();
    next.camera = now.camera;
    next.stage = now.stage;
    m_survey = withView(std::move(m_survey), next);
    updateSections();
    emit changed(viewOnly ? Changes(Change::View) : Change::Survey | Change::View);
    refresh();
    if (!viewOnly)
        for (const auto& entry : m_survey.cases)
            evaluateCase(entry);
}

void Session::replace(Survey survey, const QString& file) {
    ++m_document;
    m_jobs.cancelAll();
    m_cases.clear();
    m_selectedPart.clear();
    m_selectedSection.reset();
    m_survey = std::move(survey);
    m_file = file;
    m_undo.clear();
    updateSections();
    emit changed(Change::Survey | Change::View | Change::Cases | Change::Readings | Change::Picture | Change::Selection);
    refresh();
}

void Session::newSurvey() { replace({}, {}); }

Done Session::openSurvey(const QString& file) {
    auto loaded = loadSurvey(file.toStdString());
    if (!loaded)
        return tl::unexpected(loaded.error());
    replace(std::move(*loaded), QFileInfo(file).absoluteFilePath());
    settings::addRecentSurvey(file);
    return {};
}

Done Session::saveAs(const QString& file) {
    const auto full = QFileInfo(file).absoluteFilePath();
    Survey moved = m_survey;
    const std::filesystem::path folder = std::filesystem::path(full.toStdString()).parent_path();
    if (full != m_file)
        for (auto& entry : moved.cases)
            entry.file = pathOf(entry).lexically_relative(folder).string();
    if (auto saved = saveSurvey(moved, full.toStdString()); !saved)
        return saved;
    m_survey = std::move(moved);
    m_file = full;
    m_undo.setClean();
    settings::addRecentSurvey(full);
    emit changed(Change::Survey);
    return {};
}

std::filesystem::path Session::pathOf(const CaseEntry& entry) const {
    std::error_code ignored;
    return std::filesystem::weakly_canonical(
        std::filesystem::absolute(caseFile(entry, std::filesystem::path(m_file.toStdString()))), ignored);
}

const CaseEntry* Session::activeEntry() const {
    const auto* chosen = m_survey.caseNamed(view().caseName);
    return chosen != nullptr || m_survey.cases.empty() ? chosen : &m_survey.cases.front();
}

const CaseState* Session::stateOf(const CaseEntry& entry) const {
    const auto found = m_cases.find(pathOf(entry));
    return found == m_cases.end() ? nullptr : &found->second;
}

const CaseState* Session::activeCase() const {
    const auto* entry = activeEntry();
    return entry == nullptr ? nullptr : stateOf(*entry);
}

void Session::openCase(const QString& file) {
    const std::filesystem::path path = std::filesystem::absolute(file.toStdString());
    m_jobs.run<OpenedCase>(
        "Opening " + QFileInfo(file).fileName(), this,
        [path](Progress& progress) { return openForEvaluation(path, {}, progress); },
        [this, path, document = m_document](Result<OpenedCase> opened) {
            if (document != m_document)
                return;
            if (!opened) {
                if (!opened.error().cancelled())
                    complain(opened.error());
                return;
            }
            const auto folder = std::filesystem::path(m_file.toStdString()).parent_path();
            auto next = withCase(m_survey, (m_file.isEmpty() ? path : path.lexically_relative(folder)).string());
            auto view = viewOf(next);
            view.caseName = next.cases.back().name;
            const auto entry = next.cases.back();
            m_cases[pathOf(entry)].opened = std::move(*opened);
            edit("Open case", withView(std::move(next), view));
        });
}

void Session::refresh() {
    for (const auto& entry : m_survey.cases)
        if (const auto* state = stateOf(entry); state == nullptr)
            load(entry);
    if (const auto* entry = activeEntry()) {
        drawCase(*entry);
        orderCase(*entry);
    }
}

void Session::load(const CaseEntry& entry) {
    const auto path = pathOf(entry);
    m_cases[path].loading = true;
    m_jobs.run<OpenedCase>(
        "Reading " + QString::fromStdString(entry.name), this,
        [path](Progress& progress) { return openForEvaluation(path, {}, progress); },
        [this, path, document = m_document](Result<OpenedCase> opened) {
            if (document != m_document)
                return;
            auto& state = m_cases[path];
            state.loading = false;
            if (opened)
                return takeOpened(path, std::move(*opened));
            state.error = opened.error();
            emit changed(Change::Cases);
            if (!opened.error().cancelled())
                complain(opened.error());
        });
    emit changed(Change::Cases);
}

void Session::takeOpened(const std::filesystem::path& path, OpenedCase opened) {
    m_cases[path].opened = std::move(opened);
    emit changed(Change::Cases);
    for (const auto& entry : m_survey.cases)
        if (pathOf(entry) == path)
            evaluateCase(entry);
}

void Session::evaluateCase(const CaseEntry& entry) {
    const auto found = m_cases.find(pathOf(entry));
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
        [survey = m_survey, entry, opened = *state.opened](Progress& progress) {
            return evaluate(survey, entry, opened, static_cast<int>(opened.solved->steps.size()) - 1, progress);
        },
        [this, path = found->first, number = ++state.evaluation, document = m_document](Result<Readings> readings) {
            if (document != m_document || m_cases[path].evaluation != number)
                return;
            if (!readings) {
                if (!readings.error().cancelled())
                    complain(readings.error());
                return;
            }
            m_cases[path].readings = std::make_shared<const Readings>(std::move(*readings));
            updateSections();
            emit changed(Change::Readings);
        });
}

void Session::drawCase(const CaseEntry& entry) {
    const auto found = m_cases.find(pathOf(entry));
    if (found == m_cases.end() || !found->second.opened)
        return;
    auto& state = found->second;
    if (state.quantities.quantities.empty())
        if (auto quantities = recognise(*state.opened->solved, entry.quantities))
            state.quantities = std::move(*quantities);
    const auto* wanted = state.quantities.named(view().quantity);
    if (wanted == nullptr && !state.quantities.quantities.empty())
        wanted = &state.quantities.quantities.front();
    if (wanted == nullptr)
        return;
    const auto same = [&](const Quantity& a, const Quantity& b) {
        return a.array == b.array && a.on == b.on && a.toSi.scale == b.toSi.scale && a.toSi.offset == b.toSi.offset &&
               a.name == b.name;
    };
    if (state.drawn && same(*state.drawn, *wanted)) {
        if (state.picture) {
            updateSections();
            emit changed(Change::Picture);
        }
        return;
    }
    state.drawn = *wanted;
    m_jobs.run<FieldPicture>(
        "Drawing " + QString::fromStdString(entry.name), this,
        [opened = *state.opened, quantity = *wanted](Progress& progress) {
            return makePicture(opened, quantity, progress);
        },
        [this, path = found->first, number = ++state.drawing, document = m_document](Result<FieldPicture> picture) {
            if (document != m_document || m_cases[path].drawing != number)
                return;
            if (!picture) {
                m_cases[path].drawn.reset();
                if (!picture.error().cancelled())
                    complain(picture.error());
                return;
            }
            m_cases[path].picture = std::make_shared<const FieldPicture>(std::move(*picture));
            updateSections();
            emit changed(Change::Picture);
        });
}

void Session::orderCase(const CaseEntry& entry) {
    const auto found = m_cases.find(pathOf(entry));
    const auto wanted = view().field;
    if ((wanted.sections.empty() && !wanted.paths.shown) || found == m_cases.end() || !found->second.opened || found->second.orders ||
        found->second.ordering)
        return;
    found->second.ordering = true;
    m_jobs.run<CellOrders>(
        "Preparing sections of " + QString::fromStdString(entry.name), this,
        [opened = *found->second.opened](Progress& progress) { return makeOrders(opened, progress); },
        [this, path = found->first, document = m_document](Result<CellOrders> orders) {
            if (document != m_document)
                return;
            m_cases[path].ordering = false;
            if (!orders)
                return;
            m_cases[path].orders = std::make_shared<const CellOrders>(std::move(*orders));
            updateSections();
            emit changed(Change::View);
        });
}

void Session::updateSections() {
    const auto* state = activeCase();
    m_sections.update(view().field, state != nullptr ? state->orders.get() : nullptr,
                      state != nullptr ? state->picture : nullptr, visibleParts());
    followPaths();
}

void Session::followPaths() {
    const auto* entry = activeEntry();
    const auto wanted = view().field.paths;
    const auto found = entry == nullptr ? m_cases.end() : m_cases.find(pathOf(*entry));
    if (!wanted.shown || found == m_cases.end() || !found->second.orders || !found->second.picture || !found->second.readings)
        return;
    auto& state = found->second;
    const CaseState::PathKey key{wanted, state.picture, wanted.from.empty() ? hottestVisible() : std::nullopt};
    if (state.pathKey == key)
        return;
    state.pathKey = key;
    state.paths.reset();
    const auto* followed = state.quantities.named(wanted.quantity);
    if (followed == nullptr && wanted.quantity == "heat_flux") // not stored: the falling temperature tells the way
        if (const auto* temperature = state.quantities.named("temperature"); temperature != nullptr && temperature->on == Location::Node)
            followed = temperature;
    if (followed == nullptr || (followed->components != 3 && followed->name != "temperature")) {
        PathPicture none;
        none.why = "this case has no vectors of " + wanted.quantity;
        state.paths = std::make_shared<const PathPicture>(std::move(none));
        return;
    }
    m_jobs.run<PathPicture>(
        "Following " + QString::fromStdString(wanted.quantity), this,
        [key, orders = state.orders, quantity = *followed](Progress& progress) {
            return makePaths(*key.picture, *orders, quantity, key.view, key.hottest, progress);
        },
        [this, path = found->first, key, document = m_document](Result<PathPicture> paths) {
            if (document != m_document || m_cases[path].pathKey != key)
                return;
            if (!paths) {
                m_cases[path].pathKey.reset();
                return;
            }
            m_cases[path].paths = std::make_shared<const PathPicture>(std::move(*paths));
            emit changed(Change::View);
        });
}

std::shared_ptr<const PathPicture> Session::paths() const {
    const auto* state = activeCase();
    return state != nullptr && view().field.paths.shown ? state->paths : nullptr;
}

std::optional<std::size_t> Session::selectedSection() const {
    return m_selectedSection && *m_selectedSection < view().field.sections.size() ? m_selectedSection : std::nullopt;
}

void Session::selectSection(std::optional<std::size_t> section) {
    if (section == m_selectedSection)
        return;
    m_selectedSection = section;
    emit changed(Change::Selection);
}

Affine Session::toShown() const {
    const auto* state = activeCase();
    if (state == nullptr || !state->picture || state->picture->quantity.name != "temperature")
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

std::vector<std::size_t> Session::visibleParts() const {
    std::vector<std::size_t> visible;
    const auto* state = activeCase();
    if (state == nullptr || !state->opened)
        return visible;
    const auto view = this->view();
    const auto& parts = state->opened->solved->parts;
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
    const auto* state = activeCase();
    if (state == nullptr || !state->picture)
        return sum;
    for (const auto part : visibleParts())
        sum.merge(state->picture->distributions[part]);
    return sum;
}

std::optional<std::array<double, 2>> Session::shownRange() const {
    const auto* state = activeCase();
    if (state == nullptr || !state->picture)
        return std::nullopt;
    if (const auto range = view().range)
        return range;
    const auto& quantity = state->picture->quantity;
    double low = std::nan("");
    double high = std::nan("");
    for (const auto part : visibleParts())
        if (const auto* array = state->opened->solved->parts[part].find(quantity.array, quantity.on)) {
            low = std::fmin(low, quantity.toSi(array->min));
            high = std::fmax(high, quantity.toSi(array->max));
        }
    if (std::isnan(low))
        return std::nullopt;
    return std::array<double, 2>{low, high > low ? high : low + 1e-6 * std::max(1.0, std::abs(low))};
}

bool Session::isLogarithmic() const {
    const auto range = shownRange();
    return view().field.strip.logarithmic && range && (*range)[0] > 0 && activeCase()->picture->quantity.name != "temperature";
}

void Session::restore(const Viewpoint& viewpoint) {
    const auto next = restored(viewpoint, view());
    editView("Viewpoint " + QString::fromStdString(viewpoint.name), next);
    if (next.camera)
        moveCamera(*next.camera);
}

void Session::selectPart(const std::string& part) {
    if (part == m_selectedPart)
        return;
    m_selectedPart = part;
    emit changed(Change::Selection);
}

} // namespace pyro
