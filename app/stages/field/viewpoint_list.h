// The saved viewpoints as small pictures: click restores, the menu renames, replaces and removes.
#pragma once

#include "app/session/session.h"

#include <QListWidget>

namespace pyro {

class ViewpointList : public QListWidget {
    Q_OBJECT
public:
    explicit ViewpointList(Session& session, QWidget* parent = nullptr);
    void refresh();

signals:
    void keepRequested(const QString& name); // to store the present view under this name again

private:
    void restore(const QString& name);
    void menuAt(const QPoint& at);

    Session& m_session;
    std::optional<std::vector<Viewpoint>> m_listed; // what the list was made from
};

} // namespace pyro
