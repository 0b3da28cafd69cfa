// The blocks of the report in their order: dragged to move, ticked to show.
#pragma once

#include "app/stages/report/report_draft.h"

#include <QListWidget>

namespace pyro {

class BlockList : public QListWidget {
    Q_OBJECT
public:
    BlockList(ReportDraft& draft, Session& session, QWidget* parent = nullptr);
    // Behind the chosen one.
    void add(const std::string& kind);
    void deleteChosen();
    void moveChosen(int by);

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    void refresh();
    void takeOrder();

    ReportDraft& m_draft;
    std::vector<ReportBlock> m_listed;
};

// "Picture: Hot core", "Text: The amplifier reaches ...".
QString blockName(const ReportBlock& block);

} // namespace pyro
