// From the file to the step on display.
#include "app/pipeline/case_pipeline.h"

namespace pyro {

std::string caseKey(const Document& document, const CaseEntry& entry) {
    return entry.name + "\n" + document.pathOf(entry).string();
}

CasePipeline::CasePipeline(const CaseEntry& entry, const Document& document, JobList& jobs,
                           std::function<CaseNeeds()> needs, QObject* parent)
    : QObject(parent), m_name(entry.name), m_path(document.pathOf(entry)), m_document(document), m_jobs(jobs),
      m_needs(std::move(needs)) {}

const CaseEntry* CasePipeline::entry() const {
    const auto* found = m_retired ? nullptr : m_document.survey().caseNamed(m_name);
    return found != nullptr && m_document.pathOf(*found) == m_path ? found : nullptr;
}

void CasePipeline::overtake(Work kind) {
    auto& last = requested(kind);
    ++last.number;
    if (last.cancel)
        last.cancel->store(true);
    last.cancel.reset();
}

void CasePipeline::overtakeAll() {
    for (std::size_t kind = 0; kind < m_requests.size(); ++kind)
        overtake(static_cast<Work>(kind));
}

void CasePipeline::retire() {
    m_retired = true;
    overtakeAll();
    disconnect();
}

// A case shows its first picture as soon as its surface is known; what needs its volumes follows.
void CasePipeline::read(const CaseLook& look) {
    const auto* entry = this->entry();
    if (entry == nullptr)
        return;
    overtakeAll();
    m_look = look;
    m_state = {};
    m_historyKey.reset();
    auto stamps = stampsOf(m_path);
    m_stamps = stamps;
    const LookWish wish{m_path,        entry->series,  look.step,          entry->quantities,
                        look.quantity, look.component, entry->wholeSplit()};
    request<FirstLook>(
        Work::Looking, "Reading " + QString::fromStdString(m_name),
        [wish](Progress& progress) { return firstLook(wish, progress); },
        [this, stamps = std::move(stamps)](Result<FirstLook> first) mutable {
            if (!first)
                return takeFailure(first.error());
            take(std::move(*first), std::move(stamps));
        });
    emit changed(Change::Cases);
}

void CasePipeline::take(FirstLook look, std::vector<FileStamp> stamps) {
    m_stamps = std::move(stamps);
    m_state.preview = look.picture;
    m_state.series = std::move(look.series);
    m_state.step = look.step;
    for (const auto& remark : m_state.series.remarks)
        if (remark.code == "step-unreadable") { // not known yet, so that it is looked at again
            ++m_state.waiting;
            std::erase_if(m_stamps, [&](const FileStamp& stamp) { return stamp.file == remark.where; });
        }
    emit changed(Change::Cases | Change::Picture);
    measure(std::move(look.opened));
}

void CasePipeline::measure(OpenedCase opened) {
    const auto title = "Measuring " +
                       QString::fromStdString(std::filesystem::path(opened.solved->file).stem().string());
    request<OpenedCase>(
        Work::Measuring, title, [opened = std::move(opened)](Progress& progress) { return measured(opened, progress); },
        [this](Result<OpenedCase> whole) {
            if (!whole)
                return takeFailure(whole.error());
            m_state.opened = std::move(*whole);
            emit changed(Change::Cases);
            evaluate();
            emit this->opened();
        });
}

void CasePipeline::takeFailure(const Error& error) {
    m_state.preview.reset();
    m_state.error = error;
    emit changed(Change::Cases | Change::Picture);
    emit problem(error);
}

bool CasePipeline::isDividedOtherwise() const {
    const auto* entry = this->entry();
    return entry != nullptr && !m_state.series.steps.empty() &&
           m_state.series.steps.front().split != entry->wholeSplit();
}

void CasePipeline::show(const CaseLook& look) {
    m_look = look;
    m_onDisplay = true;
    followStep();
    draw();
    order();
}

void CasePipeline::seek(std::optional<int> step) {
    m_look.step = step;
    followStep();
}

void CasePipeline::followStep() {
    if (!m_onDisplay || !m_state.opened || isRunning(Work::Stepping))
        return;
    const int wanted = m_state.series.nearest(m_look.step);
    if (wanted != m_state.step)
        openStep(wanted);
}

void CasePipeline::openStep(int wanted) {
    m_state.openingStep = true;
    request<OpenedCase>(
        Work::Stepping, "Reading step " + QString::number(wanted),
        [step = m_state.series.steps[static_cast<std::size_t>(wanted)], like = *m_state.opened](Progress& progress) {
            return pyro::openStep(step, &like, {}, progress);
        },
        [this, wanted](Result<OpenedCase> opened) {
            m_state.openingStep = false;
            takeStep(wanted, std::move(opened));
        });
}

void CasePipeline::takeStep(int step, Result<OpenedCase> opened) {
    if (!opened) { // what was on display stays, and so does its place on the scrubber
        m_look.step = m_state.step;
        emit stepMoved(m_state.step);
        emit changed(Change::View);
        emit problem(opened.error());
        return;
    }
    if (opened->index != m_state.opened->index) { // another mesh: its nodes, cells and parts have other numbers
        m_state.picture.reset();
        m_state.readings.reset();
        m_state.orders.reset();
        overtake(Work::Drawing);
        overtake(Work::Ordering);
    }
    m_state.step = step;
    m_state.opened = std::move(*opened);
    m_state.drawn.reset();
    emit changed(Change::Cases);
    evaluate();
    followStep();
}

} // namespace pyro
