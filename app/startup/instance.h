// startup: what happens before a window is there: words, display, windows that run already.
//
// One window for a file. Every running window listens on a socket of its own; who is started with files asks them
// first.
#pragma once

#include <QLocalServer>
#include <QStringList>

namespace pyro {

class MainWindow;

class Instance : public QObject {
    Q_OBJECT
public:
    // Listens for as long as the window lives. Without a run-time folder of the user it does not, and every start has
    // a window of its own.
    explicit Instance(MainWindow& window);

    // Hands the files to a window that has all of them open, else to one that shows nothing yet; it comes to the front.
    // False: there is none, or it did not answer within two seconds.
    static bool handOver(const QStringList& files);
    // The same for a window that runs: only to another one that has the file open.
    static bool showElsewhere(const QString& file);

private:
    void answer(QLocalSocket* caller);

    MainWindow& m_window;
    QLocalServer m_server;
};

} // namespace pyro
