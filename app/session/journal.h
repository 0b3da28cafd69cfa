// Unsaved work, kept beside the configuration so that neither a crash nor kill -9 loses it.
#pragma once

#include "app/session/session.h"

#include <QDateTime>
#include <QLockFile>
#include <QTimer>

namespace pyro {

// What a run that ended without saving has left.
struct UnsavedWork {
    QString journal; // its file
    QString survey;  // the file it belongs to; empty: it was never saved
    QDateTime when;
    Survey content;
};

// Writes the survey within a second whenever it differs from what is saved, and takes the journal away once nothing is
// unsaved.
class Journal : public QObject {
    Q_OBJECT
public:
    explicit Journal(Session& session);

    // The newest left by a run that is no longer alive; nothing when there is none. What cannot be read is skipped and
    // stays.
    static std::optional<UnsavedWork> leftBehind();
    static void discard(const UnsavedWork& work);
    // What is unsaved was given up by the user.
    void forget();

private:
    void look();
    void write();

    Session& m_session;
    QString m_file;
    std::unique_ptr<QLockFile> m_lock; // tells other runs that this one is alive
    QTimer m_timer;
    bool m_complained = false;
};

} // namespace pyro
