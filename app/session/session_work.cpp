// The work a survey causes: cases are read, drawn, measured, evaluated, ordered for sections, and followed by paths.
#include "app/session/session.h"

#include "core/survey/edit.h"

#include <QFileInfo>

namespace pyro {

void Session::openCase(const QString& file) {
    const std::filesystem::path path = std::filesystem::absolute(file.toStdString());
    m_jobs.run<FirstLook>(
        "Opening " + QFileInfo(file).fileName(), this,
        [path, quantity = view().quantity](Progress& progress) { return firstLook(path, {}, quantity, progress); },
        [this, path, document = m_document](Result<FirstLook> look) {
            if (document != m_document)
                return;
            if (!look) {
                if (!look.error().cancelled())
                    complain(look.error());
                return;
            }
            const auto folder = std::filesystem::path(m_file.toStdString()).parent_path();
            auto next = withCase(m_survey, (m_file.isEmpty() ? path : path.lexically_relative(folder)).string());
            auto view = viewOf(next);
            view.caseName = next.cases.back().name;
            const auto key = pathOf(next.cases.back());
            m_cases[key].loading = true;
            m_cases[key].preview = look->picture;
            edit("Open case", withView(std::move(next), view));
            measure(key, std::move(look->opened));
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

// A case shows its first picture as soon as its surface is known; what needs its volumes follows.
void Session::load(const CaseEntry& entry) {
    const auto path = pathOf(entry);
    m_cases[path].loading = true;
    m_jobs.run<FirstLook>(
        "Reading " + QString::fromStdString(entry.name), this,
        [path, choices = entry.quantities, quantity = view().quantity](Progress& progress) {
            return firstLook(path, choices, quantity, progress);
        },
        [this, path, document = m_document](Result<FirstLook> look) {
            if (document != m_document)
                return;
            if (!look)
                return takeFailure(path, look.error());
            m_cases[path].preview = look->picture;
            emit changed(Change::Cases | Change::Picture);
            measure(path, std::move(look->opened));
        });
    emit changed(Change::Cases);
}

void Session::measure(const std::filesystem::path& path, OpenedCase opened) {
    m_jobs.run<OpenedCase>(
        "Measuring " + QString::fromStdString(path.stem().string()), this,
        [opened = std::move(opened)](Progress& progress) { return measured(opened, progress); },
        [this, path, document = m_document](Result<OpenedCase> whole) {
            if (document != m_document)
                return;
            if (!whole)
                return takeFailure(path, whole.error());
            m_cases[path].loading = false;
            takeOpened(path, std::move(*whole));
        });
}

void Session::takeFailure(const std::filesystem::path& path, const Error& error) {
    auto& state = m_cases[path];
    state.loading = false;
    state.preview.reset();
    state.error = error;
    emit changed(Change::Cases | Change::Picture);
    if (!error.cancelled())
        complain(error);
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
    const auto* wanted = state.quantities.namedOrFirst(view().quantity);
    if (wanted == nullptr)
        return;
    if (state.drawn && sameReading(*state.drawn, *wanted)) {
        if (state.picture) {
            updateSections();
            emit changed(Change::Picture);
        }
        return;
    }
    state.drawn = *wanted;
    m_jobs.run<FieldPicture>(
        "Drawing " + QString::fromStdString(entry.name), this,
        [opened = *state.opened, quantity = *wanted, before = state.seen()](Progress& progress) {
            return makePicture(opened, quantity, before.get(), progress);
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
            m_cases[path].preview.reset();
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

} // namespace pyro
