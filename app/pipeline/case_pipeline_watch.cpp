// A case that is still being computed: new steps and history lines are taken up as they come, and the view stays.
#include "app/pipeline/case_pipeline.h"

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

bool CasePipeline::lookForSteps(std::vector<FileStamp> stamps) {
    if (isRunning(Work::Watching))
        return false;
    const auto* entry = this->entry();
    const bool failed = m_state.error.has_value();
    const bool asRead = m_state.opened && stamps == m_stamps && m_state.waiting == 0;
    if (entry == nullptr || (!failed && !m_state.opened) || asRead)
        return true; // still being opened, or nothing is new
    OpenOptions options;
    options.split = entry->wholeSplit();
    request<ReadySeries>(
        Work::Watching, "Looking for new steps",
        [path = m_path, wanted = entry->series, options, known = failed ? std::vector<FileStamp>() : m_stamps](
            Progress& progress) { return readySeries(path, wanted, known, options, progress); },
        [this, stamps = std::move(stamps)](Result<ReadySeries> ready) {
            if (ready)
                return takeSeries(std::move(*ready), stamps);
            // moved or deleted; what is on display stays to be looked at
            if (ready.error().code == ErrorCode::FileMissing) {
                m_state.error = ready.error();
                m_state.waiting = 0;
                emit changed(Change::Cases | Change::Readings);
                return;
            }
            m_state.waiting = 1; // nothing is whole yet; what is on display stays
            emit changed(Change::Cases);
        });
    return true;
}

void CasePipeline::takeSeries(ReadySeries ready, std::vector<FileStamp> stamps) {
    if (entry() == nullptr)
        return;
    m_state.error.reset(); // it is there again
    if (!m_state.opened)   // it could not be read before
        return read(m_look);
    const auto shown = m_state.series.steps.empty() ? m_path
                                                    : m_state.series.steps[static_cast<std::size_t>(m_state.step)].file;
    const bool atEnd = m_state.step + 1 >= static_cast<int>(m_state.series.steps.size());
    const bool rewritten = wasRewritten(shown, m_stamps, stamps);
    const bool grew = ready.series.steps.size() != m_state.series.steps.size();
    const bool known = std::ranges::none_of(
        ready.series.steps, [&](const StepFile& step) { return wasRewritten(step.file, m_stamps, stamps); });
    // What waits is not known yet: it is looked at again whenever it is written to.
    if (ready.waiting > 0)
        std::erase_if(stamps, [&](const FileStamp& stamp) {
            return std::ranges::find(m_stamps, stamp) == m_stamps.end() &&
                   std::ranges::find(ready.series.steps, stamp.file, &StepFile::file) == ready.series.steps.end();
        });
    m_stamps = std::move(stamps);
    m_state.waiting = ready.waiting;
    m_state.series = std::move(ready.series);
    const auto at = std::ranges::find(m_state.series.steps, shown, &StepFile::file);
    m_state.step = at == m_state.series.steps.end() ? 0 : static_cast<int>(at - m_state.series.steps.begin());
    if (!known)
        m_state.history.reset();
    m_historyGrows = grew || !known;
    m_look.step = atEnd ? std::optional<int>() : m_state.step;
    emit stepMoved(m_look.step);
    emit changed(Change::Cases | Change::View);
    if (rewritten)
        openStep(m_state.series.nearest(m_look.step));
    else if (grew && atEnd)
        followStep();
    else
        evaluate(); // the history may have grown
}

} // namespace pyro
