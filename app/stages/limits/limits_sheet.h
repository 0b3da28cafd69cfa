// The sheet of the stage Limits: how it stands, the chosen limit, and what another ambient would make of it.
#pragma once

#include "app/stages/sheet.h"

#include <QMenu>

namespace pyro {

class LimitsSheet : public Sheet {
    Q_OBJECT
public:
    LimitsSheet(Session& session, QWidget* parent);

signals:
    void importRequested();
    void removeRequested();
    void isothermRequested();

private:
    void refresh();
    void addLimit();
    void fillTouchMenu();
    void addTouchLimit(std::size_t which);
    QString worstText() const;
    QLabel* m_counts;
    QLabel* m_worst;
    QPushButton* m_add;
    QPushButton* m_more;
    QPushButton* m_isotherm;
    QMenu* m_touch;
};

} // namespace pyro
