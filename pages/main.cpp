#include "pages/command.h"

#include <QApplication>
#include <QtGlobal>
#include <iostream>

int main(int count, char** words) {
    qputenv("QT_QPA_PLATFORM", "offscreen"); // fonts and pages need no display
    const QApplication application(count, words);
    return pyro::pages::run(std::vector<std::string>(words + 1, words + count), std::cout, std::cerr);
}
