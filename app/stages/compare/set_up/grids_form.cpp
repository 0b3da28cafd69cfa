// Meshes of one case for grid convergence.
#include "app/session/session.h"
#include "app/stages/compare/set_up/set_up.h"
#include "app/stages/stage_desk.h"
#include "render/text.h"

#include <QDialogButtonBox>
#include <QLabel>
#include <QListWidget>
#include <QVBoxLayout>
#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

std::size_t cellsOf(const Session& session, const CaseEntry& entry) {
    const auto* state = session.stateOf(entry);
    std::size_t cells = 0;
    if (state != nullptr && state->opened)
        for (const auto& part : state->opened->solved->parts)
            cells += part.mesh.cells();
    return cells;
}

class GridsForm : public QDialog {
public:
    explicit GridsForm(StageDesk& desk) : QDialog(desk.dialogParent()), m_session(desk.session()) {
        setObjectName("gridsForm");
        setWindowTitle("Meshes of one case");
        setAttribute(Qt::WA_DeleteOnClose);
        resize(420, 360);
        auto* words = new QLabel("Tick the cases that are the same but for their mesh, three at least. The order is "
                                 "from fine to coarse; drag to change it.");
        words->setWordWrap(true);
        m_list = new QListWidget;
        m_list->setObjectName("gridsList");
        m_list->setDragDropMode(QAbstractItemView::InternalMove);
        auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
        buttons->button(QDialogButtonBox::Ok)->setText("Hold against each other");
        auto* layout = new QVBoxLayout(this);
        layout->addWidget(words);
        layout->addWidget(m_list, 1);
        layout->addWidget(buttons);
        connect(buttons, &QDialogButtonBox::accepted, this, [this] { take(); });
        connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
        fill();
    }

private:
    void fill() {
        std::vector<const CaseEntry*> cases;
        for (const auto& entry : m_session.survey().cases)
            cases.push_back(&entry);
        const auto cells = [&](const CaseEntry* entry) { return cellsOf(m_session, *entry); };
        std::ranges::stable_sort(cases, std::greater<>(), cells);
        const auto& grids = m_session.survey().grids;
        for (const auto* entry : cases) {
            const auto count = cells(entry);
            auto* item = new QListWidgetItem(
                q(count > 0 ? fmt::format("{}   {} cells", entry->name, count) : entry->name), m_list);
            item->setData(Qt::UserRole, q(entry->name));
            item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
            const bool named = !grids.empty() &&
                               std::ranges::find(grids.front().cases, entry->name) != grids.front().cases.end();
            item->setCheckState(named ? Qt::Checked : Qt::Unchecked);
        }
    }
    void take() {
        auto names = Json::array();
        for (int row = 0; row < m_list->count(); ++row)
            if (m_list->item(row)->checkState() == Qt::Checked)
                names.push_back(m_list->item(row)->data(Qt::UserRole).toString().toStdString());
        const bool done = editSurveyJson(m_session, "Meshes of one case", [&](Json& survey) {
            auto list = survey.value("grids", Json());
            if (list.is_object()) // one study is written by itself
                list = Json::array({list});
            if (list.is_null())
                list = Json::array();
            if (!list.empty())
                list.erase(0);
            if (!names.empty())
                list.insert(list.begin(), Json{{"cases", names}, {"size", "cells"}});
            survey.erase("grids");
            if (!list.empty())
                survey["grids"] = list;
        });
        if (done)
            accept();
    }

    Session& m_session;
    QListWidget* m_list;
};

} // namespace

void showGridsForm(StageDesk& desk) { (new GridsForm(desk))->show(); }

} // namespace pyro
