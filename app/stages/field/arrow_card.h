// Arrows on sections and boundaries in the sheet of the stage Field.
#pragma once

#include "app/session/session.h"
#include "app/stages/card.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>

namespace pyro {

class ArrowCard : public FoldCard {
    Q_OBJECT
public:
    explicit ArrowCard(Session& session, QWidget* parent = nullptr);
    void refresh();

private:
    QWidget* buildEditor();
    void edit(const QString& what, const std::function<void(ArrowView&)>& change);
    void readSpacing();

    Session& m_session;
    QLabel* m_facts;
    Switch* m_shown;
    QComboBox* m_quantity;
    QLineEdit* m_spacing;
    QCheckBox* m_scaled;
    QCheckBox* m_sections;
    QListWidget* m_boundaries;
};

} // namespace pyro
