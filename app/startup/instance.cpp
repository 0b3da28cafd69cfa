#include "app/startup/instance.h"

#include "app/main_window.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QJsonArray>
#include <QJsonDocument>
#include <QLocalSocket>
#include <QStandardPaths>

namespace pyro {
namespace {

constexpr int answersWithin = 2000; // milliseconds

// Of this user and this session only; empty where there is none.
QString socketFolder() {
    const auto base = qEnvironmentVariable("XDG_RUNTIME_DIR");
    if (base.isEmpty() || !QDir(base).exists())
        return {};
    const auto folder = base + "/pyrometer";
    return QDir().mkpath(folder) ? folder : QString();
}

QString ownName() { return QString("window-%1").arg(QCoreApplication::applicationPid()); }

// A line each way: "has [files]" and "take [files]", a JSON array, answered by "open", "free", "busy" and "taken".
QString asked(QLocalSocket& socket, const QByteArray& word, const QStringList& files) {
    socket.write(word + ' ' + QJsonDocument(QJsonArray::fromStringList(files)).toJson(QJsonDocument::Compact) + '\n');
    while (!socket.canReadLine())
        if (!socket.waitForReadyRead(answersWithin))
            return {};
    return QString::fromUtf8(socket.readLine()).trimmed();
}

} // namespace

Instance::Instance(MainWindow& window) : QObject(&window), m_window(window) {
    const auto folder = socketFolder();
    if (folder.isEmpty())
        return;
    const auto name = folder + "/" + ownName();
    m_server.setSocketOptions(QLocalServer::UserAccessOption);
    QLocalServer::removeServer(name);
    if (!m_server.listen(name))
        return;
    connect(&m_server, &QLocalServer::newConnection, this, [this] {
        while (auto* caller = m_server.nextPendingConnection()) {
            connect(caller, &QLocalSocket::readyRead, this, [this, caller] { answer(caller); });
            connect(caller, &QLocalSocket::disconnected, caller, &QObject::deleteLater);
        }
    });
}

void Instance::answer(QLocalSocket* caller) {
    while (caller->canReadLine()) {
        const auto line = caller->readLine();
        QStringList files;
        for (const auto& one : QJsonDocument::fromJson(line.mid(line.indexOf(' '))).array())
            files.append(one.toString());
        if (line.startsWith("has ")) {
            const bool all = std::ranges::all_of(files, [this](const QString& one) { return m_window.hasOpen(one); });
            caller->write(all ? "open\n" : m_window.isEmpty() ? "free\n" : "busy\n");
            caller->flush();
        } else if (line.startsWith("take ")) {
            caller->write("taken\n"); // whoever asks need not wait until it is open
            caller->flush();
            for (const auto& file : files)
                m_window.hasOpen(file) ? m_window.showOpen(file) : m_window.open(file);
            m_window.comeToFront();
        }
    }
}

namespace {

// To a window that has all the files open; else, where that is wanted, to one that shows nothing.
bool given(const QStringList& files, bool alsoToEmpty) {
    QStringList full;
    for (const auto& file : files)
        full.append(QFileInfo(file).absoluteFilePath());
    const auto place = socketFolder();
    if (full.isEmpty() || place.isEmpty())
        return false;
    const QDir folder(place);
    std::unique_ptr<QLocalSocket> free;
    for (const auto& name : folder.entryList({"window-*"}, QDir::System)) {
        if (name == ownName())
            continue;
        auto socket = std::make_unique<QLocalSocket>();
        socket->connectToServer(folder.filePath(name));
        if (!socket->waitForConnected(answersWithin)) {
            if (socket->error() == QLocalSocket::ConnectionRefusedError) // left by one that was killed
                QFile::remove(folder.filePath(name));
            continue;
        }
        const auto state = asked(*socket, "has", full);
        if (state == "open")
            return asked(*socket, "take", full) == "taken";
        if (state == "free" && alsoToEmpty && !free)
            free = std::move(socket);
    }
    return free && asked(*free, "take", full) == "taken";
}

} // namespace

bool Instance::handOver(const QStringList& files) { return given(files, true); }
bool Instance::showElsewhere(const QString& file) { return given({file}, false); }

} // namespace pyro
