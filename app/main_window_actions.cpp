// The actions of the window, its menus and the finder.
#include "app/main_window.h"

#include "app/ledger/ledger_splitter.h"

#include "app/finder/finder.h"
#include "app/help.h"
#include "app/selfcheck/self_check_dialog.h"
#include "app/session/settings.h"
#include "core/program/demo_list.h"
#include "core/survey/viewpoints.h"
#include "render/text.h"

#include <QApplication>
#include <QClipboard>
#include <QFileInfo>
#include <QMenuBar>
#include <algorithm>
#include <cmath>

namespace pyro {

QAction* MainWindow::action(const QString& id, const QString& text, const QKeySequence& key,
                            const std::function<void()>& run) {
    auto* made = new QAction(text, this);
    made->setObjectName(id);
    made->setShortcut(key);
    connect(made, &QAction::triggered, this, [this, made, run] {
        const auto before = m_messages;
        const int undone = m_session.undoStack().index();
        m_told = false;
        run();
        if (m_told || m_messages != before || made->shortcut().isEmpty())
            return; // it has spoken for itself
        const auto& undo = m_session.undoStack();
        tell(undo.index() != undone ? undo.undoText() : made->text());
    });
    addAction(made);
    m_actions[id] = made;
    m_runs[id] = run;
    return made;
}

void MainWindow::buildActions() {
    action("newSurvey", "New survey", QKeySequence("Ctrl+N"), [this] {
        if (mayLeave())
            m_session.newSurvey();
    });
    action("openSurvey", "Open survey\u2026", QKeySequence("Ctrl+Shift+O"), [this] { chooseSurvey(); });
    action("openCase", "Open case\u2026", QKeySequence("Ctrl+O"), [this] { chooseCase(); });
    action("save", "Save survey", QKeySequence("Ctrl+S"), [this] { save(); });
    action("saveAs", "Save survey as\u2026", QKeySequence("Ctrl+Shift+S"), [this] { saveAs(); });
    action("quit", "Quit", QKeySequence("Ctrl+Q"), [this] { close(); });
    for (auto* made :
         {m_session.undoStack().createUndoAction(this, "Undo"), m_session.undoStack().createRedoAction(this, "Redo")}) {
        const bool undo = made->text().startsWith("Undo");
        made->setObjectName(undo ? "undo" : "redo");
        made->setShortcut(QKeySequence(undo ? "Ctrl+Z" : "Ctrl+Shift+Z"));
        addAction(made);
        m_actions[made->objectName()] = made;
        connect(made, &QAction::triggered, this, [this, undo] {
            const auto& stack = m_session.undoStack();
            tell(undo ? "Undone: " + stack.redoText() : "Done again: " + stack.undoText());
        });
    }
    action("openFolder", "Open folder\u2026", {}, [this] { chooseFolder(); });
    action("foldLedger", "Fold or unfold the tables", QKeySequence("Ctrl+L"), [this] { m_split->toggleFold(); });
    action("floatLedger", "Tables in a window of their own, or back", QKeySequence("Ctrl+Shift+L"),
           [this] { m_split->toggleFloat(); });
    action("lowStrip", "Low or full heat strip", {}, [this] { m_strip->setLow(!m_strip->isLow()); });
    action("fit", "Fit what is visible into view", QKeySequence("F"), [this] { m_viewport->fit(); });
    for (int axis = 0; axis < 3; ++axis) {
        const auto name = QString("XYZ").mid(axis, 1);
        action("look" + name, "Look along " + name, QKeySequence(name),
               [this, axis] { m_viewport->lookAlong(axis, false); });
        action("lookBack" + name, "Look along " + name + " from the other side", QKeySequence("Shift+" + name),
               [this, axis] { m_viewport->lookAlong(axis, true); });
    }
    action("saveLargePicture", "Save picture at another size\u2026", {}, [this] { saveLargePicture(); });
    for (const auto& [id, title, frames] :
         {std::tuple("filmSteps", "Export an animation of the steps\u2026", Frames::Steps),
          std::tuple("filmSweep", "Export an animation of the section\u2026", Frames::Sweep),
          std::tuple("filmParticles", "Export an animation of the particles\u2026", Frames::Particles)})
        action(id, title, {}, [this, frames = frames] { writeAnimation(frames); });
    action("savePicture", "Save picture\u2026", QKeySequence("Ctrl+Shift+P"), [this] { savePicture(); });
    action("copyPicture", "Copy picture", QKeySequence("Ctrl+Shift+C"), [this] {
        if (mayDraw())
            QApplication::clipboard()->setImage(picturedView());
    });
    action("stepBack", "Previous step", QKeySequence(","), [this] { step(&StepBar::back); });
    action("stepOn", "Next step", QKeySequence("."), [this] { step(&StepBar::on); });
    action("play", "Play or pause the steps", QKeySequence("Space"), [this] { step(&StepBar::togglePlaying); });
    action("firstStep", "Go to the first step", QKeySequence("Home"), [this] { step(&StepBar::first); });
    action("lastStep", "Go to the last step", QKeySequence("End"), [this] { step(&StepBar::last); });
    action("fitAllSteps", "Fit colours to all steps", {}, [this] { m_session.fitAllSteps(); });
    buildScaleActions();
    action("fitVisibleRange", "Fit colours to what is visible", {}, [this] { m_strip->fitVisible(); });
    action("fitPartRange", "Fit colours to the selected part", {}, [this] { m_strip->fitPart(); });
    action("fitHottestTenth", "Fit colours to the hottest tenth", {}, [this] { m_strip->fitHottestTenth(); });
    for (const auto unit : {TemperatureUnit::Celsius, TemperatureUnit::Kelvin, TemperatureUnit::Fahrenheit})
        action("unit" + q(std::string(udunitsName(unit))), "Temperatures in " + q(std::string(unitSymbol(unit))), {},
               [this, unit] {
                   auto view = m_session.view();
                   view.unit = unit;
                   settings::setTemperatureUnit(unit);
                   m_session.editView("Temperature unit", view);
               });
    action("cancelJobs", "Cancel what is begun or running", QKeySequence("Esc"), [this] {
        if (m_viewport->placer().isActive())
            m_viewport->placer().cancel();
        else
            m_session.jobs().cancelAll();
    });
    action("finder", "Find an action or a part", QKeySequence("Ctrl+K"), [this] { openFinder(); });
    action("help", "Help on this stage", QKeySequence("F1"), [this] { showHelp(); });
    action("selfCheck", "Version and self-check\u2026", {}, [this] { checkSelf(); });
    buildDemoActions();
    buildStageActions();
}

void MainWindow::checkSelf() {
    (new SelfCheckDialog(m_session.jobs(), this))->show();
    m_told = true; // by the dialog
}

void MainWindow::buildDemoActions() {
    const auto demos = shippedDemos();
    if (!demos)
        return; // the self-check tells
    for (const auto& demo : *demos) {
        const auto name = q(demo.name);
        m_demoActions.append("demo-" + name);
        action(m_demoActions.back(), "Open demo: " + q(demo.title).toLower(), {}, [this, name] {
            openDemo(name);
            m_told = true; // by its progress
        })->setToolTip(q(demo.about));
    }
}

void MainWindow::buildStageActions() {
    for (const auto* stage : stages()) {
        action(QString("stage") + stage->id, QString("Go to ") + stage->id, QKeySequence(QString::number(stage->key)),
               [this, stage] { showStage(stage->id); });
        for (const auto& one : actionsOf(*stage))
            action(one.id, one.text, QKeySequence(one.keys), [this, &one] {
                one.run(*this);
            })->setCheckable(one.isOn != nullptr);
    }
}

void MainWindow::step(void (StepBar::*move)()) {
    const auto* state = m_session.activeCase();
    if (state == nullptr || state->series.steps.size() < 2)
        return tell("This case has one step");
    (m_steps->*move)();
    m_told = true; // the bar shows it
}

void MainWindow::buildScaleActions() {
    const auto change = [this](const QString& what, const std::function<void(StripView&)>& edit) {
        auto view = m_session.view();
        edit(view.field.strip);
        m_session.editView(what, view);
    };
    for (const auto palette : {PaletteName::Ember, PaletteName::Ash, PaletteName::Tide})
        action("palette" + q(std::string(paletteText(palette))), "Palette " + q(std::string(paletteText(palette))), {},
               [change, palette] { change("Palette", [palette](StripView& strip) { strip.palette = palette; }); });
    for (const int bands : {0, 6, 10, 16, 24})
        action(QString("bands%1").arg(bands),
               bands == 0 ? QString("Colours without bands") : QString("Colours in %1 bands").arg(bands), {},
               [change, bands] { change("Bands", [bands](StripView& strip) { strip.bands = bands; }); });
    action("reversePalette", "Reverse the palette", {},
           [change] { change("Reverse palette", [](StripView& strip) { strip.reversed = !strip.reversed; }); });
    action("tintOutside", "Tint what lies outside the range", QKeySequence("T"),
           [change] { change("Tint", [](StripView& strip) { strip.tint = !strip.tint; }); });
    action("logarithmicScale", "Logarithmic colours", {}, [this, change] {
        change("Logarithmic colours", [](StripView& strip) { strip.logarithmic = !strip.logarithmic; });
        if (m_session.view().field.strip.logarithmic && !isLogarithmic(m_session.seen()))
            m_session.complain({ErrorCode::NotSupported,
                                "the colours stay linear: a logarithm needs a range above zero and no temperature",
                                "heat strip", "Choose another quantity, or drag the lower end above zero"});
    });
    action("lockRange", "Lock the colour range as it is", {}, [this] {
        auto view = m_session.view();
        view.range = shownRange(m_session.seen());
        m_session.editView("Lock range", view);
    });
    auto* menu = new QMenu(this);
    for (const auto* id : {"paletteember", "paletteash", "palettetide", "", "bands0", "bands6", "bands10", "bands16",
                           "bands24", "", "reversePalette", "logarithmicScale", "tintOutside", "lockRange"})
        if (*id == 0)
            menu->addSeparator();
        else
            menu->addAction(m_actions.at(id));
    for (auto* one : menu->actions())
        one->setCheckable(one->objectName() != "lockRange");
    m_strip->setScaleMenu(menu);
}

void MainWindow::checkScaleActions() {
    const auto strip = m_session.view().field.strip;
    for (const auto palette : {PaletteName::Ember, PaletteName::Ash, PaletteName::Tide})
        m_actions.at("palette" + q(std::string(paletteText(palette))))->setChecked(strip.palette == palette);
    for (const int bands : {0, 6, 10, 16, 24})
        m_actions.at(QString("bands%1").arg(bands))->setChecked(strip.bands == bands);
    m_actions.at("reversePalette")->setChecked(strip.reversed);
    m_actions.at("logarithmicScale")->setChecked(strip.logarithmic);
    m_actions.at("tintOutside")->setChecked(strip.tint);
}

void MainWindow::fill(QMenu* menu, const QStringList& ids) {
    for (const auto& id : ids)
        if (id.isEmpty())
            menu->addSeparator();
        else
            menu->addAction(m_actions.at(id));
}

void MainWindow::fillWith(QMenu* menu, const Stage& stage, StageMenu which) {
    for (const auto& one : actionsOf(stage))
        if (one.menu == which) {
            if (one.newGroup)
                menu->addSeparator();
            menu->addAction(m_actions.at(one.id));
        }
}

// One menu within for each of the stages, so that it stays as short as the screen.
void MainWindow::buildViewMenu() {
    auto* view = menuBar()->addMenu("View");
    fill(view, {"fit"});
    fill(view->addMenu("Look along"), {"lookX", "lookY", "lookZ", "lookBackX", "lookBackY", "lookBackZ"});
    view->addSeparator();
    for (const auto* stage : stages()) {
        auto* own = new QMenu(stage->id, view);
        fillWith(own, *stage, StageMenu::View);
        if (!own->isEmpty())
            view->addMenu(own);
    }
    view->addSeparator();
    fill(view->addMenu("Colours"), {"fitVisibleRange", "fitPartRange", "fitHottestTenth", "fitAllSteps"});
    fill(view->addMenu("Temperatures"), {"unitdegC", "unitK", "unitdegF"});
    fill(view->addMenu("Pictures"),
         {"savePicture", "saveLargePicture", "copyPicture", "", "filmSteps", "filmSweep", "filmParticles"});
    fill(view, {"", "foldLedger", "floatLedger", "lowStrip", ""});
    for (const auto* stage : stages())
        view->addAction(m_actions.at(QString("stage") + stage->id));
}

void MainWindow::buildMenus() {
    auto* survey = menuBar()->addMenu("Survey");
    fill(survey, {"newSurvey", "openSurvey"});
    m_recent = survey->addMenu("Recent surveys");
    m_recent->setObjectName("recentMenu");
    fill(survey, {"openCase"});
    auto* demos = survey->addMenu("Demos");
    demos->setObjectName("demoMenu");
    demos->setToolTipsVisible(true);
    fill(demos, m_demoActions);
    fill(survey, {"", "save", "saveAs", ""});
    for (const auto* stage : stages())
        fillWith(survey, *stage, StageMenu::Survey);
    fill(survey, {"", "quit"});
    connect(m_recent, &QMenu::aboutToShow, this, [this] {
        m_recent->clear();
        for (const auto& file : settings::recentSurveys())
            m_recent->addAction(file, this, [this, file] { open(file); });
        m_recent->setEnabled(true);
    });
    auto* edit = menuBar()->addMenu("Edit");
    fill(edit, {"undo", "redo", ""});
    for (const auto* stage : stages())
        fillWith(edit, *stage, StageMenu::Edit);
    buildViewMenu();
    fill(menuBar()->addMenu("Help"), {"finder", "help", "", "selfCheck"});
    auto* field = new QPushButton("Find an action or a part      Ctrl+K");
    field->setObjectName("finderField");
    connect(field, &QPushButton::clicked, this, &MainWindow::openFinder);
    menuBar()->setCornerWidget(field);
}

namespace {

const Stage& placeOfParts() {
    return **std::ranges::find_if(stages(), [](const Stage* one) { return one->showsParts; });
}

} // namespace

void MainWindow::openFinder() {
    std::vector<FinderEntry> entries;
    for (const auto& [id, one] : m_actions)
        if (one->isEnabled() && id != "finder") {
            auto* chosen = one;
            entries.push_back(
                {chosen->text().remove('&'), chosen->shortcut().toString(), [chosen] { chosen->trigger(); }});
        }
    const auto* state = m_session.activeCase();
    if (state != nullptr && state->opened)
        for (const auto& part : state->opened->solved->parts)
            entries.push_back(
                {q(shownName(*m_session.activeEntry(), part.name)), "part: select it", [this, name = part.name] {
                     showStage(placeOfParts().id);
                     m_session.selection().selectPart(name);
                 }});
    for (const auto& viewpoint : m_session.survey().viewpoints)
        entries.push_back(
            {q(viewpoint.name), "viewpoint: see it", [this, viewpoint] { m_session.restore(viewpoint); }});
    for (const auto& file : settings::recentSurveys())
        entries.push_back({QFileInfo(file).fileName(), "recent survey", [this, file] { open(file); }});
    auto* finder = new Finder(std::move(entries), this);
    finder->move(mapToGlobal(QPoint((width() - finder->width()) / 2, 60)));
    finder->show();
}

void MainWindow::showHelp() { helpOn(stageOf(m_session), this); }

} // namespace pyro
