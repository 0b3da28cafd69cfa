#include "app/main_window.h"

#include "app/ledger/ledger_splitter.h"
#include "app/theme/elided_label.h"
#include "app/theme/quiet_input.h"

#include "app/session/settings.h"
#include "app/stages/start_page.h"
#include "app/startup/display.h"
#include "app/theme/theme.h"
#include "core/limits/judge.h"
#include "core/thermal/whole_heat.h"
#include "core/units/millimetres.h"
#include "render/text.h"

#include <QApplication>
#include <QScreen>
#include <QStatusBar>
#include <fmt/format.h>

namespace pyro {

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
    if (!restoreGeometry(settings::windowGeometry()))
        resize(firstSize(screen()->availableSize()));
    refresh(~Changes());
}

QSize MainWindow::firstSize(const QSize& screen) {
    constexpr int title = 40; // what the desktop puts around a window
    return QSize(1280, 800).boundedTo(screen - QSize(0, title));
}

// The views go before the session they listen to.
MainWindow::~MainWindow() {
    m_session.disconnect(this);
    m_session.jobs().disconnect(this);
    m_session.undoStack().disconnect(this);
    delete centralWidget();
    if (m_picture != m_viewport)
        delete m_viewport;
}

// A widget of OpenGL within a window that cannot draw it would end the program.
QWidget* MainWindow::pictureOrWhyNot() {
    if (missingOpenGl().isEmpty())
        return m_viewport;
    auto* why = new QLabel("Nothing can be drawn here. " + missingOpenGl() +
                           " Tables, verdicts and reports work without.");
    why->setObjectName("noOpenGl");
    why->setWordWrap(true);
    why->setAlignment(Qt::AlignCenter);
    why->setMargin(48);
    return why;
}

