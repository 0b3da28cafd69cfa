#include "app/stages/cases/cases_page.h"

#include "core/survey/edit.h"
#include "render/text.h"

#include <QEvent>
#include <QHeaderView>

namespace pyro {

CasesPage::CasesPage(Session& session, QWidget* parent) : LedgerPage("", parent), m_session(session) {
    m_parts = addTable("partsTable", "Parts");
    m_boundaries = addTable("boundariesTable", "Boundaries");
    m_quantities = addTable("quantitiesTable", "Quantities");
    m_materials = addTable("materialsTable", "Materials");
    m_remarks = addTable("remarksTable", "Remarks");
    connect(addLink("newMaterial", "New material"), &QPushButton::clicked, this, [this] {
        m_session.edit("New material", withNewMaterial(m_session.survey()));
        showTable("materialsTable");
    });
    for (auto* table : {m_parts, m_boundaries, m_quantities, m_materials}) {
        connect(table, &RowTable::pasteBegins, this, [this] { m_session.undoStack().beginMacro("Paste"); });
        connect(table, &RowTable::pasteEnds, this, [this] { m_session.undoStack().endMacro(); });
    }
    followPointer();
    connect(&session, &Session::changed, this, &CasesPage::refresh);
    refresh(~Changes());
}

// A boundary that is pointed at in its table is lit in the viewport.
void CasesPage::followPointer() {
    auto* faces = view("boundariesTable");
    faces->setMouseTracking(true);
    faces->viewport()->installEventFilter(this);
    const auto nameAt = [this](const QModelIndex& index) {
        return index.isValid() ? m_boundaries->column(0).text(index.row()).toStdString() : std::string();
    };
    connect(faces, &QTableView::entered, this,
            [this, nameAt](const QModelIndex& index) { m_session.selection().pointAtBoundary(nameAt(index)); });
    connect(faces->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this, nameAt](const QModelIndex& row) {
                if (row.isValid())
                    m_session.selection().selectBoundary(nameAt(row));
            });
}

// The pointer left the table of boundaries: none is pointed at.
bool CasesPage::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Leave)
        m_session.selection().pointAtBoundary({});
    return LedgerPage::eventFilter(watched, event);
}

// The row of the face that was clicked in the viewport.
void CasesPage::showSelectedBoundary() {
    const auto* state = m_session.activeCase();
    auto* faces = view("boundariesTable");
    const auto found = state != nullptr && state->opened
                           ? state->opened->solved->boundaryNamed(m_session.selection().selectedBoundary())
                           : std::nullopt;
    const int row = found ? static_cast<int>(*found) : -1;
    if (row < 0)
        return faces->clearSelection();
    if (faces->currentIndex().row() == row && faces->selectionModel()->hasSelection())
        return;
    showTable("boundariesTable");
    faces->selectRow(row);
    faces->scrollTo(m_boundaries->index(row, 0));
}

void CasesPage::refresh(Changes what) {
    if (what & (Change::Cases | Change::Survey | Change::View | Change::Readings)) {
        fillParts();
        fillBoundaries();
        fillQuantities();
        fillMaterials();
        fillRemarks();
    }
    if (what & Change::Selection)
        showSelectedBoundary();
}

void CasesPage::fillRemarks() {
    const auto* state = m_session.activeCase();
    auto remarks = std::make_shared<Remarks>();
    if (state != nullptr)
        *remarks = state->series.remarks;
    if (state != nullptr && state->readings)
        remarks->insert(remarks->end(), state->readings->remarks.begin(), state->readings->remarks.end());
    if (state != nullptr && state->error)
        remarks->push_back({Severity::Serious, "error", state->error->text(), ""});
    const auto at = [remarks](int row) -> const Remark& { return (*remarks)[static_cast<std::size_t>(row)]; };
    m_remarks->reset(static_cast<int>(remarks->size()),
                     {{"Severity", [at](int row) { return q(std::string(severityName(at(row).severity))); }},
                      {"Remark", [at](int row) { return q(at(row).text); }},
                      {"Place", [at](int row) { return q(at(row).where); }}});
}

} // namespace pyro
