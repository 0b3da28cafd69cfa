// pipeline: open cases, each on its way from its file to what is seen and read of it, and the long work for that.
//
// A case is looked at, which gives its first picture; measured; brought to the step that is wanted; drawn; evaluated;
// put in order for sections; read on all its steps; and followed while its solver still writes. Any number of them run
// beside each other on one list of jobs.
#pragma once

#include "app/pipeline/case_state.h"
#include "app/pipeline/job.h"
#include "app/session/changes.h"
#include "app/session/document.h"
#include "core/case/series_watch.h"
#include "core/evaluate/evaluate.h"

#include <array>

namespace pyro {

// What is to be seen of a case.
struct CaseLook {
    std::string quantity; // one that the case has not counts as its first
    Component component = Component::Natural;
    std::optional<int> step = {}; // nothing: the last
    bool throughVolumes = false;  // sections, paths and labels: the cells are put in order for them
};

// What an evaluation of the case is to tell; depends on more than the case.
struct CaseNeeds {
    bool balances = false;
    bool histories = false; // every step of a series is read
    bool settling = false;  // from the solver's own history where there is one, else from the steps
    // For estimates; empty: without.
    std::function<Result<OpenedCase>(const CaseEntry&, Progress&)> otherCase = {};
    // For gauges that subtract another case's field; empty: without.
    std::function<Result<CaseAtTime>(const CaseEntry&, std::optional<double>, Progress&)> otherAtTime = {};
};

class CasePipeline : public QObject {
    Q_OBJECT
public:
    // `entry`: of the document's survey, or about to be. Once the survey has none of this name and file, nothing more
    // is begun.
    CasePipeline(const CaseEntry& entry, const Document& document, JobList& jobs, std::function<CaseNeeds()> needs,
                 QObject* parent);

    const CaseState& state() const { return m_state; }
    const CaseEntry* entry() const; // null: not in the survey

    // From its file, with nothing known of it.
    void read(const CaseLook& look);
    // As read() does, with a first look that was taken before; `stamps`: of the files when that began.
    void take(FirstLook look, std::vector<FileStamp> stamps);
    bool isDividedOtherwise() const; // than the survey wants it by now
    // Brings it on display as wanted.
    void show(const CaseLook& look);
    void hide() { m_onDisplay = false; }
    // While a step is opened the next waits: a quick drag of the scrubber leaves out what it passes.
    void seek(std::optional<int> step);
    void evaluate();
    void readHistories(); // where they are needed and not there
    // The files were written to, maybe. False: what was told before is still being looked at; to be told again.
    bool lookForSteps(std::vector<FileStamp> stamps);
    // Nothing is begun, taken or told any more.
    void retire();

signals:
    void changed(pyro::Changes what);
    void problem(const pyro::Error& error);
    void opened();
    // The step on display is another than the look's: `step` could be reached only, or its files were counted anew;
    // nothing: the last one is followed.
    void stepMoved(std::optional<int> step);

private:
    // Of each kind of work only the last request counts. An answer that a later one has overtaken, or the reading anew
    // of the file, is dropped; this is the one guard against late answers.
    enum class Work { Looking, Measuring, Stepping, Drawing, Evaluating, Ordering, Histories, Watching, Kinds };
    struct Request {
        int number = 0;
        std::shared_ptr<std::atomic<bool>> cancel; // null: none is running
    };
    Request& requested(Work kind) { return m_requests[static_cast<std::size_t>(kind)]; }
    bool isRunning(Work kind) { return requested(kind).cancel != nullptr; }
    void overtake(Work kind);
    void overtakeAll();
    template <class T>
    void request(Work kind, const QString& title, std::function<Result<T>(Progress&)> work,
                 std::function<void(Result<T>)> take);

    void measure(OpenedCase opened);
    void takeFailure(const Error& error);
    void followStep();
    void openStep(int wanted);
    void takeStep(int step, Result<OpenedCase> opened);
    void draw();
    void order();
    void keepRanges();
    StepContext context() const;
    void takeReadings(Result<Readings> readings);
    void takeHistory(Result<SurveyRun> run);
    void judge();
    void takeSeries(ReadySeries ready, std::vector<FileStamp> stamps);

    std::string m_name;
    std::filesystem::path m_path;
    const Document& m_document;
    JobList& m_jobs;
    std::function<CaseNeeds()> m_needs;
    CaseState m_state;
    CaseLook m_look; // as last wanted
    bool m_onDisplay = false;
    std::array<Request, static_cast<std::size_t>(Work::Kinds)> m_requests;
    std::vector<FileStamp> m_stamps; // of the files as they were read
    struct HistoryKey {              // what the history is read for
        std::vector<Gauge> gauges;
        std::map<std::string, Material> materials;
        CaseEntry entry;
        std::vector<Limit> limits; // those that need the fields of each step
        bool operator==(const HistoryKey&) const = default;
    };
    std::optional<HistoryKey> m_historyKey; // of the newest one or of the one being read
    bool m_historyGrows = false;            // steps came since it was read
    bool m_retired = false;
};

// Whether two entries of a survey are one case to the window: what is known of it belongs to name and file, so that
// two on one file may read it with other materials, powers and splits.
std::string caseKey(const Document& document, const CaseEntry& entry);

template <class T>
void CasePipeline::request(Work kind, const QString& title, std::function<Result<T>(Progress&)> work,
                           std::function<void(Result<T>)> take) {
    overtake(kind);
    const int number = requested(kind).number;
    requested(kind).cancel = m_jobs.run<T>(title, this, std::move(work),
                                           [this, kind, number, take = std::move(take)](Result<T> answer) {
                                               if (requested(kind).number != number)
                                                   return;
                                               requested(kind).cancel.reset();
                                               take(std::move(answer));
                                           });
}

} // namespace pyro
