// The ledger of the stage Field: the quantity on display on sections, parts and boundaries.
#pragma once

#include "app/ledger/ledger_page.h"
#include "app/session/session.h"

namespace pyro {

class FieldPage : public LedgerPage {
    Q_OBJECT
public:
    FieldPage(Session& session, QWidget* parent);

private:
    void fill();
    void choose(std::size_t row);

    Session& m_session;
    RowTable* m_readings;
    std::vector<std::size_t> m_sectionRows; // sections that have a row, first in the table
};

} // namespace pyro
