// The isotherms in the sheet of the stage Field: switch, spacing, heavy lines, values and names that are marked,
// labels.
#pragma once

#include "app/session/session.h"
#include "app/stages/card.h"
#include "app/theme/switch.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QSpinBox>

namespace pyro {

class IsothermCard : public FoldCard {
    Q_OBJECT
public:
    explicit IsothermCard(Session& session, QWidget* parent = nullptr);
    void refresh();

private:
    QWidget* buildEditor();
    void edit(const QString& what, const std::function<void(IsothermView&)>& change);
    void readSpacing();
    void readMarks();
    void readSurfaces();
    void editValues(const QString& what, const std::function<void(IsolineValues&)>& change);
    std::optional<MarkSource> sourceNamed(const QString& word) const; // a gauge, or a part by its name or label
    QString surfaceFacts() const;

    Session& m_session;
    QLabel* m_facts;
    Switch* m_shown;
    QLineEdit* m_spacing;
    QSpinBox* m_heavy;
    QLineEdit* m_marks;
    QLineEdit* m_surfaces;
    QLabel* m_above;
    QCheckBox* m_labels;
    QComboBox* m_ground;
};

} // namespace pyro
