// The open survey with its cases, readings and pictures. All views listen to `changed` and never to each other.
#pragma once

#include "app/session/case_watch.h"
#include "app/session/extra_keeper.h"
#include "core/evaluate/survey_run.h"
#include "core/report/chart_data.h"
#include "core/survey/shown_unit.h"
#include "core/survey/viewpoints.h"
#include "render/pinned_labels.h"

#include <QFlags>
#include <QUndoStack>
#include <filesystem>

namespace pyro {

enum class Change {
    Survey = 1,     // cases, limits, labels ... anything but the view
    View = 2,       // stage, visibility, range, unit
    Cases = 4,      // a case was loaded or failed
    Readings = 8,   // new readings of the active case
    Picture = 16,   // new surfaces or values to draw
    Selection = 32, // the selected part, section or limit
    Camera = 64,    // the camera was moved from outside the viewport
    Marked = 128    // another place of the chosen gauge is pointed at
};
Q_DECLARE_FLAGS(Changes, Change)
Q_DECLARE_OPERATORS_FOR_FLAGS(Changes)

// What is known of one case file while the window runs.
struct CaseState {
    std::optional<Error> error;
    Series series;
    int step = 0;                     // the one on display
    bool openingStep = false;         // another one is on its way
    std::optional<OpenedCase> opened; // at that step
    QuantityList quantities;
    std::shared_ptr<const Readings> readings;
    std::shared_ptr<const FieldPicture> picture;
    std::shared_ptr<const FieldPicture> preview; // the first one, while the case is being measured
    std::shared_ptr<const CellOrders> orders;    // made when the first section is wanted
    bool ordering = false;
    int evaluation = 0; // counts requests, so that late answers are dropped
    int drawing = 0;
    std::shared_ptr<const std::vector<Readings>> history; // of all steps, for gauges over time
    struct HistoryKey {                                   // what `history` was read for
        std::vector<Gauge> gauges;
        std::map<std::string, Material> materials;
        CaseEntry entry;
        std::vector<Limit> limits; // those that need the fields of each step
        bool operator==(const HistoryKey&) const = default;
    };
    std::optional<HistoryKey> historyKey;                   // of the newest one or of the one being read
    bool historyGrows = false;                              // steps came since it was read
    std::shared_ptr<const std::vector<LimitReading>> worst; // over all steps, once they are read
    std::vector<FileStamp> stamps;                          // of the files as they were read
    bool looking = false;                                   // for new steps
    int waiting = 0;                                        // files that are being written
    // SI, by quantity and part, over the steps that were shown
    std::map<std::string, std::map<std::string, std::array<double, 2>>> seenRanges;
    std::optional<std::pair<Quantity, Component>> drawn; // of the newest picture or of the one being made

    Step shownStep() const { return series.steps.empty() ? Step{} : series.steps[static_cast<std::size_t>(step)].step; }
    std::shared_ptr<const FieldPicture> seen() const { return picture ? picture : preview; }
    bool judgedOverSteps(const Survey& survey) const { return worst && worst->size() == survey.limits.size(); }
    // The worst over all steps once those are read, else of the step on display; empty while there are none.
    std::vector<LimitReading> verdicts(const Survey& survey) const {
        if (error) // what was read before may no longer hold
            return unreadLimits(survey, error->what);
        return judgedOverSteps(survey) ? *worst : readings ? readings->limits : std::vector<LimitReading>();
    }
};

// "Heat flux", "Velocity along x".
QString writtenName(const Quantity& quantity, const std::string& component);

class Session : public QObject {
    Q_OBJECT
public:
    explicit Session(QObject* parent = nullptr);

    const Survey& survey() const { return m_survey; }
    ViewState view() const { return viewOf(m_survey); }
    QString file() const { return m_file; }
    QString displayName() const;
    QUndoStack& undoStack() { return m_undo; }
    JobList& jobs() { return m_jobs; }
    // Whether the survey differs from its file in more than what is looked at: stage, case, step, camera, the part that
    // stands alone.
    bool hasUnsavedChanges() const;

