// session: the document, its undo stack, the cases that are open, what is chosen, settings and dialogs.
//
// The open survey with its cases, readings and pictures. All views listen to `changed` and never to each other.
#pragma once

#include "app/pipeline/case_pipeline.h"
#include "app/pipeline/case_watch.h"
#include "app/session/document.h"
#include "app/session/extra_keeper.h"
#include "app/session/selection.h"
#include "core/report/chart_data.h"
#include "core/survey/shown_unit.h"
#include "core/survey/viewpoints.h"
#include "render/pinned_labels.h"
#include "render/seen.h"

namespace pyro {

// "Heat flux", "Velocity along x".
QString writtenName(const Quantity& quantity, const std::string& component);

class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr);

    Document& document() { return m_document; }
    Selection& selection() { return m_selection; }
    const Selection& selection() const { return m_selection; }
    const Survey& survey() const { return m_document.survey(); }
    const ViewState& view() const { return survey().view; }
    QString file() const { return m_document.file(); }
    QString displayName() const { return m_document.displayName(); }
    QUndoStack& undoStack() { return m_document.undoStack(); }
    JobList& jobs() { return m_jobs; }
    bool hasUnsavedChanges() const { return m_document.hasUnsavedChanges(); }

    // As those of the document.
    void edit(const QString& what, Survey next, Gesture gesture = {}) {
        m_document.edit(what, std::move(next), gesture);
    }
    void editOrComplain(const QString& what, Result<Survey> next);
    void editView(const QString& what, const ViewState& next, Gesture gesture = {}) {
        m_document.editView(what, next, gesture);
    }
    // Where the camera stands and which stage is shown are saved but are no undo steps.
    void setCamera(const CameraState& camera);
    // The same, and the viewport follows.
    void moveCamera(const CameraState& camera);
    void setStage(const QString& stage);
    // The step of the case on display, from 0: saved, but no undo step.
    void setStep(int step);
    // Sets the range of colours to that of the visible parts over all steps, in a job.
    void fitAllSteps();

    // Empty, in the units of the user.
    void newSurvey();
    void restoreUnsaved(Survey survey, const QString& file) { m_document.restoreUnsaved(std::move(survey), file); }
    Done openSurvey(const QString& file) { return m_document.open(file); }
    Done saveAs(const QString& file) { return m_document.saveAs(file); }
    // Reads the case in a job; a file that cannot be read leaves the survey untouched.
    void openCase(const QString& file);
    // The case has moved: from now on it is read from this file.
    void findCase(const std::string& name, const QString& file);

    const CaseEntry* activeEntry() const;
    const CaseState* activeCase() const; // null when there is none
    const CaseState* stateOf(const CaseEntry& entry) const;
    // The active case under the view; holds until something of it changes.
    Seen seen() const;
    // Any case by itself, without the range that it shares with others.
    Seen seenOf(const CaseEntry& entry) const { return seenOf(&entry, stateOf(entry)); }
    // The picture of the active case, or its first one while it is being measured; null when there is none.
    std::shared_ptr<const FieldPicture> seenPicture() const;
    std::filesystem::path pathOf(const CaseEntry& entry) const { return m_document.pathOf(entry); }
    // Whether there are several cases or steps that one range could be for.
    bool hasSeveralPictures() const;
    // The chosen boundary and the one that is pointed at, at the stage Cases.
    std::vector<std::size_t> litBoundaries() const;
    // The sections of the view with their pictures.
    const std::vector<ShownSection>& sections() const { return m_sections.shown(); }
    // Has the balances and checks of all open cases worked out where they are not there yet.
    void wantBalances();
    // The verdicts of the active case, in the order of the survey: the worst over all steps once those are read, else
    // of the step on display; empty while there are none.
    std::vector<LimitReading> verdicts() const;
    bool verdictsOverSteps() const;
    // Of every case of the survey that has been judged or could not be read, in its order.
    std::vector<CaseVerdicts> verdictsOfCases() const;
    // Whether the case on display is looked after for new steps and history lines.
    bool isWatching() const { return m_watching; }
    void setWatching(bool on);
    CaseWatch& watch() { return m_watch; }
    // Outlines the cells of a check, as many as can be told apart; none for null.
    void markCells(const Check* check);
    static constexpr std::size_t mostOutlined = 1500;
    // A new gauge of the quantity on display at this place; it is chosen.
    void addGauge(const Json& where);
    // The heat flow through a boundary as a gauge; the one that is there already is chosen.
    void addHeatThrough(const std::string& boundary);
    // The readings of all cases that are open, in the order of the survey.
    std::vector<ChartCase> chartCases() const;
    ChartData chart() const;
    // All open cases with the readings of the steps on display, their limits as verdicts() tells them, and what they
    // tell together. Kept until something of it changes.
    const SurveyRun& openRun() const;
    // The checks of the active case, with what its meshes tell together; empty while there are none.
    std::vector<Check> checks() const;
    // The sweep of the survey; null while it is not there. wantSweep() has it evaluated where something of it changed.
    const std::shared_ptr<const SweepReading>& sweep() const { return m_sweep; }
    void wantSweep();
    // The cases that are compared, the baseline first; those of the survey that there are.
    std::vector<const CaseEntry*> comparedCases() const;
    // Paths, arrows and isotherm surfaces on display.
    const ExtraKeeper& extras() const { return m_extras; }
    // The pinned labels of the view as read on the picture; empty while that is being made.
    const std::vector<PinnedLabel>& labels() const { return m_labels; }
    // How values of the quantity on display, or of any other, are written.
    ShownUnit unit() const;
    ShownUnit unitOf(const Quantity& quantity) const { return shownUnit(quantity.name, quantity.siUnit, view()); }

    // Everything seen as in the viewpoint, camera included; complains where the case that it carries is gone.
    void restore(const Viewpoint& viewpoint, Gesture gesture = {});

    // A message for the user; each is shown once.
    void complain(const Error& error) {
        if (!error.cancelled()) // what the user stopped is no problem
            emit problem(error);
    }

    // Calls `react` when something of `topics` changed, for as long as `who` lives.
    template <class Who, class React>
    void listen(Who* who, Changes topics, React react) {
        connect(this, &Session::changed, who, [who, topics, react](Changes what) {
            if (what & topics)
                std::invoke(react, who);
        });
    }

