#include "app/tour.h"

#include "app/main_window.h"

#include <QApplication>
#include <QDir>
#include <QElapsedTimer>
#include <cstdio>

namespace pyro {
namespace {

constexpr int minute = 60'000; // milliseconds

bool settle(MainWindow& window, int within) {
    QElapsedTimer timer;
    QElapsedTimer settled; // since when
    timer.start();
    settled.start();
    do {
        QApplication::processEvents(QEventLoop::AllEvents, 50);
        if (!window.isSettled())
            settled.restart();
        if (settled.elapsed() > 400) // drawing and tables follow settling
            return true;
    } while (timer.elapsed() < within);
    return false;
}

} // namespace

int tour(MainWindow& window, const TourOf& what, const QString& folder) {
    QDir().mkpath(folder);
    window.resize(1280, 800);
    window.show();
    if (what.demo.isEmpty())
        window.open(what.survey);
    else
        window.openDemo(what.demo);
    settle(window, what.demo.isEmpty() ? minute : 10 * minute);
    for (const auto* one : stages()) {
        const QString stage = one->id;
        window.showStage(stage);
        if (!settle(window, minute) || !window.message().isEmpty()) {
            std::fprintf(stderr, "The stage %s did not show: %s\n", qPrintable(stage), qPrintable(window.message()));
            return 1;
        }
        const auto file = folder + "/" + stage.toLower() + ".png";
        if (!window.grab().save(file)) {
            std::fprintf(stderr, "%s cannot be written\n", qPrintable(file));
            return 1;
        }
        std::printf("%s\n", qPrintable(file));
    }
    return 0;
}

} // namespace pyro
