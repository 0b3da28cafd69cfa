// The ledger of the stage Trust: every check with what was found and what was wanted.
#pragma once

#include "app/ledger/ledger.h"

namespace pyro {

class TrustPage : public LedgerPage {
    Q_OBJECT
public:
    TrustPage(Session& session, QWidget* parent);

signals:
    void chosen(const std::optional<Check>& check);
    void placeRequested(const Check& check);

private:
    void fill();
    std::optional<Check> at(int row) const;
    Session& m_session;
    RowTable* m_checks;
};

} // namespace pyro
