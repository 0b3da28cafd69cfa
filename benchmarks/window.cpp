// How the window answers while a case of 4.1 million cells opens, and how fast it turns. Needs a display:
// xvfb-run -a build/bin/bench_window
#include "app/main_window.h"
#include "app/stages/compare/compare_view.h"
#include "app/stages/compare/pane.h"
#include "app/theme/theme.h"
#include "benchmarks/large_case.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QMouseEvent>
#include <QSurfaceFormat>
#include <QTimer>
#include <fmt/format.h>
#include <fstream>
#include <unistd.h>

namespace {

using namespace pyro;

struct Opening {
    double readSeconds = 0;    // until the case is known
    double pictureSeconds = 0; // until its first picture is drawn
    double settledSeconds = 0; // until its verdicts are there too
    double worstGap = 0;       // longest time between two rounds of the event loop, ms
};

Opening open(MainWindow& window, const QString& file) {
    Opening result;
    QElapsedTimer whole;
    QElapsedTimer sinceTick;
    QTimer tick;
    QObject::connect(&tick, &QTimer::timeout, [&] {
        result.worstGap = std::max(result.worstGap, static_cast<double>(sinceTick.nsecsElapsed()) / 1e6);
        sinceTick.start();
    });
    window.session().newSurvey();
    QApplication::processEvents();
    tick.start(2);
    whole.start();
    sinceTick.start();
    window.session().openCase(file);
    const auto seconds = [&] { return static_cast<double>(whole.nsecsElapsed()) / 1e9; };
    while (result.settledSeconds == 0) {
        QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        const auto* state = window.session().activeCase();
        if (state == nullptr)
            continue;
        if (result.readSeconds == 0)
            result.readSeconds = seconds();
        if (result.pictureSeconds == 0 && state->seen())
            result.pictureSeconds = seconds();
        if (window.isSettled())
            result.settledSeconds = seconds();
    }
    return result;
}

double framesPerSecond(Viewport& viewport) {
    constexpr int frames = 40;
    viewport.picture();
    QElapsedTimer timer;
    timer.start();
    for (int i = 0; i < frames; ++i) {
        viewport.turn(3, i % 2 == 0 ? 1 : -1);
        viewport.repaint();
        QApplication::processEvents();
    }
    return frames / (static_cast<double>(timer.nsecsElapsed()) / 1e9);
}

// Pictures a second of each of the panes of a comparison while one of them is dragged.
double comparedPerSecond(MainWindow& window) {
    auto* view = window.findChild<CompareView*>("compareView");
    auto* first = view->panes().front();
    const auto send = [&](QEvent::Type type, const QPointF& at, Qt::MouseButton button, Qt::MouseButtons buttons) {
        QMouseEvent event(type, at, first->mapToGlobal(at), button, buttons, Qt::NoModifier);
        QApplication::sendEvent(first, &event);
    };
    QPointF at = first->rect().center();
    send(QEvent::MouseButtonPress, at, Qt::LeftButton, Qt::LeftButton);
    constexpr int frames = 40;
    QElapsedTimer timer;
    timer.start();
    for (int i = 0; i < frames; ++i) {
        at += QPointF(4, i % 2 == 0 ? 1 : -1);
        send(QEvent::MouseMove, at, Qt::NoButton, Qt::LeftButton);
        for (auto* pane : view->panes()) {
            pane->setMoving(true); // as while a button of the real mouse is down
            pane->repaint();
        }
        QApplication::processEvents();
    }
    const double seconds = static_cast<double>(timer.nsecsElapsed()) / 1e9;
    send(QEvent::MouseButtonRelease, at, Qt::LeftButton, Qt::NoButton);
    return frames / seconds;
}

// Four cases of the large file at the stage Compare.
void compareFour(MainWindow& window, const std::filesystem::path& file) {
    Json json{{"pyrometer", 1}, {"cases", Json::array()}, {"view", {{"stage", "Compare"}}}};
    for (const auto* name : {"a", "b", "c", "d"})
        json["cases"].push_back({{"name", name}, {"file", file.string()}});
    const auto survey = file.parent_path() / "four.survey.json";
    std::ofstream(survey) << json.dump();
    (void)window.session().openSurvey(QString::fromStdString(survey.string()));
    auto* view = window.findChild<CompareView*>("compareView");
    const auto isDrawn = [&] {
        const auto& panes = view->panes();
        return panes.size() == 4 &&
               std::ranges::all_of(panes, [](Pane* pane) { return pane->look().picture != nullptr; });
    };
    QElapsedTimer waiting;
    waiting.start();
    while (!(isDrawn() && window.isSettled()) && waiting.elapsed() < 120'000)
        QApplication::processEvents(QEventLoop::AllEvents, 20);
    fmt::print("four pictures under one camera: {:.1f} a second each\n", comparedPerSecond(window));
}

} // namespace

int main(int count, char** words) {
    QSurfaceFormat format;
    format.setVersion(3, 2);
    format.setProfile(QSurfaceFormat::CoreProfile);
    QSurfaceFormat::setDefaultFormat(format);
    const auto folder = std::filesystem::temp_directory_path() / fmt::format("pyrometer-bench-{}", ::getpid());
    std::filesystem::create_directories(folder);
    ::setenv("XDG_CACHE_HOME", folder.c_str(), 1);
    ::setenv("XDG_CONFIG_HOME", folder.c_str(), 1);
    QApplication application(count, words);
    theme::apply(application);
    const auto file = folder / "large.vtu";
    (void)writeBlock(bench::largeHexahedra(), file, Encoding::Appended);
    {
        MainWindow window;
        window.resize(1280, 800);
        window.show();
        QApplication::processEvents();
        for (const auto* when : {"first time", "again"}) {
            const auto opening = open(window, QString::fromStdString(file.string()));
            fmt::print(
                "{:<10}  case known after {:.2f} s, picture after {:.2f} s, verdicts after {:.2f} s; longest wait of "
                "the window {:.0f} ms\n",
                when, opening.readSeconds, opening.pictureSeconds, opening.settledSeconds, opening.worstGap);
        }
        const double whole = framesPerSecond(window.viewport());
        window.viewport().setMoving(true);
        fmt::print("turning: {:.1f} pictures a second with the reduced surface of a drag, {:.1f} with the whole one\n",
                   framesPerSecond(window.viewport()), whole);
        compareFour(window, file);
    }
    std::filesystem::remove_all(folder);
    return 0;
}
