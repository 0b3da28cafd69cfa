// The part and the boundary that were clicked at the stage Cases: what they are, and what can be said of them in one
// step.
#pragma once

#include "app/session/session.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>

namespace pyro {

class FaceCard : public QWidget {
    Q_OBJECT
public:
    FaceCard(Session& session, QWidget* parent);

signals:
    void heatRequested(const QString& boundary);

private:
    void refresh();
    void refreshPart(const CaseEntry& entry, const OpenedCase& opened, std::size_t part);
    void divide();
    void join(const QString& with);
    void refreshPatch(const CaseEntry& entry, const OpenedCase& opened, std::size_t boundary);
    void refreshBoundary(const CaseEntry& entry, const OpenedCase& opened, std::size_t boundary);
    // Positions in the case on display; the part behind the boundary where none is chosen itself.
    std::optional<std::size_t> chosenPart(const OpenedCase& opened) const;
    std::optional<std::size_t> chosenBoundary(const OpenedCase& opened) const;

    Session& m_session;
    QLabel* m_partName;
    QComboBox* m_material;
    QLabel* m_faceName;
    QLabel* m_faceFacts;
    QLineEdit* m_label;
    QPushButton* m_heat;
    QPushButton* m_divide;
    QPushButton* m_undivide;
    QComboBox* m_join;
    QWidget* m_patchRow; // of boundaries that the file does not name
    QWidget* m_partRows;
    QWidget* m_faceRows;
};

} // namespace pyro
