// The saved viewpoints as small pictures: click restores, the menu renames, replaces and removes.
#pragma once

#include "app/session/session.h"

#include <QListWidget>
#include <QPushButton>
#include <QTimer>

namespace pyro {

class ViewpointList : public QListWidget {
    Q_OBJECT
public:
    explicit ViewpointList(Session& session, QWidget* parent = nullptr);
    void refresh();
    // A button that shows one viewpoint after the other, with their cases and steps where they carry them.
    QPushButton* player();

signals:
    void keepRequested(const QString& name); // to store the present view under this name again

private:
    void restore(const QString& name);
    void menuAt(const QPoint& at);

    void playNext();

    Session& m_session;
    QPushButton* m_play = nullptr;
    QTimer m_playing;
    std::size_t m_next = 0;
    std::optional<std::vector<Viewpoint>> m_listed; // what the list was made from
};

} // namespace pyro