void MainWindow::build() {
    m_rail = new Rail(m_session);
    m_sheets = new QStackedWidget;
    m_sheets->setFixedWidth(300);
    m_viewport = new Viewport(m_session);
    m_strip = new HeatStrip(m_session);
    m_ledger = new Ledger;
    for (const auto* stage : stages()) {
        m_sheetOf[stage] = stage->sheet(*this, m_sheets);
        m_sheets->addWidget(m_sheetOf[stage]);
    }
    for (const auto* stage : stages())
        if (stage->ledgerPage != nullptr)
            m_ledger->addPage(*stage, stage->ledgerPage(*this, m_ledger));
    connect(&m_viewport->placer(), &GaugePlacer::advised, this,
            [this](const QString& text) { statusBar()->showMessage(text); });
    auto* upper = new QWidget;
    auto* upperLayout = new QVBoxLayout(upper);
    upperLayout->setContentsMargins(0, 0, 0, 0);
    upperLayout->setSpacing(0);
    m_upper = new QStackedWidget;
    m_picture = pictureOrWhyNot();
    m_upper->addWidget(m_picture);
    for (const auto* stage : stages())
        if (stage->panes != nullptr && m_picture == m_viewport) {
            m_panesOf[stage] = stage->panes(*this, m_upper);
            m_upper->addWidget(m_panesOf[stage]);
        }
    upperLayout->addWidget(m_upper, 1);
    upperLayout->addWidget(m_strip);
    m_split = new LedgerSplitter(upper, m_ledger);
    connect(m_ledger, &Ledger::foldRequested, m_split, &LedgerSplitter::toggleFold);
    m_stage = new QStackedWidget;
    m_stage->addWidget(m_split);
    for (const auto* stage : stages())
        if (stage->page != nullptr) {
            m_pageOf[stage] = stage->page(*this, m_stage);
            m_stage->addWidget(m_pageOf[stage]);
        }
    m_start = new StartPage;
    m_stage->addWidget(m_start);
    connect(m_start, &StartPage::caseRequested, this, &MainWindow::chooseCase);
    connect(m_start, &StartPage::folderRequested, this, &MainWindow::chooseFolder);
    connect(m_start, &StartPage::surveyRequested, this, &MainWindow::chooseSurvey);
    connect(m_start, &StartPage::fileRequested, this, &MainWindow::open);
    connect(m_start, &StartPage::demoRequested, this, &MainWindow::openDemo);

    auto* body = new QHBoxLayout;
    body->setSpacing(0);
    body->addWidget(m_sheets);
    body->addWidget(m_stage, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(0);
    right->addWidget(buildCaseBar());
    right->addWidget(buildUnsaved());
    right->addLayout(body, 1);
    auto* whole = new QHBoxLayout;
    whole->setContentsMargins(0, 0, 0, 0);
    whole->setSpacing(0);
    whole->addWidget(m_rail);
    whole->addLayout(right, 1);
    auto* centre = new QWidget;
    centre->setLayout(whole);
    setCentralWidget(centre);
    buildMessage()->setParent(centre); // lies over the page: what is read and clicked below does not move
    new QuietInput(*this, *m_viewport);
}

void MainWindow::placeMessage() {
    const auto* page = m_stage->parentWidget();
    const int left = m_rail->width();
    const int width = page->width() - left;
    m_message->setGeometry(left, 44, width,
                           std::max(m_message->heightForWidth(width), m_message->minimumSizeHint().height()));
    m_message->raise();
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    placeMessage();
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
    m_steps = new StepBar(m_session);
    connect(m_steps, &StepBar::findRequested, this, &MainWindow::findCaseFile);
    auto* layout = new QHBoxLayout(bar);
    layout->setContentsMargins(16, 0, 16, 0);
    layout->setSpacing(16);
    layout->addWidget(m_caseBox);
    layout->addWidget(m_steps);
    layout->addStretch();
    layout->addWidget(m_surveyTitle);
    connect(m_caseBox, &QComboBox::activated, this, [this](int at) {
        auto view = m_session.view();
        view.caseName = m_caseBox->itemText(at).toStdString();
        m_session.editView("Choose case", view);
    });
    return bar;
}

namespace {

// A bar across the page with a text, which buttons follow; hidden until there is something to say.
QWidget* messageBar(QLabel* text) {
    auto* bar = new QWidget;
    bar->setObjectName("message");
    bar->setAttribute(Qt::WA_StyledBackground);
    text->setWordWrap(true);
    auto* layout = new QHBoxLayout(bar);
    layout->setContentsMargins(16, 8, 12, 8);
    layout->addWidget(text, 1);
    bar->hide();
    return bar;
}

QPushButton* addButton(QWidget* bar, const char* style, const char* name, const QString& text) {
    auto* made = new QPushButton(text);
    made->setObjectName(style);
    made->setAccessibleName(name);
    bar->layout()->addWidget(made);
    return made;
}

} // namespace

QWidget* MainWindow::buildUnsaved() {
    m_unsavedText = new QLabel;
    m_unsavedText->setObjectName("unsavedText");
    m_unsaved = messageBar(m_unsavedText);
    connect(addButton(m_unsaved, "small", "restoreUnsaved", "Restore"), &QPushButton::clicked, this,
            &MainWindow::restoreUnsaved);
    connect(addButton(m_unsaved, "small", "discardUnsaved", "Delete"), &QPushButton::clicked, this,
            &MainWindow::discardUnsaved);
    return m_unsaved;
}

QWidget* MainWindow::buildMessage() {
    m_messageText = new QLabel;
    m_messageText->setObjectName("messageText");
    m_messageText->setTextInteractionFlags(Qt::TextSelectableByMouse);
    m_message = messageBar(m_messageText);
    connect(addButton(m_message, "link", "dismissMessage", "Dismiss"), &QPushButton::clicked, m_message,
            &QWidget::hide);
    return m_message;
}

void MainWindow::buildStatus() {
    m_lamp = new QLabel;
    m_verdict = new QLabel;
    m_verdict->setObjectName("verdictSummary");
    m_balance = new ElidedLabel;
    m_balance->setObjectName("balanceText");
    m_reading = new ElidedLabel;
    m_reading->setObjectName("cursorReading");
    m_job = new QWidget;
    m_jobText = new QLabel;
    m_jobBar = new QProgressBar;
    m_jobBar->setTextVisible(false);
    m_jobBar->setRange(0, 1000);
    m_jobBar->setFixedSize(120, 6);
    auto* cancel = new QPushButton("Cancel");
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
    status->addWidget(m_balance, 1);
    status->addWidget(m_job);
    status->addPermanentWidget(m_reading);
}

void MainWindow::showStage(const QString& id) {
    const auto found = std::ranges::find_if(stages(), [&](const Stage* one) { return id == one->id; });
    if (found == stages().end())
        return;
    const auto& stage = **found;
    m_sheets->setCurrentWidget(m_sheetOf.at(&stage));
    m_ledger->showStage(stage);
    const auto panes = m_panesOf.find(&stage);
    m_upper->setCurrentWidget(panes == m_panesOf.end() ? m_picture : panes->second);
    m_split->showStage(id);
    showPage(stage);
    m_session.setStage(id);
}

void MainWindow::run(const QString& action) { m_runs.at(action)(); }

QWidget* MainWindow::pageOf(const Stage& stage) {
    const auto found = m_pageOf.find(&stage);
    return found == m_pageOf.end() ? nullptr : found->second;
}

void MainWindow::showPage(const Stage& stage) {
    auto* own = pageOf(stage);
    QWidget* page = isEmpty() ? m_start : own != nullptr ? own : m_split;
    m_sheets->setVisible(page != m_start); // the start page offers what they would
    if (page == m_start && m_stage->currentWidget() != m_start)
        m_start->refresh();
    m_stage->setCurrentWidget(page);
}

void MainWindow::refresh(Changes what) {
    if (!(what & contents))
        return;
    if (what & Change::Survey) // what was complained of has been answered by an edit
        m_message->hide();
    checkScaleActions();
    for (const auto* one : stages())
        for (const auto& action : actionsOf(*one))
            if (action.isOn != nullptr)
                m_actions.at(action.id)->setChecked(action.isOn(m_session));
    setWindowTitle(m_session.displayName() + (m_session.hasUnsavedChanges() ? " (changed)" : "") +
                   (m_session.document().isReadOnly() ? " (read-only)" : "") + " - Pyrometer");
    m_surveyTitle->setText(m_session.displayName() + (m_session.document().isReadOnly() ? "  (read-only)" : "") +
                           (m_session.hasUnsavedChanges() ? "  \u2022" : ""));
    m_surveyTitle->setToolTip(m_session.hasUnsavedChanges() ? "There are changes that are not saved"
                                                            : m_session.file());
    const auto& stage = stageOf(m_session);
    if (what & Change::View && m_sheets->currentWidget() != m_sheetOf.at(&stage))
        showStage(stage.id);
    showPage(stage);
    m_caseBox->clear();
    for (const auto& entry : m_session.survey().cases)
        m_caseBox->addItem(q(entry.name));
    if (const auto* entry = m_session.activeEntry())
        m_caseBox->setCurrentText(q(entry->name));
    m_caseBox->setEnabled(m_caseBox->count() > 0);
    refreshStatus();
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
    const auto cases = m_session.verdictsOfCases();
    auto count = countOfCases(cases);
    QStringList words;
    for (const auto verdict : {Verdict::Over, Verdict::Unknown, Verdict::Tight, Verdict::Within})
        if (count[verdict] > 0)
            words.append(QString("%1 %2").arg(count[verdict]).arg(q(std::string(verdictName(verdict)))));
    m_lamp->setPixmap(theme::verdictPixmap(verdictOfCases(cases)));
    m_verdict->setText(words.isEmpty()
                           ? "nothing judged: no limits"
                           : words.join(", ") +
                                 (cases.size() > 1 ? QString(" in %1 cases").arg(cases.size()) : QString()));
    const auto& balance = state->readings->balance;
    const auto whole = wholeHeat(*state->readings);
    if (balance && state->series.steps.size() > 1) // in and out are not alike while heat is stored
        m_balance->setText("     heat " + q(balanceText(*balance)));
    else
        m_balance->setText("     heat balance: " + (whole ? q(whole->text()) : QString("not known")));
    m_balance->setToolTip(whole ? QString() : q(whole.error().what));
}

void MainWindow::showMessage(const Error& error) {
    ++m_messages;
    m_messageText->setText(q(error.text()));
    placeMessage();
    m_message->show();
}

QString MainWindow::message() const { return m_message->isHidden() ? QString() : m_messageText->text(); }

void MainWindow::showReading(const std::optional<Pick>& reading) {
    const auto* state = m_session.activeCase();
    if (!reading || state == nullptr || !state->picture) {
        m_reading->clear();
        return;
    }
    const auto value = reading->value ? m_session.unit().text(*reading->value) : std::string("no value");
    m_reading->setText(q(fmt::format(
        "{}   x {:.1f}  y {:.1f}  z {:.1f} mm   <b>{}</b>   {}",
        shownName(*m_session.activeEntry(), state->opened->solved->parts[reading->part].name),
        millimetres(reading->at[0], 0.1), millimetres(reading->at[1], 0.1), millimetres(reading->at[2], 0.1), value,
        reading->on == Location::Node ? "interpolated" : "cell value")));
}

bool MainWindow::isSettled() {
    if (m_session.jobs().running() > 0)
        return false;
    const auto* state = m_session.activeCase();
    return state == nullptr || state->error || (state->picture && state->readings) ||
           (state->opened && !state->drawn && state->readings);
}

void MainWindow::goTo(const QString& part, const Point& place) {
    auto view = m_session.view();
    view.isolated = part.toStdString();
    m_session.editView("Isolate part", view, {GestureKind::IsolatePart});
    m_session.selection().selectPart(part.toStdString());
    const auto* state = m_session.activeCase();
    const auto at = state->opened->solved->partNamed(part.toStdString());
    if (!at)
        return;
    const auto& box = state->opened->index->parts[*at].box;
    m_viewport->flyTo(place, 0.75 * std::max({box[1] - box[0], box[3] - box[2], box[5] - box[4]}));
}

void MainWindow::tell(const QString& text) {
    m_told = true;
    m_viewport->notice().tell(text);
}

void MainWindow::advise(const QString& text) { statusBar()->showMessage(text, 8000); }

void MainWindow::tellWritten(const Done& written, const QString& file, const QString& size) {
    if (!written)
        showMessage(written.error());
    else
        statusBar()->showMessage("Written: " + file + size, 5000);
}

} // namespace pyro