signals:
    void changed(pyro::Changes what);
    void problem(const pyro::Error& error);

private:
    Seen seenOf(const CaseEntry* entry, const CaseState* state) const; // either may be null
    std::array<double, 2> commonRange() const;
    void close();
    void showDocument();
    void followEdit(const Survey& before, bool viewOnly);
    void refresh();
    CasePipeline* pipelineOf(const CaseEntry& entry) const; // null: not read yet
    CasePipeline* activePipeline() const;
    CasePipeline& pipelineFor(const CaseEntry& entry); // made where there is none
    CaseLook caseLook() const;                         // as the view wants it
    CaseLook lookBeside(const CaseEntry& entry) const; // of another case, at the same time
    bool isBeside(const CaseEntry& entry) const;       // seen beside the one on display
    std::vector<LimitReading> verdictsOf(const CaseEntry& entry, const CaseState& state) const;
    CaseNeeds needs() const;
    void watchCase();
    void lookForSteps(const std::filesystem::path& path, std::vector<FileStamp> stamps);
    std::function<Result<OpenedCase>(const CaseEntry&, Progress&)> otherCases() const;
    std::function<Result<CaseAtTime>(const CaseEntry&, std::optional<double>, Progress&)> othersAtTime() const;
    void updateSections();
    void updateLabels();
    void updateExtras();

    Document m_document;
    Selection m_selection{m_document};
    // Late answers still find one that is in the midst of telling something.
    struct Retire {
        void operator()(CasePipeline* pipeline) const {
            pipeline->retire();
            pipeline->deleteLater();
        }
    };
    std::map<std::string, std::unique_ptr<CasePipeline, Retire>> m_cases; // by caseKey
    // Lives as long as the document stays open: what is done for the document is answered to it.
    std::unique_ptr<QObject> m_open = std::make_unique<QObject>();
    struct OpenRun { // what the run on display was made of
        std::vector<std::array<const void*, 4>> readings;
        std::vector<Limit> limits;
        std::vector<Gauge> gauges;
        std::optional<CompareWish> compare;
        std::vector<GridsWish> grids;
        std::vector<MeasuredWish> measured;
        std::string file;
        const SweepReading* sweep = nullptr;
        bool operator==(const OpenRun&) const = default;
    };
    mutable std::optional<std::pair<OpenRun, SurveyRun>> m_openRun;
    std::shared_ptr<const SweepReading> m_sweep;
    struct SweepKey { // what the sweep on display, or on its way, is made of
        std::optional<SweepWish> wish;
        std::vector<Gauge> gauges;
        std::vector<Limit> limits;
        std::vector<CaseEntry> cases;
        std::map<std::string, Material> materials;
        bool operator==(const SweepKey&) const = default;
    } m_sweepKey;
    std::shared_ptr<std::atomic<bool>> m_sweepCancel;
    CaseWatch m_watch;
    bool m_watching = true;
    bool m_balancesWanted = false; // whatever the stage
    SectionKeeper m_sections;
    std::vector<PinnedLabel> m_labels;
    struct LabelKey { // what the labels were read from
        std::vector<Point> places;
        std::shared_ptr<const FieldPicture> picture;
        std::shared_ptr<const CellOrders> orders;
        bool operator==(const LabelKey&) const = default;
    } m_labelKey;
    ExtraKeeper m_extras{m_jobs, *this, [this] { emit changed(Change::View); }};
    JobList m_jobs; // last: its threads end first
};

} // namespace pyro
