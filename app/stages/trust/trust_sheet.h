// The sheet of the stage Trust: how much of the case is believable at a glance, and what the chosen check is worth.
#pragma once

#include "app/stages/sheet.h"

namespace pyro {

class TrustSheet : public Sheet {
    Q_OBJECT
public:
    TrustSheet(Session& session, QWidget* parent);
    void choose(const std::optional<Check>& check);

signals:
    void placeRequested(const Check& check);
    void findingRequested(const Check& check);

private:
    void refresh();
    QLabel* m_counts;
    QLabel* m_summary;
    QLabel* m_title;
    QLabel* m_text;
    QPushButton* m_show;
    QPushButton* m_raise;
    std::optional<Check> m_check;
};

// The shape and colour of a check's state: those of the verdicts.
Verdict markOf(CheckState state);

} // namespace pyro
