#include "app/stepbar/step_bar.h"

#include <QHBoxLayout>
#include <QMenu>
#include <QSignalBlocker>
#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

QPushButton* barButton(const QString& name, const QString& text, const QString& tip) {
    auto* made = new QPushButton(text);
    made->setObjectName("link");
    made->setAccessibleName(name);
    made->setToolTip(tip);
    made->setFocusPolicy(Qt::NoFocus); // the space bar belongs to the window
    return made;
}

QString speedText(double stepsPerSecond) {
    return stepsPerSecond == 1 ? QString("1 step a second") : QString("%1 steps a second").arg(stepsPerSecond);
}

} // namespace

StepBar::StepBar(Session& session, QWidget* parent)
    : QWidget(parent), m_session(session), m_back(barButton("stepBackButton", "\u2039", "Previous step (comma)")),
      m_play(barButton("playButton", "Play", "Play the steps (space)")),
      m_on(barButton("stepOnButton", "\u203a", "Next step (full stop)")),
      m_options(barButton("playOptions", "", "Speed and loop")), m_scrubber(new QSlider(Qt::Horizontal)),
      m_label(new QLabel), m_find(barButton("findFile", "Find the file\u2026", "Say where the case's file is now")) {
    setObjectName("stepBar");
    m_scrubber->setObjectName("stepScrubber");
    m_scrubber->setFixedWidth(220);
    m_scrubber->setPageStep(1);
    m_scrubber->setFocusPolicy(Qt::NoFocus);
    m_label->setObjectName("stepLabel");
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    for (auto* widget : std::initializer_list<QWidget*>{m_play, m_back, m_scrubber, m_on, m_label, m_find, m_options})
        layout->addWidget(widget);
    auto* menu = new QMenu(this);
    for (const double speed : {1.0, 2.0, 5.0, 10.0, 20.0})
        menu->addAction(speedText(speed), this, [this, speed] { setSpeed(speed); });
    menu->addSeparator();
    auto* loop = menu->addAction("Begin again at the end", this, [this](bool on) { setLooping(on); });
    loop->setCheckable(true);
    loop->setChecked(m_loop);
    m_options->setMenu(menu);
    connect(m_find, &QPushButton::clicked, this, &StepBar::findRequested);
    connect(m_play, &QPushButton::clicked, this, &StepBar::togglePlaying);
    connect(m_back, &QPushButton::clicked, this, &StepBar::back);
    connect(m_on, &QPushButton::clicked, this, &StepBar::on);
    connect(m_scrubber, &QSlider::valueChanged, this, &StepBar::go);
    connect(&m_timer, &QTimer::timeout, this, &StepBar::advance);
    session.listen(this, Change::Cases | Change::View | Change::Survey | Change::Readings, &StepBar::refresh);
    setSpeed(5);
    refresh();
}

int StepBar::count() const {
    const auto* state = m_session.activeCase();
    return state != nullptr ? static_cast<int>(state->series.steps.size()) : 0;
}

int StepBar::wanted() const {
    const auto* state = m_session.activeCase();
    return count() > 0 ? state->series.nearest(m_session.view().step) : 0;
}

void StepBar::go(int step) {
    if (count() > 1)
        m_session.setStep(std::clamp(step, 0, count() - 1));
}

void StepBar::first() { go(0); }
void StepBar::last() { go(count() - 1); }
void StepBar::back() { go(wanted() - 1); }
void StepBar::on() { go(wanted() + 1); }

void StepBar::setSpeed(double stepsPerSecond) {
    m_timer.setInterval(static_cast<int>(1000 / stepsPerSecond));
    m_options->setText(speedText(stepsPerSecond));
}

void StepBar::togglePlaying() {
    if (m_timer.isActive()) {
        m_timer.stop();
    } else if (count() > 1) {
        if (wanted() == count() - 1)
            first();
        m_timer.start();
    }
    refresh();
}

// Every step is seen: the next one is asked for when the last one is drawn, however long that took.
void StepBar::advance() {
    const auto* state = m_session.activeCase();
    if (state == nullptr || count() < 2) {
        m_timer.stop();
    } else if (state->step == wanted() && !state->openingStep && state->picture &&
               state->picture->opened.solved == state->opened->solved) {
        if (wanted() < count() - 1)
            on();
        else if (m_loop)
            first();
        else
            m_timer.stop();
    }
    refresh();
}

void StepBar::refresh() {
    const auto* state = m_session.activeCase();
    const bool steps = count() > 1;
    if (!steps)
        m_timer.stop();
    for (auto* widget : std::initializer_list<QWidget*>{m_play, m_back, m_scrubber, m_on, m_options})
        widget->setVisible(steps);
    m_play->setText(m_timer.isActive() ? "Pause" : "Play");
    m_back->setEnabled(wanted() > 0);
    m_on->setEnabled(wanted() < count() - 1);
    const QSignalBlocker quiet(m_scrubber);
    m_scrubber->setRange(0, std::max(0, count() - 1));
    m_scrubber->setValue(wanted());
    const bool gone = state != nullptr && state->error && state->error->code == ErrorCode::FileMissing;
    m_find->setVisible(gone);
    if (gone) {
        const auto name = QString::fromStdString(m_session.pathOf(*m_session.activeEntry()).filename().string());
        m_label->setText(QString(state->opened ? "%1 is no longer there; as last read" : "%1 is not there").arg(name));
        return;
    }
    if (state == nullptr || !state->opened) {
        m_label->clear();
        return;
    }
    const auto time = state->shownStep().time ? state->shownStep().time : state->opened->solved->time;
    const auto when = time ? fmt::format("t = {:g} s", *time) : steps ? std::string("no time") : std::string("steady");
    const auto waits = state->waiting > 0 ? "; a file is being written" : "";
    m_label->setText(QString::fromStdString(
        steps ? fmt::format("{}, step {} of {}{}", when, state->step + 1, count(), waits) : when + waits));
}

} // namespace pyro
