// pyrometer [FILE...]: the window. What else it takes is in manual/programs.cpp.
#include "app/main_window.h"
#include "app/selfcheck/self_check.h"
#include "app/startup/display.h"
#include "app/startup/instance.h"
#include "app/theme/theme.h"
#include "app/tour.h"
#include "manual/manual.h"

#include <QApplication>
#include <QSurfaceFormat>
#include <iostream>

namespace {

// The toolkit's own options, each with a value, are not ours to refuse: session managers use them.
std::vector<std::string> ownWords(int count, char** words) {
    std::vector<std::string> own;
    for (int at = 1; at < count; ++at) {
        const std::string_view word = words[at];
        if (word == "-platform" || word == "-style" || word == "-session" || word == "-display")
            ++at;
        else
            own.emplace_back(word);
    }
    return own;
}

QStringList asPaths(const std::vector<std::string>& files) {
    QStringList list;
    for (const auto& file : files)
        list.append(QString::fromStdString(file));
    return list;
}

int showWindow(const pyro::WindowWords& asked) {
    pyro::MainWindow window;
    if (!asked.tour.empty())
        return pyro::tour(
            window,
            {QString::fromStdString(asked.files.empty() ? "" : asked.files[0]), QString::fromStdString(asked.demo)},
            QString::fromStdString(asked.tour));
    const pyro::Instance instance(window);
    window.show();
    window.offerUnsaved();
    for (const auto& file : asPaths(asked.files))
        window.open(file);
    if (!asked.demo.empty())
        window.openDemo(QString::fromStdString(asked.demo));
    return QApplication::exec();
}

} // namespace

int main(int count, char** words) {
    pyro::WindowWords asked;
    const auto manual = pyro::windowManual(asked);
    if (const auto ended = pyro::parse(manual, ownWords(count, words), std::cout, std::cerr))
        return *ended;
    QSurfaceFormat format;
    format.setVersion(3, 2);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    format.setSamples(0);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication::setOrganizationName("pyrometer");
    QApplication::setApplicationName("pyrometer");
    QApplication::setDesktopFileName("example.pyrometer.pyrometer");
    pyro::tellFailuresOfTheToolkit();
    if (asked.selfCheck)
        return pyro::selfCheck(count, words, asked.onlyCheck);
    QApplication application(count, words);
    pyro::leaveFailuresToTheToolkit();
    QApplication::setWindowIcon(QIcon(":/pyrometer-colour.svg"));
    pyro::theme::apply(application);
    if (asked.tour.empty() && pyro::Instance::handOver(asPaths(asked.files)))
        return 0;
    return showWindow(asked);
}
