#include "pages/command.h"

#include <QApplication>
#include <QtGlobal>
#include <iostream>

namespace {

// What the toolkit misses of a session of the desktop is of no concern here.
void tell(QtMsgType, const QMessageLogContext&, const QString& message) {
    if (!message.startsWith("QStandardPaths: XDG_RUNTIME_DIR"))
        std::cerr << message.toStdString() << "\n";
}

} // namespace

int main(int count, char** words) {
    qputenv("QT_QPA_PLATFORM", "offscreen"); // fonts and pages need no display
    qInstallMessageHandler(tell);
    const QApplication application(count, words);
    return pyro::pages::run(std::vector<std::string>(words + 1, words + count), std::cout, std::cerr);
}
