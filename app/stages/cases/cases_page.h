// The ledger of the stage Cases: what the file holds and what the survey notes about it, to be corrected in place.
#pragma once

#include "app/ledger/ledger_page.h"
#include "app/session/session.h"

namespace pyro {

class CasesPage : public LedgerPage {
    Q_OBJECT
public:
    CasesPage(Session& session, QWidget* parent);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void refresh(Changes what);
    void followPointer();
    void showSelectedBoundary();
    void fillParts();
    void fillBoundaries();
    void fillQuantities();
    void fillMaterials();
    void fillRemarks();

    Session& m_session;
    RowTable* m_parts;
    RowTable* m_boundaries;
    RowTable* m_quantities;
    RowTable* m_materials;
    RowTable* m_remarks;
};

} // namespace pyro
