// The open survey with its cases, readings and pictures. All views listen to `changed` and never to each other.
#pragma once

#include "app/session/case_state.h"
#include "app/session/document.h"
#include "app/session/selection.h"
#include "core/report/chart_data.h"
#include "core/survey/shown_unit.h"
#include "core/survey/viewpoints.h"
#include "render/pinned_labels.h"

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

    void newSurvey() { m_document.replace({}, {}); }
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
    // The picture of the active case, or its first one while it is being measured; null when there is none.
    std::shared_ptr<const FieldPicture> seenPicture() const;
    std::filesystem::path pathOf(const CaseEntry& entry) const { return m_document.pathOf(entry); }
    // The active case's range of colours, SI: as set, else fitted to the visible parts.
    std::optional<std::array<double, 2>> shownRange() const;
    // Whether the colours follow the logarithm: wanted, and possible for this quantity and range.
    bool isLogarithmic() const;
    // Lowest and highest stored value of the visible parts on the picture, SI; NaN where there is none.
    std::array<double, 2> visibleRange() const;
    // Whether there are several cases or steps that one range could be for.
    bool hasSeveralPictures() const;
    // The distribution over the visible parts of the active picture.
    Distribution visibleDistribution() const;
    std::vector<std::size_t> visibleParts() const;
    // Those of the view that the case on display has; positions in Case::boundaries.
    std::vector<std::size_t> shownBoundaries() const;
    // The chosen boundary and the one that is pointed at, at the stage Cases.
    std::vector<std::size_t> litBoundaries() const;
    // Noted as a fluid in the survey, or, without a note, with a velocity of its own.
    bool isFluid(std::size_t part) const;
    // Lowest and highest x, y and z of the visible parts, metres; zeros when none is.
    std::array<double, 6> visibleBox() const;
    // The hottest stored place of the visible parts.
    std::optional<Point> hottestVisible() const;

    // The part that callout and heat strip tell of: the selected one, else the visible one with the least margin, else
    // the hottest; null while there are no readings.
    const RegionReading* partInFocus() const;
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
    // Values of the hotspots of the chosen gauge, or of the first that lists some, when they are of the quantity on
    // display; SI.
    std::vector<double> hotspotLevels() const;
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
    // All open cases with the readings of the steps on display, and their limits as verdicts() tells them, for tables.
    SurveyRun openRun() const;
    // Paths, arrows and isotherm surfaces on display.
    const ExtraKeeper& extras() const { return m_extras; }
    // The pinned labels of the view as read on the picture; empty while that is being made.
    const std::vector<PinnedLabel>& labels() const { return m_labels; }
    // Levels of the isotherms on display, SI; nothing while they are off.
    std::optional<LevelRule> isothermRule() const;
    // Per part of the case on display: the same number for the same material of the survey.
    std::vector<std::size_t> materialGroups() const;
    // What is drawn of the quantity on display, and the values that are marked by a name in SI; what has none is left
    // out.
    IsolineValues isolines() const;
    std::vector<double> isolineMarks() const;
    // The spacing of the isotherms in the unit on display, chosen or fitted.
    double isothermSpacing() const;
    // How values of the quantity on display, or of any other, are written.
    ShownUnit unit() const;
    ShownUnit unitOf(const Quantity& quantity) const { return shownUnit(quantity.name, quantity.siUnit, view()); }

    // Everything seen as in the viewpoint, camera included.
    void restore(const Viewpoint& viewpoint);

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
    void keepRanges(CaseState& state) const;
    std::array<double, 2> commonRange() const;
    // Answers to work that was begun for a document that is closed by now are dropped.
    template <class Take>
    auto ifOpen(Take take) const {
        return [this, take = std::move(take), number = m_document.number()](auto answer) mutable {
            if (number == m_document.number())
                take(std::move(answer));
        };
    }
    void close();
    void showDocument();
    void followEdit(const Survey& before, bool viewOnly);
    void refresh();
    void load(const CaseEntry& entry);
    // What is known of a case belongs to its entry: two on one file may read it with other materials, powers and
    // splits.
    using CaseKey = std::string;
    CaseKey keyOf(const CaseEntry& entry) const;
    void takeLook(const CaseKey& key, FirstLook look);
    void followStep(const CaseEntry& entry);
    void takeStep(const CaseKey& key, int step, Result<OpenedCase> opened);
    void measure(const CaseKey& key, OpenedCase opened);
    void takeFailure(const CaseKey& key, const Error& error);
    void takeOpened(const CaseKey& key, OpenedCase opened);
    void evaluateCase(const CaseEntry& entry);
    void readHistories();
    void judgeWorst();
    void watchCase();
    void lookForSteps(const std::filesystem::path& path, std::vector<FileStamp> stamps);
    void takeSeries(const CaseKey& key, ReadySeries ready, std::vector<FileStamp> stamps);
    void openStepOf(const CaseEntry& entry, int wanted);
    std::function<Result<OpenedCase>(const CaseEntry&, Progress&)> otherCases() const;
    StepContext contextOf(const CaseState& state) const;
    void drawCase(const CaseEntry& entry);
    void orderCase(const CaseEntry& entry);
    void updateSections();
    void updateLabels();
    void updateExtras();

    Document m_document;
    Selection m_selection{m_document};
    std::map<CaseKey, CaseState> m_cases;
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