    // Edits. Two edits with the same non-negative merge key, one right after the other, become one undo step.
    void edit(const QString& what, Survey next, int mergeKey = -1);
    void editOrComplain(const QString& what, Result<Survey> next);
    void editView(const QString& what, const ViewState& next, int mergeKey = -1);
    // Where the camera stands and which stage is shown are saved but are no undo steps.
    void setCamera(const CameraState& camera);
    // The same, and the viewport follows.
    void moveCamera(const CameraState& camera);
    void setStage(const QString& stage);
    // The step of the case on display, from 0: saved, but no undo step.
    void setStep(int step);
    // Sets the range of colours to that of the visible parts over all steps, in a job.
    void fitAllSteps();

    void newSurvey();
    // Work that was not saved, as it was left; `file` may be empty.
    void restoreUnsaved(Survey survey, const QString& file);
    Done openSurvey(const QString& file);
    Done saveAs(const QString& file);
    // Reads the case in a job; a file that cannot be read leaves the survey untouched.
    void openCase(const QString& file);
    // The case has moved: from now on it is read from this file.
    void findCase(const std::string& name, const QString& file);

    const CaseEntry* activeEntry() const;
    const CaseState* activeCase() const; // null when there is none
    const CaseState* stateOf(const CaseEntry& entry) const;
    // The picture of the active case, or its first one while it is being measured; null when there is none.
    std::shared_ptr<const FieldPicture> seenPicture() const;
    std::filesystem::path pathOf(const CaseEntry& entry) const;
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

    std::string selectedPart() const { return m_selectedPart; }
    void selectPart(const std::string& part);
    // The boundary that the stage Cases tells of, and the one that its table is pointed at; empty for none.
    std::string selectedBoundary() const { return m_selectedBoundary; }
    void selectBoundary(const std::string& boundary);
    void pointAtBoundary(const std::string& boundary);
    // The part that callout and heat strip tell of: the selected one, else the visible one with the least margin, else
    // the hottest; null while there are no readings.
    const RegionReading* partInFocus() const;
    // The sections of the view with their pictures, and the one that is being edited, if any.
    const std::vector<ShownSection>& sections() const { return m_sections.shown(); }
    std::optional<std::size_t> selectedSection() const;
    void selectSection(std::optional<std::size_t> section);
    // The gauge that table, chart and viewport tell of, by its id; empty for none.
    std::string selectedGauge() const;
    std::optional<std::size_t> selectedGaugeAt() const;
    void selectGauge(const std::string& id);
    // Has the balances and checks of all open cases worked out where they are not there yet.
    void wantBalances();
    // The limit that table and form tell of, by its position in the survey.
    std::optional<std::size_t> selectedLimit() const;
    void selectLimit(std::optional<std::size_t> limit);
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
    // A place on the chosen gauge that chart and viewport both mark, metres; nothing while none is pointed at.
    const std::optional<Point>& markedPlace() const { return m_marked; }
    void markPlace(const std::optional<Point>& place);
    // Pins of hotspots that stand out by less are not drawn while the slider is moved; in the gauge's unit.
    double spotFloor() const { return m_spotFloor; }
    void setSpotFloor(double least);
    // Values of the hotspots of the chosen gauge, or of the first that lists some, when they are of the quantity on
    // display; SI.
    std::vector<double> hotspotLevels() const;
    // Outlines of the cells of the chosen check, metres; as many as can be told apart.
    const std::vector<std::array<Point, 2>>& markedEdges() const { return m_markedEdges; }
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

signals:
    void changed(pyro::Changes what);
    void problem(const pyro::Error& error);

private:
    void keepRanges(CaseState& state) const;
    std::array<double, 2> commonRange() const;
    friend class SurveyCommand;
    void apply(const Survey& survey);
    // as the survey names it: relative, once it has a file
    std::string storedPath(const std::filesystem::path& file) const;
    void replace(Survey survey, const QString& file);
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

    Survey m_survey;
    Survey m_saved; // as it stands in the file
    QString m_file;
    QUndoStack m_undo;
    std::map<CaseKey, CaseState> m_cases;
    std::string m_selectedPart;
    std::string m_selectedBoundary;
    std::string m_pointedBoundary;
    std::optional<std::size_t> m_selectedSection;
    std::string m_selectedGauge;
    std::optional<std::size_t> m_selectedLimit;
    std::optional<Point> m_marked;
    std::vector<std::array<Point, 2>> m_markedEdges;
    double m_spotFloor = 0;
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
    int m_document = 0; // counts documents, so that answers for a closed one are dropped
    ExtraKeeper m_extras{m_jobs, *this, [this] { emit changed(Change::View); }};
    JobList m_jobs; // last: its threads end first
};

} // namespace pyro
