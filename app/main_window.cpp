#include "app/main_window.h"

#include "app/finder/finder.h"
#include "app/help.h"
#include "app/session/dialogs.h"
#include "app/session/settings.h"
#include "app/stages/field_sheet.h"
#include "app/stages/sheets.h"
#include "app/theme/theme.h"
#include "core/report/csv.h"
#include "core/survey/edit.h"
#include "core/survey/survey_file.h"
#include "core/survey/viewpoints.h"
#include "render/report_page.h"
#include "render/scaled_picture.h"

#include <QApplication>
#include <QBuffer>
#include <QClipboard>
#include <QCloseEvent>
#include <QDate>
#include <QFile>
#include <QFileInfo>
#include <QMenuBar>
#include <QMimeData>
#include <QSplitter>
#include <QStatusBar>
#include <fmt/format.h>

namespace pyro {
namespace {

QString q(const std::string& text) { return QString::fromStdString(text); }
const char* const surveyFilter = "Surveys (*.survey.json)";
const char* const caseFilter = "Cases (*.vtu *.vtp *.vtm)";

} // namespace

MainWindow::MainWindow() {
    setObjectName("mainWindow");
    setAcceptDrops(true);
    build();
    buildActions();
    buildMenus();
    buildStatus();
    connect(&m_session, &Session::changed, this, &MainWindow::refresh);
    connect(&m_session, &Session::problem, this, &MainWindow::showMessage);
    connect(&m_session.jobs(), &JobList::changed, this, &MainWindow::refreshStatus);
    connect(&m_session.undoStack(), &QUndoStack::cleanChanged, this, [this] { refresh(Change::Survey); });
    connect(m_viewport, &Viewport::hovered, this, &MainWindow::showReading);
    connect(m_rail, &Rail::stageChosen, this, &MainWindow::showStage);
    connect(m_ledger, &Ledger::placeChosen, this, &MainWindow::choosePlace);
    if (!restoreGeometry(settings::windowGeometry()))
        resize(1280, 800);
    refresh(~Changes());
}

// The views go before the session they listen to.
MainWindow::~MainWindow() {
    m_session.disconnect(this);
    m_session.jobs().disconnect(this);
    m_session.undoStack().disconnect(this);
    delete takeCentralWidget();
}

void MainWindow::build() {
    m_rail = new Rail(m_session);
    m_sheets = new QStackedWidget;
    auto* cases = new CasesSheet(m_session, m_sheets);
    auto* limits = new LimitsSheet(m_session, m_sheets);
    auto* report = new ReportSheet(m_session, m_sheets);
    m_sheets->addWidget(cases);
    auto* field = new FieldSheet(m_session, m_sheets);
    m_sheets->addWidget(field);
    m_sheets->addWidget(limits);
    m_sheets->addWidget(report);
    m_sheets->setFixedWidth(300);
    connect(cases, &CasesSheet::openRequested, this, &MainWindow::chooseCase);
    connect(field, &FieldSheet::viewpointRequested, this, &MainWindow::keepViewpoint);
    connect(field, &FieldSheet::sectionRequested, this, &MainWindow::addSection);
    connect(limits, &LimitsSheet::importRequested, this, &MainWindow::importLimits);
    connect(limits, &LimitsSheet::exportRequested, this, &MainWindow::writeCsv);
    connect(limits, &LimitsSheet::removeRequested, this, &MainWindow::removeLimit);
    connect(report, &ReportSheet::pdfRequested, this, &MainWindow::writePdf);
    connect(report, &ReportSheet::csvRequested, this, &MainWindow::writeCsv);

    m_viewport = new Viewport(m_session);
    m_strip = new HeatStrip(m_session);
    m_ledger = new Ledger(m_session);
    auto* upper = new QWidget;
    auto* upperLayout = new QVBoxLayout(upper);
    upperLayout->setContentsMargins(0, 0, 0, 0);
    upperLayout->setSpacing(0);
    upperLayout->addWidget(m_viewport, 1);
    upperLayout->addWidget(m_strip);
    auto* splitter = new QSplitter(Qt::Vertical);
    splitter->addWidget(upper);
    splitter->addWidget(m_ledger);
    splitter->setChildrenCollapsible(false);
    splitter->setHandleWidth(1);
    splitter->setSizes({470, 238});
    m_page = new QLabel;
    m_page->setObjectName("reportPage");
    m_page->setAlignment(Qt::AlignCenter);
    m_page->setStyleSheet("background:#CFC8BB");
    m_stage = new QStackedWidget;
    m_stage->addWidget(splitter);
    m_stage->addWidget(m_page);

    auto* body = new QHBoxLayout;
    body->setSpacing(0);
    body->addWidget(m_sheets);
    body->addWidget(m_stage, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(0);
    right->addWidget(buildCaseBar());
    right->addWidget(buildMessage());
    right->addLayout(body, 1);
    auto* whole = new QHBoxLayout;
    whole->setContentsMargins(0, 0, 0, 0);
    whole->setSpacing(0);
    whole->addWidget(m_rail);
    whole->addLayout(right, 1);
    auto* centre = new QWidget;
    centre->setLayout(whole);
    setCentralWidget(centre);
}

QWidget* MainWindow::buildCaseBar() {
    auto* bar = new QWidget;
    bar->setObjectName("caseBar");
    bar->setAttribute(Qt::WA_StyledBackground);
    bar->setFixedHeight(44);
    m_caseBox = new QComboBox;
    m_caseBox->setObjectName("caseBox");
    m_caseBox->setMinimumWidth(180);
    m_surveyTitle = new QLabel;
    m_surveyTitle->setObjectName("ledgerTitle");
    m_stepLabel = new QLabel;
    m_stepLabel->setObjectName("hint");
    auto* layout = new QHBoxLayout(bar);
    layout->setContentsMargins(16, 0, 16, 0);
    layout->setSpacing(16);
    layout->addWidget(m_caseBox);
    layout->addWidget(m_stepLabel);
    layout->addStretch();
    layout->addWidget(m_surveyTitle);
    connect(m_caseBox, &QComboBox::activated, this, [this](int at) {
        auto view = m_session.view();
        view.caseName = m_caseBox->itemText(at).toStdString();
        m_session.editView("Choose case", view);
    });
    return bar;
}

QWidget* MainWindow::buildMessage() {
    m_message = new QWidget;
    m_message->setObjectName("message");
    m_message->setAttribute(Qt::WA_StyledBackground);
    m_messageText = new QLabel;
    m_messageText->setObjectName("messageText");
    m_messageText->setWordWrap(true);
    m_messageText->setTextInteractionFlags(Qt::TextSelectableByMouse);
    auto* close = new QPushButton("dismiss");
    close->setObjectName("link");
    close->setAccessibleName("dismissMessage");
    auto* layout = new QHBoxLayout(m_message);
    layout->setContentsMargins(16, 8, 12, 8);
    layout->addWidget(m_messageText, 1);
    layout->addWidget(close);
    connect(close, &QPushButton::clicked, m_message, &QWidget::hide);
    m_message->hide();
    return m_message;
}

void MainWindow::buildStatus() {
    m_lamp = new QLabel;
    m_verdict = new QLabel;
    m_verdict->setObjectName("verdictSummary");
    m_balance = new QLabel;
    m_balance->setObjectName("balanceText");
    m_reading = new QLabel;
    m_reading->setObjectName("cursorReading");
    m_job = new QWidget;
    m_jobText = new QLabel;
    m_jobBar = new QProgressBar;
    m_jobBar->setTextVisible(false);
    m_jobBar->setRange(0, 1000);
    m_jobBar->setFixedSize(120, 6);
    auto* cancel = new QPushButton("cancel");
    cancel->setObjectName("link");
    cancel->setAccessibleName("cancelJobs");
    auto* layout = new QHBoxLayout(m_job);
    layout->setContentsMargins(16, 0, 0, 0);
    layout->addWidget(m_jobText);
    layout->addWidget(m_jobBar);
    layout->addWidget(cancel);
    connect(cancel, &QPushButton::clicked, &m_session.jobs(), &JobList::cancelAll);
    auto* status = statusBar();
    status->setSizeGripEnabled(false);
    status->setFixedHeight(26);
    status->setContentsMargins(12, 0, 12, 0);
    status->addWidget(m_lamp);
    status->addWidget(m_verdict);
    status->addWidget(m_balance);
    status->addWidget(m_job);
    status->addPermanentWidget(m_reading);
}

QAction* MainWindow::action(const QString& id, const QString& text, const QKeySequence& key,
                            const std::function<void()>& run) {
    auto* made = new QAction(text, this);
    made->setObjectName(id);
    made->setShortcut(key);
    connect(made, &QAction::triggered, this, run);
    addAction(made);
    m_actions[id] = made;
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
    for (auto* made : {m_session.undoStack().createUndoAction(this, "Undo"), m_session.undoStack().createRedoAction(this, "Redo")}) {
        const bool undo = made->text().startsWith("Undo");
        made->setObjectName(undo ? "undo" : "redo");
        made->setShortcut(QKeySequence(undo ? "Ctrl+Z" : "Ctrl+Shift+Z"));
        addAction(made);
        m_actions[made->objectName()] = made;
    }
    action("importLimits", "Import limits from CSV\u2026", {}, [this] { importLimits(); });
    action("exportLimits", "Export verdicts to CSV\u2026", {}, [this] { writeCsv(); });
    action("writePdf", "Write report as PDF\u2026", QKeySequence("Ctrl+P"), [this] {
        showStage("Report");
        writePdf();
    });
    for (const auto& stage : Rail::stages())
        action("stage" + stage, "Go to " + stage, QKeySequence(QString::number(Rail::keyOf(stage))), [this, stage] { showStage(stage); });
    action("fit", "Fit what is visible into view", QKeySequence("F"), [this] { m_viewport->fit(); });
    for (int axis = 0; axis < 3; ++axis) {
        const auto name = QString("XYZ").mid(axis, 1);
        action("look" + name, "Look along " + name, QKeySequence(name), [this, axis] { m_viewport->lookAlong(axis, false); });
        action("lookBack" + name, "Look along " + name + " from the other side", QKeySequence("Shift+" + name),
               [this, axis] { m_viewport->lookAlong(axis, true); });
    }
    action("hidePart", "Hide the part under the cursor", QKeySequence("H"), [this] { hideAtCursor(); });
    action("isolatePart", "See the part under the cursor alone", QKeySequence("S"), [this] { isolateAtCursor(); });
    action("showAllParts", "Show all parts", QKeySequence("A"), [this] { showAll(); });
    action("heatPaths", "Show or hide heat paths", QKeySequence("W"), [this] {
        auto view = m_session.view();
        view.field.paths.shown = !view.field.paths.shown;
        m_session.editView(view.field.paths.shown ? "Show heat paths" : "Hide heat paths", view);
    });
    action("savePicture", "Save picture\u2026", QKeySequence("Ctrl+Shift+P"), [this] { savePicture(); });
    action("copyPicture", "Copy picture", QKeySequence("Ctrl+Shift+C"), [this] { QApplication::clipboard()->setImage(picturedView()); });
    action("keepViewpoint", "Keep this view as a viewpoint", QKeySequence("V"), [this] { keepViewpoint({}); });
    action("addSection", "Add a section through the hottest visible place", QKeySequence("C"), [this] { addSection(); });
    action("sectionThroughHottest", "Move the section through the hottest visible place", {}, [this] { throughHottest(); });
    action("sectionForward", "Move the section forward", QKeySequence("Ctrl+Up"), [this] { nudgeSection(1); });
    action("sectionBack", "Move the section back", QKeySequence("Ctrl+Down"), [this] { nudgeSection(-1); });
    action("isotherms", "Show or hide isotherms", QKeySequence("I"), [this] {
        auto view = m_session.view();
        view.field.isotherms.shown = !view.field.isotherms.shown;
        m_session.editView(view.field.isotherms.shown ? "Show isotherms" : "Hide isotherms", view);
    });
    buildScaleActions();
    action("fitVisibleRange", "Fit colours to what is visible", {}, [this] { m_strip->fitVisible(); });
    action("fitPartRange", "Fit colours to the selected part", {}, [this] { m_strip->fitPart(); });
    action("fitHottestTenth", "Fit colours to the hottest tenth", {}, [this] { m_strip->fitHottestTenth(); });
    for (const auto unit : {TemperatureUnit::Celsius, TemperatureUnit::Kelvin, TemperatureUnit::Fahrenheit})
        action("unit" + q(std::string(udunitsName(unit))), "Temperatures in " + q(std::string(unitSymbol(unit))), {}, [this, unit] {
            auto view = m_session.view();
            view.unit = unit;
            m_session.editView("Temperature unit", view);
        });
    action("cancelJobs", "Cancel running work", QKeySequence("Esc"), [this] { m_session.jobs().cancelAll(); });
    action("finder", "Find an action or a part", QKeySequence("Ctrl+K"), [this] { openFinder(); });
    action("help", "Help on this stage", QKeySequence("F1"), [this] { showHelp(); });
}

void MainWindow::buildScaleActions() {
    const auto change = [this](const QString& what, const std::function<void(StripView&)>& edit) {
        auto view = m_session.view();
        edit(view.field.strip);
        m_session.editView(what, view);
    };
    for (const auto palette : {PaletteName::Ember, PaletteName::Ash, PaletteName::Tide})
        action("palette" + q(std::string(paletteText(palette))), "Palette " + q(std::string(paletteText(palette))), {}, [change, palette] {
            change("Palette", [palette](StripView& strip) { strip.palette = palette; });
        });
    for (const int bands : {0, 6, 10, 16, 24})
        action(QString("bands%1").arg(bands), bands == 0 ? QString("Colours without bands") : QString("Colours in %1 bands").arg(bands), {}, [change, bands] {
            change("Bands", [bands](StripView& strip) { strip.bands = bands; });
        });
    action("reversePalette", "Reverse the palette", {}, [change] { change("Reverse palette", [](StripView& strip) { strip.reversed = !strip.reversed; }); });
    action("tintOutside", "Tint what lies outside the range", QKeySequence("T"), [change] { change("Tint", [](StripView& strip) { strip.tint = !strip.tint; }); });
    action("logarithmicScale", "Logarithmic colours", {}, [this, change] {
        change("Logarithmic colours", [](StripView& strip) { strip.logarithmic = !strip.logarithmic; });
        if (m_session.view().field.strip.logarithmic && !m_session.isLogarithmic())
            m_session.complain({ErrorCode::NotSupported, "the colours stay linear: a logarithm needs a range above zero and no temperature",
                                "heat strip", "Choose another quantity, or drag the lower end above zero"});
    });
    action("lockRange", "Lock the colour range as it is", {}, [this] {
        auto view = m_session.view();
        view.range = m_session.shownRange();
        m_session.editView("Lock range", view);
    });
    auto* menu = new QMenu(this);
    for (const auto* id : {"paletteember", "paletteash", "palettetide", "", "bands0", "bands6", "bands10", "bands16", "bands24", "",
                           "reversePalette", "logarithmicScale", "tintOutside", "lockRange"})
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

void MainWindow::buildMenus() {
    const auto fill = [this](QMenu* menu, const QStringList& ids) {
        for (const auto& id : ids)
            if (id.isEmpty())
                menu->addSeparator();
            else
                menu->addAction(m_actions.at(id));
    };
    auto* survey = menuBar()->addMenu("Survey");
    fill(survey, {"newSurvey", "openSurvey"});
    m_recent = survey->addMenu("Recent surveys");
    m_recent->setObjectName("recentMenu");
    fill(survey, {"openCase", "", "save", "saveAs", "", "importLimits", "exportLimits", "writePdf", "", "quit"});
    connect(m_recent, &QMenu::aboutToShow, this, [this] {
        m_recent->clear();
        for (const auto& file : settings::recentSurveys())
            m_recent->addAction(file, this, [this, file] { open(file); });
        m_recent->setEnabled(true);
    });
    fill(menuBar()->addMenu("Edit"), {"undo", "redo"});
    fill(menuBar()->addMenu("View"), {"fit", "lookX", "lookY", "lookZ", "lookBackX", "lookBackY", "lookBackZ", "", "hidePart",
                                      "isolatePart", "showAllParts", "", "addSection", "sectionThroughHottest", "sectionForward", "sectionBack", "isotherms", "heatPaths", "", "keepViewpoint", "savePicture", "copyPicture", "", "fitVisibleRange", "fitPartRange", "fitHottestTenth", "",
                                      "unitdegC", "unitK", "unitdegF", "", "stageCases", "stageField", "stageLimits", "stageReport"});
    fill(menuBar()->addMenu("Help"), {"finder", "help"});
    auto* field = new QPushButton("Find an action or a part      Ctrl+K");
    field->setObjectName("finderField");
    connect(field, &QPushButton::clicked, this, &MainWindow::openFinder);
    menuBar()->setCornerWidget(field);
}

void MainWindow::showStage(const QString& stage) {
    const auto at = Rail::stages().indexOf(stage);
    if (at < 0)
        return;
    if (stage == "Report" && m_stage->currentIndex() == 0)
        m_picture = picturedView(); // as seen on leaving
    m_sheets->setCurrentIndex(static_cast<int>(at));
    m_ledger->showStage(stage);
    m_stage->setCurrentIndex(stage == "Report" ? 1 : 0);
    m_session.setStage(stage);
    refreshPage();
}

void MainWindow::refresh(Changes what) {
    checkScaleActions();
    setWindowTitle(m_session.displayName() + (m_session.hasUnsavedChanges() ? " (changed)" : "") + " - Pyrometer");
    m_surveyTitle->setText(m_session.displayName() + (m_session.hasUnsavedChanges() ? "  \u2022" : ""));
    m_surveyTitle->setToolTip(m_session.hasUnsavedChanges() ? "There are changes that are not saved" : m_session.file());
    const auto stage = q(m_session.view().stage);
    if (what & Change::View && m_sheets->currentIndex() != Rail::stages().indexOf(stage))
        showStage(stage);
    m_caseBox->clear();
    for (const auto& entry : m_session.survey().cases)
        m_caseBox->addItem(q(entry.name));
    if (const auto* entry = m_session.activeEntry())
        m_caseBox->setCurrentText(q(entry->name));
    m_caseBox->setEnabled(m_caseBox->count() > 0);
    const auto* state = m_session.activeCase();
    m_stepLabel->setText(state == nullptr || !state->opened ? QString()
                         : state->opened->solved->steps.back().time ? q(fmt::format("t = {:g} s", *state->opened->solved->steps.back().time))
                                                                    : QString("steady"));
    refreshStatus();
    refreshPage();
}

void MainWindow::refreshStatus() {
    const auto* state = m_session.activeCase();
    m_job->setVisible(m_session.jobs().running() > 0);
    m_jobText->setText(m_session.jobs().title().left(70));
    m_jobBar->setValue(static_cast<int>(1000 * m_session.jobs().share()));
    if (state == nullptr || !state->readings) {
        m_lamp->clear();
        m_verdict->clear();
        m_balance->clear();
        return;
    }
    std::map<Verdict, int> count;
    for (const auto& limit : state->readings->limits)
        ++count[limit.verdict];
    QStringList words;
    for (const auto verdict : {Verdict::Over, Verdict::Unknown, Verdict::Tight, Verdict::Within})
        if (count[verdict] > 0)
            words.append(QString("%1 %2").arg(count[verdict]).arg(q(std::string(verdictName(verdict)))));
    m_lamp->setPixmap(theme::verdictPixmap(state->readings->verdict()));
    m_verdict->setText(words.isEmpty() ? "nothing judged: no limits" : words.join(", "));
    if (const auto& balance = state->readings->balance) {
        const double share = balance->produced != 0 ? std::abs(balance->remainder() / balance->produced) : std::abs(balance->remainder());
        m_balance->setText("     " + q(fmt::format("balance closes to {} of {}", share < 1e-4 ? fmt::format("{:.0e}", share) : formatShare(share), formatSi(balance->produced, "W"))));
    } else {
        m_balance->setText("     balance unknown: needs powers and fluxes on all boundaries");
    }
}

ReportContent MainWindow::reportContent() {
    const auto* state = m_session.activeCase();
    const auto& report = m_session.survey().report;
    const auto text = [&](const char* key) {
        const auto found = report.find(key);
        return found != report.end() && found->is_string() ? found->get<std::string>() : std::string();
    };
    ReportContent content;
    content.title = m_session.displayName().toStdString();
    content.preparedBy = text("prepared_by");
    content.note = text("note");
    content.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    content.entry = m_session.activeEntry();
    content.solved = state->opened->solved.get();
    content.readings = state->readings.get();
    content.unit = m_session.view().unit;
    content.picture = m_picture;
    if (const auto range = m_session.shownRange(); range && state->picture) {
        const auto& quantity = state->picture->quantity;
        const auto end = [&](double si) {
            return quantity.name == "temperature" ? formatTemperature({si}, content.unit) : formatSi(si, quantity.siUnit);
        };
        content.pictureCaption = fmt::format("{}, colours from {} to {}", quantity.name, end((*range)[0]), end((*range)[1]));
    }
    return content;
}

void MainWindow::refreshPage() {
    if (m_stage->currentIndex() != 1)
        return;
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->readings) {
        m_page->setText("Open a case to see its report.");
        return;
    }
    const double ratio = devicePixelRatioF();
    const double dpi = std::max(40.0, (m_stage->height() - 24) / 297.0 * 25.4);
    auto page = reportPreview(reportContent(), dpi * ratio);
    page.setDevicePixelRatio(ratio);
    m_page->setPixmap(QPixmap::fromImage(page));
}

void MainWindow::showMessage(const Error& error) {
    ++m_messages;
    m_messageText->setText(q(error.text()));
    m_message->show();
}

QString MainWindow::message() const { return m_message->isHidden() ? QString() : m_messageText->text(); }

void MainWindow::showReading(const std::optional<Pick>& reading) {
    const auto* state = m_session.activeCase();
    if (!reading || state == nullptr || !state->picture) {
        m_reading->clear();
        return;
    }
    const auto& quantity = state->picture->quantity;
    const auto value = !reading->value ? std::string("no value")
                       : quantity.name == "temperature" ? formatTemperature({*reading->value}, m_session.view().unit)
                                                        : formatSi(*reading->value, quantity.siUnit);
    m_reading->setText(q(fmt::format("{}   x {:.1f}  y {:.1f}  z {:.1f} mm   <b>{}</b>   {}",
                                     shownName(*m_session.activeEntry(), state->opened->solved->parts[reading->part].name),
                                     1e3 * reading->at[0], 1e3 * reading->at[1], 1e3 * reading->at[2], value,
                                     reading->on == Location::Node ? "between nodes" : "of the cell")));
}

bool MainWindow::isSettled() {
    if (m_session.jobs().running() > 0)
        return false;
    const auto* state = m_session.activeCase();
    return state == nullptr || state->error || (state->picture && state->readings) || (state->opened && !state->drawn && state->readings);
}

bool MainWindow::mayLeave() {
    if (!m_session.hasUnsavedChanges())
        return true;
    switch (dialogs::askToSave(this, m_session.displayName())) {
    case dialogs::Answer::Save:
        return save();
    case dialogs::Answer::Discard:
        return true;
    case dialogs::Answer::Cancel:
        return false;
    }
    return false;
}

void MainWindow::open(const QString& file) {
    if (!file.endsWith(".json")) {
        m_session.openCase(file);
        return;
    }
    if (!mayLeave())
        return;
    m_message->hide();
    if (auto opened = m_session.openSurvey(file); !opened)
        showMessage(opened.error());
    else
        showStage(q(m_session.view().stage));
}

void MainWindow::chooseSurvey() {
    if (const auto file = dialogs::openFile(this, "Open survey", surveyFilter); !file.isEmpty())
        open(file);
}

void MainWindow::chooseCase() {
    if (const auto file = dialogs::openFile(this, "Open case", caseFilter); !file.isEmpty())
        m_session.openCase(file);
}

bool MainWindow::save() {
    if (m_session.file().isEmpty())
        return saveAs();
    const auto saved = m_session.saveAs(m_session.file());
    if (!saved)
        showMessage(saved.error());
    return saved.has_value();
}

bool MainWindow::saveAs() {
    auto file = dialogs::saveFile(this, "Save survey", proposal(".survey.json"), surveyFilter);
    if (file.isEmpty())
        return false;
    if (!file.endsWith(".json"))
        file += ".survey.json";
    const auto saved = m_session.saveAs(file);
    if (!saved)
        showMessage(saved.error());
    return saved.has_value();
}

QString MainWindow::proposal(const QString& ending) const {
    auto base = m_session.file().isEmpty() ? QString("survey") : m_session.file();
    base.remove(".survey.json");
    return base + ending;
}

void MainWindow::choosePlace(const QString& part, const Point& place) {
    auto view = m_session.view();
    view.isolated = part.toStdString();
    m_session.editView("Isolate part", view, 2);
    m_session.selectPart(part.toStdString());
    const auto* state = m_session.activeCase();
    const auto at = state->opened->solved->partNamed(part.toStdString());
    if (!at)
        return;
    const auto& box = state->opened->index->parts[*at].box;
    m_viewport->flyTo(place, 0.75 * std::max({box[1] - box[0], box[3] - box[2], box[5] - box[4]}));
}

void MainWindow::importLimits() {
    const auto name = dialogs::openFile(this, "Import limits", "Tables (*.csv)");
    if (name.isEmpty())
        return;
    QFile file(name);
    if (!file.open(QIODevice::ReadOnly))
        return showMessage({ErrorCode::FileUnreadable, "the table cannot be read", name.toStdString(), "Check its name and permissions"});
    const auto limits = limitsFromCsv(file.readAll().toStdString(), QFileInfo(name).fileName().toStdString());
    if (!limits)
        return showMessage(limits.error());
    m_session.edit("Import limits", withImportedLimits(m_session.survey(), *limits));
}

void MainWindow::removeLimit() {
    const auto* table = findChild<QTableView*>("limitsTable");
    const auto* state = m_session.activeCase();
    const int row = table->currentIndex().isValid() ? table->currentIndex().row() : -1;
    if (row < 0)
        return;
    const auto at = m_ledger->limitAt(row);
    if (at && state != nullptr)
        m_session.edit("Remove limit", withoutLimit(m_session.survey(), *at));
}

void MainWindow::writeText(const QString& file, const std::string& text) {
    if (const auto written = writeFileAtomically(file.toStdString(), text); !written)
        showMessage(written.error());
    else
        statusBar()->showMessage("Written: " + file, 5000);
}

void MainWindow::writeCsv() {
    const auto file = dialogs::saveFile(this, "Export verdicts", proposal("-limits.csv"), "Tables (*.csv)");
    if (!file.isEmpty())
        writeText(file, verdictsCsv(m_session.survey(), m_session.activeRun(), m_session.view().unit));
}

void MainWindow::writePdf() {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->readings)
        return;
    const auto file = dialogs::saveFile(this, "Write report", proposal(".pdf"), "PDF (*.pdf)");
    if (file.isEmpty())
        return;
    if (const auto written = writeReportPdf(reportContent(), file.toStdString()); !written)
        showMessage(written.error());
    else
        statusBar()->showMessage("Written: " + file, 5000);
}

void MainWindow::openFinder() {
    std::vector<FinderEntry> entries;
    for (const auto& [id, one] : m_actions)
        if (one->isEnabled() && id != "finder") {
            auto* chosen = one;
            entries.push_back({chosen->text().remove('&'), chosen->shortcut().toString(), [chosen] { chosen->trigger(); }});
        }
    const auto* state = m_session.activeCase();
    if (state != nullptr && state->opened)
        for (const auto& part : state->opened->solved->parts)
            entries.push_back({q(shownName(*m_session.activeEntry(), part.name)), "part: select it", [this, name = part.name] {
                                   showStage("Field");
                                   m_session.selectPart(name);
                               }});
    for (const auto& viewpoint : viewpointsOf(m_session.survey()))
        entries.push_back({q(viewpoint.name), "viewpoint: see it", [this, viewpoint] { m_session.restore(viewpoint); }});
    for (const auto& file : settings::recentSurveys())
        entries.push_back({QFileInfo(file).fileName(), "recent survey", [this, file] { open(file); }});
    auto* finder = new Finder(std::move(entries), this);
    finder->move(mapToGlobal(QPoint((width() - finder->width()) / 2, 60)));
    finder->show();
}

void MainWindow::showHelp() { helpOn(q(m_session.view().stage), this); }

QImage MainWindow::picturedView() {
    const auto* state = m_session.activeCase();
    const auto range = m_session.shownRange();
    const auto view = m_viewport->picture();
    if (state == nullptr || !state->picture || !range)
        return view;
    const auto& quantity = state->picture->quantity;
    const bool temperature = quantity.name == "temperature";
    const auto shown = m_session.toShown();
    return withScale(view, {fmt::format("{}, {}: {}", m_session.displayName().toStdString(), m_session.activeEntry()->name, quantity.name),
                            temperature ? std::string(unitSymbol(m_session.view().unit)) : quantity.siUnit,
                            {shown((*range)[0]), shown((*range)[1])}, m_session.isLogarithmic(), m_session.view().field.strip});
}

void MainWindow::savePicture() {
    const auto file = dialogs::saveFile(this, "Save picture", proposal(".png"), "Pictures (*.png)");
    if (file.isEmpty())
        return;
    if (!picturedView().save(file, "PNG"))
        return showMessage({ErrorCode::WriteFailed, "the picture cannot be written", file.toStdString(), "Choose another folder or free some space"});
    statusBar()->showMessage("Written: " + file, 5000);
}

void MainWindow::keepViewpoint(const QString& name) {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->picture)
        return m_session.complain({ErrorCode::NotSupported, "there is no view to keep yet", "viewpoint", "Open a case first"});
    QByteArray png;
    QBuffer buffer(&png);
    m_viewport->thumbnail({156, 96}).save(&buffer, "PNG");
    const auto known = name.isEmpty() ? freeViewpointName(m_session.survey()) : name.toStdString();
    m_session.edit("Keep viewpoint", withViewpoint(m_session.survey(), {known, m_session.view(), png.toBase64().toStdString()}));
}

