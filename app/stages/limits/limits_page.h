// The ledger of the stage Limits: every limit with its verdict, smallest margin first.
#pragma once

#include "app/ledger/ledger_page.h"
#include "app/session/session.h"

#include <QLineEdit>

namespace pyro {

class LimitsPage : public LedgerPage {
    Q_OBJECT
public:
    LimitsPage(Session& session, QWidget* parent);
    // The limit of the survey shown in a row of the table.
    std::optional<std::size_t> limitAt(int row) const;

signals:
    // A row with a place was chosen: isolate the part and fly there.
    void placeChosen(const QString& part, const pyro::Point& place);
    void exportRequested();

private:
    void fill();
    void fillAcross(); // limits down, cases across
    void choose(int row);
    void order(const std::vector<LimitReading>& verdicts);

    Session& m_session;
    RowTable* m_verdicts;
    QLineEdit* m_filter;
    QPushButton* m_across;
    std::vector<std::size_t> m_order; // survey limits by table row
};

} // namespace pyro
