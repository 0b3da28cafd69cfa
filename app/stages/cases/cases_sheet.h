// The sheet of the stage Cases: what is open, and what its file does not tell.
#pragma once

#include "app/stages/sheet.h"

namespace pyro {

class FaceCard;

class CasesSheet : public Sheet {
    Q_OBJECT
public:
    CasesSheet(Session& session, QWidget* parent);

signals:
    void openRequested();
    void folderRequested();
    void heatRequested(const QString& boundary);

private:
    void refresh();
    void refreshSplit(const CaseEntry* entry, const Case* solved);
    QListWidget* m_list;
    QPushButton* m_remove;
    QLabel* m_facts;
    QLineEdit* m_symmetry;
    QWidget* m_depthRow; // of a case in two dimensions only
    QLineEdit* m_depth;
    QWidget* m_partsRow; // of a grid that an array may divide
    QComboBox* m_partsBy;
    QWidget* m_edgesRow; // where boundaries were made at edges
    QLineEdit* m_edges;
    FaceCard* m_face;
    QLabel* m_hint;
};

} // namespace pyro
