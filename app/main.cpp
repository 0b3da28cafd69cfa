// pyrometer [FILE]: the window. With --tour FOLDER it walks through its stages and stores pictures instead.
#include "app/main_window.h"
#include "app/theme/theme.h"
#include "app/tour.h"

#include <QApplication>
#include <QCommandLineParser>
#include <QSurfaceFormat>

int main(int count, char** words) {
    QSurfaceFormat format;
    format.setVersion(3, 2);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    format.setSamples(0);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication application(count, words);
    QApplication::setOrganizationName("pyrometer");
    QApplication::setApplicationName("pyrometer");
    QApplication::setWindowIcon(QIcon(pyro::theme::icon("pyrometer", pyro::theme::ember, 64)));

    QCommandLineParser parser;
    parser.setApplicationDescription("Evaluates temperature fields.");
    parser.addHelpOption();
    parser.addPositionalArgument("FILE", "a .survey.json or a case: .vtu, .vtk, .vtm, .xdmf, .e ...", "[FILE]");
    const QCommandLineOption tourOption("tour", "Walk through the stages, store a picture of each in FOLDER, end.",
                                        "FOLDER");
    parser.addOption(tourOption);
    parser.process(application);
    pyro::theme::apply(application);

    pyro::MainWindow window;
    const auto files = parser.positionalArguments();
    if (parser.isSet(tourOption))
        return pyro::tour(window, files.value(0), parser.value(tourOption));
    window.show();
    window.offerUnsaved();
    if (!files.isEmpty())
        window.open(files.first());
    return QApplication::exec();
}
