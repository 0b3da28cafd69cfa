// A case that is still being computed: new steps and history lines are taken up as they come, and the view stays.
#include "app/session/session.h"

#include "core/evaluate/known_history.h"

namespace pyro {
namespace {

bool wasRewritten(const std::filesystem::path& file, const std::vector<FileStamp>& before,
                  const std::vector<FileStamp>& now) {
    const auto stampIn = [&](const std::vector<FileStamp>& stamps) {
        return std::ranges::find(stamps, file, &FileStamp::file);
    };
    const auto old = stampIn(before);
    const auto fresh = stampIn(now);
    return old != before.end() && fresh != now.end() && *old != *fresh;
}

} // namespace

void Session::setWatching(bool on) {
    m_watching = on;
    watchCase();
    emit changed(Change::Cases);
}

void Session::watchCase() {
    const auto* entry = activeEntry();
    if (entry == nullptr || !m_watching)
        return m_watch.stop();
    const auto folder = m_document.folder();
    m_watch.follow(pathOf(*entry),
                   entry->history.empty() ? std::filesystem::path() : *historyFile(*entry, folder, pathOf(*entry)));
}

void Session::lookForSteps(const std::filesystem::path& path, std::vector<FileStamp> stamps) {
    const auto* entry = activeEntry();
    if (entry == nullptr || pathOf(*entry) != path)
        return;
    const auto key = keyOf(*entry);
    const auto found = m_cases.find(key);
    if (found == m_cases.end())
        return;
    if (found->second.looking)
        return m_watch.again();
    auto& state = found->second;
    const bool failed = state.error.has_value();
    if ((!failed && !state.opened) || (state.opened && stamps == state.stamps && state.waiting == 0))
        return; // still being opened, or as it was read
    state.looking = true;
    OpenOptions options;
    options.split = entry->wholeSplit();
    m_jobs.run<ReadySeries>(
        "Looking for new steps", this,
        [path, wanted = entry->series, options, known = failed ? std::vector<FileStamp>() : state.stamps](
            Progress& progress) { return readySeries(path, wanted, known, options, progress); },
        ifOpen([this, key, stamps = std::move(stamps)](Result<ReadySeries> ready) {
            m_cases[key].looking = false;
            if (ready)
                return takeSeries(key, std::move(*ready), stamps);
            // moved or deleted; what is on display stays to be looked at
            if (ready.error().code == ErrorCode::FileMissing) {
                m_cases[key].error = ready.error();
                m_cases[key].waiting = 0;
                emit changed(Change::Cases | Change::Readings);
                return;
            }
            m_cases[key].waiting = 1; // nothing is whole yet; what is on display stays
            emit changed(Change::Cases);
        }));
}

void Session::takeSeries(const CaseKey& key, ReadySeries ready, std::vector<FileStamp> stamps) {
    const auto* entry = activeEntry();
    if (entry == nullptr || keyOf(*entry) != key)
        return;
    auto& state = m_cases[key];
    state.error.reset(); // it is there again
    if (!state.opened) { // it could not be read before
        m_cases.erase(key);
        return load(*entry);
    }
    const auto shown = state.series.steps.empty() ? pathOf(*entry)
                                                  : state.series.steps[static_cast<std::size_t>(state.step)].file;
    const bool atEnd = state.step + 1 >= static_cast<int>(state.series.steps.size());
    const bool rewritten = wasRewritten(shown, state.stamps, stamps);
    const bool grew = ready.series.steps.size() != state.series.steps.size();
    const bool known = std::ranges::none_of(
        ready.series.steps, [&](const StepFile& step) { return wasRewritten(step.file, state.stamps, stamps); });
    // What waits is not known yet: it is looked at again whenever it is written to.
    if (ready.waiting > 0)
        std::erase_if(stamps, [&](const FileStamp& stamp) {
            return std::ranges::find(state.stamps, stamp) == state.stamps.end() &&
                   std::ranges::find(ready.series.steps, stamp.file, &StepFile::file) == ready.series.steps.end();
        });
    state.stamps = std::move(stamps);
    state.waiting = ready.waiting;
    state.series = std::move(ready.series);
    const auto at = std::ranges::find(state.series.steps, shown, &StepFile::file);
    state.step = at == state.series.steps.end() ? 0 : static_cast<int>(at - state.series.steps.begin());
    if (!known)
        state.history.reset();
    state.historyGrows = grew || !known;
    auto view = this->view();
    if (atEnd)
        view.step.reset();
    else
        view.step = state.step;
    m_document.look(view);
    emit changed(Change::Cases | Change::View);
    if (rewritten)
        openStepOf(*entry, state.series.nearest(view.step));
    else if (grew && atEnd)
        followStep(*entry);
    else
        evaluateCase(*entry); // the history may have grown
}

} // namespace pyro
