// app: the window that puts rail, sheets, viewport, heat strip and ledger together. Computes nothing.
#pragma once

#include "app/heatstrip/heat_strip.h"
#include "app/ledger/ledger.h"
#include "app/session/journal.h"
#include "app/stages/rail.h"
#include "app/stages/stage_desk.h"
#include "app/stepbar/step_bar.h"
#include "app/viewport/viewport.h"
#include "render/picture_sheet.h"

#include <QComboBox>
#include <QMainWindow>
#include <QPointer>
#include <QProgressBar>

namespace pyro {

class Animation;
class LedgerSplitter;
class StartPage;

class MainWindow : public QMainWindow, private StageDesk {
    Q_OBJECT
public:
    MainWindow();
    ~MainWindow() override;

    Session& session() override { return m_session; }
    Viewport& viewport() override { return *m_viewport; }
    // Of a window that was never shown: as large as it is drawn for, or as the screen has room.
    static QSize firstSize(const QSize& screen);
    // Opens a survey or a case by its ending, of a folder the cases that are chosen; a message shows when it cannot.
    void open(const QString& file);
    // Solves the demo of this name where it is not yet, in a job, and opens it.
    void openDemo(const QString& name);
    // Whether it is the survey that is open, or one of its cases.
    bool hasOpen(const QString& file) const;
    void showOpen(const QString& file); // of those: the case comes on display
    bool isEmpty() const;               // whether there is nothing to show but ways to open something
    void comeToFront();
    void showStage(const QString& stage) override;
    // Shows a bar that offers what an earlier run left unsaved, if it left something.
    void offerUnsaved();
    // True when nothing runs and the active case, if any, is drawn and evaluated.
    bool isSettled();
    QString message() const; // the message shown now, empty for none
    int messagesShown() const { return m_messages; }
    bool isWritingAnimation() const { return !m_animation.isNull(); }

public slots:
    bool save();
    bool saveAs();

protected:
    void closeEvent(QCloseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void build();
    QWidget* buildCaseBar();
    QWidget* buildMessage();
    void placeMessage();
    void step(void (StepBar::*move)());
    QWidget* buildUnsaved();
    void restoreUnsaved();
    void discardUnsaved();
    void findCaseFile();
    void buildStatus();
    QWidget* pictureOrWhyNot();
    bool mayDraw(); // complains where there is no OpenGL
    void buildActions();
    void buildStageActions();
    QAction* action(const QString& id, const QString& text, const QKeySequence& key, const std::function<void()>& run);
    void buildDemoActions();
    void checkSelf();
    void buildScaleActions();
    void checkScaleActions();
    void buildMenus();
    void buildViewMenu();
    void fill(QMenu* menu, const QStringList& actions); // empty: a line
    void fillWith(QMenu* menu, const Stage& stage, StageMenu which);
    void refresh(Changes what);
    void refreshStatus();
    void showMessage(const Error& error);
    void tellOrigin(); // of a survey that another version wrote
    void showReading(const std::optional<Pick>& reading);
    bool mayLeave();
    bool saveTo(const QString& file);
    void chooseSurvey();
    void chooseCase();
    void chooseFolder();
    void openFolder(const QString& folder);
    void showPage(const Stage& stage);
    void keepThumbnail(); // of what is open, for the start page
    QWidget* dialogParent() override { return this; }
    QWidget* sheetOf(const Stage& stage) override { return m_sheetOf.at(&stage); }
    QWidget* ledgerPageOf(const Stage& stage) override { return m_ledger->page(stage); }
    QWidget* pageOf(const Stage& stage) override;
    void run(const QString& action) override;
    void goTo(const QString& part, const Point& place) override;
    void tell(const QString& text) override;
    void advise(const QString& text) override;
    void tellWritten(const Done& written, const QString& file, const QString& size = {}) override;
    QString proposal(const QString& ending) const override;
    void openFinder();
    void showHelp();
    // the viewport as seen, so many times as large, with scale and caption
    QImage picturedView(double scale = 1);
    std::pair<PictureSheet, SheetLook> sheetOfView(double scale);
    void savePicture();
    void saveLargePicture();
    enum class Frames { Steps, Sweep, Particles };
    void writeAnimation(Frames frames);
    int frameCount(Frames frames) const; // 0 where there is nothing to animate
    void showFrame(Frames frames, int at);

    Session m_session;
    Journal m_journal{m_session};
    std::optional<UnsavedWork> m_left; // that the bar offers
    Rail* m_rail;
    QStackedWidget* m_sheets;
    QStackedWidget* m_stage; // viewport with strip and ledger, or the page of a stage, or the start page
    QStackedWidget* m_upper; // m_picture, or the panes of a stage
    std::map<const Stage*, QWidget*> m_sheetOf;
    std::map<const Stage*, QWidget*> m_pageOf;  // of stages that stand in place of the viewport
    std::map<const Stage*, QWidget*> m_panesOf; // of stages that stand in place of the viewport alone
    StartPage* m_start;
    Viewport* m_viewport;
    QWidget* m_picture; // the viewport; where there is no OpenGL, what tells so
    HeatStrip* m_strip;
    Ledger* m_ledger;
    LedgerSplitter* m_split; // viewport with strip above, the ledger below
    QComboBox* m_caseBox;
    StepBar* m_steps;
    QLabel* m_surveyTitle;
    QWidget* m_message;
    bool m_told = false; // by the action that runs
    QLabel* m_messageText;
    QWidget* m_unsaved;
    QLabel* m_unsavedText;
    int m_messages = 0;
    QLabel* m_lamp;
    QLabel* m_verdict;
    QLabel* m_balance;
    QLabel* m_reading;
    QWidget* m_job;
    QLabel* m_jobText;
    QProgressBar* m_jobBar;
    QMenu* m_recent;
    QPointer<Animation> m_animation; // being written
    std::map<QString, QAction*> m_actions;
    QStringList m_demoActions;                       // in the order of their list
    std::map<QString, std::function<void()>> m_runs; // what they do
};

} // namespace pyro