// Across y: the viewer looks at it from the front, where the eye is when a case opens.
void MainWindow::addSection() {
    const auto place = m_session.hottestVisible();
    if (!place)
        return m_session.complain({ErrorCode::NotSupported, "there is nothing visible to cut", "section", "Open a case and show a part with a temperature"});
    showStage("Field");
    auto view = m_session.view();
    SectionView section;
    section.name = view.field.freeSectionName();
    section.plane = {*place, {0, -1, 0}};
    section.opened = true; // inside a solid a section is seen only once it is opened
    view.field.sections.push_back(section);
    m_session.editView("Add section", view);
    m_session.selectSection(view.field.sections.size() - 1);
}

void MainWindow::throughHottest() {
    auto view = m_session.view();
    const auto place = m_session.hottestVisible();
    const auto at = m_session.selectedSection();
    if (!at || !place)
        return m_session.complain({ErrorCode::NotSupported, "no section is chosen", "section", "Click its card in the stage Field, or press C for a new one"});
    view.field.sections[*at].plane.origin = *place;
    m_session.editView("Section through the hottest place", view);
}

// By a hundredth of the visible size of the view.
void MainWindow::nudgeSection(double steps) {
    auto view = m_session.view();
    const auto at = m_session.selectedSection();
    if (!at || !view.camera)
        return;
    auto& plane = view.field.sections[*at].plane;
    const auto unit = withUnitNormal(plane);
    for (std::size_t axis = 0; axis < 3 && unit; ++axis)
        plane.origin[axis] += steps * view.camera->scale / 50 * unit->normal[axis];
    m_session.editView("Move section", view, 480);
}

void MainWindow::hideAtCursor() {
    const auto part = m_viewport->partAtCursor();
    const auto* state = m_session.activeCase();
    if (!part || state == nullptr)
        return;
    auto view = m_session.view();
    view.isolated.reset();
    view.hidden.insert(state->opened->solved->parts[*part].name);
    m_session.editView("Hide part", view);
}

void MainWindow::isolateAtCursor() {
    const auto part = m_viewport->partAtCursor();
    const auto* state = m_session.activeCase();
    if (!part || state == nullptr)
        return;
    auto view = m_session.view();
    view.isolated = state->opened->solved->parts[*part].name;
    m_session.editView("Isolate part", view);
}

void MainWindow::showAll() {
    auto view = m_session.view();
    view.hidden.clear();
    view.isolated.reset();
    m_session.editView("Show all parts", view);
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (!mayLeave())
        return event->ignore();
    settings::setWindowGeometry(saveGeometry());
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    for (const auto& url : event->mimeData()->urls())
        if (url.isLocalFile())
            open(url.toLocalFile());
}

} // namespace pyro
