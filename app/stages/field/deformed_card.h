// The deformed shape in the sheet of the stage Field.
#pragma once

#include "app/session/session.h"
#include "app/stages/card.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>

namespace pyro {

// Not seen while no case of the survey has a vector of lengths.
class DeformedCard : public FoldCard {
    Q_OBJECT
public:
    explicit DeformedCard(Session& session, QWidget* parent = nullptr);
    void refresh();

private:
    QWidget* buildEditor();
    void edit(const QString& what, const std::function<void(DeformedView&)>& change);
    void readFactor();
    void fillFields();

    Session& m_session;
    QLabel* m_facts;
    Switch* m_shown;
    QComboBox* m_field; // of a case
    QLineEdit* m_factor;
    QCheckBox* m_ghost;
    QCheckBox* m_moving;
};

} // namespace pyro
