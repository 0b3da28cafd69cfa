#include "app/stages/cases/cases_sheet.h"

#include "app/stages/cases/face_card.h"
#include "app/theme/theme.h"
#include "core/feedback/counted.h"
#include "core/survey/edit.h"
#include "core/survey/typed_unit.h"
#include "render/text.h"

#include <QFileInfo>
#include <QLineEdit>
#include <algorithm>
#include <fmt/format.h>

namespace pyro {

CasesSheet::CasesSheet(Session& session, QWidget* parent) : Sheet(session, "Cases", parent) {
    auto* open = new QHBoxLayout;
    for (const bool folder : {false, true}) {
        auto* made = folder ? button("openFolderButton", "Open folder\u2026")
                            : button("openCaseButton", "Open case\u2026", true);
        connect(made, &QPushButton::clicked, this, folder ? &CasesSheet::folderRequested : &CasesSheet::openRequested);
        m_layout->removeWidget(made);
        open->addWidget(made, 1);
    }
    m_layout->addLayout(open);
    m_list = new QListWidget;
    m_list->setObjectName("caseList");
    m_list->setMaximumHeight(180);
    m_layout->addWidget(m_list);
    m_remove = button("removeCase", "Remove from survey");
    heading("This case");
    m_facts = hint();
    // A line with its title; the widget that shows and hides both.
    const auto lineOf = [this](const QString& title, QWidget* field, const char* name, const QString& tip) {
        auto* both = new QWidget;
        auto* line = new QHBoxLayout(both);
        line->setContentsMargins(0, 0, 0, 0);
        line->addWidget(new QLabel(title));
        line->addWidget(field, 1);
        field->setObjectName(name);
        field->setToolTip(tip);
        m_layout->addWidget(both);
        return both;
    };
    m_symmetry = new QLineEdit;
    m_symmetry->setPlaceholderText("1, the model is whole");
    lineOf("Symmetry factor", m_symmetry, "symmetryFactor",
           "How many times the model the whole is: 2 for a half model, 4 for a quarter. Heat flows, powers, heat "
           "contents and chi are told for the whole then.");
    m_depth = new QLineEdit;
    m_depth->setPlaceholderText("1 m: heat flows per metre");
    m_depthRow = lineOf("Depth", m_depth, "depth",
                        "How deep the plane model is, in mm or with a unit. Without it heat flows, powers and heat "
                        "contents are told per metre of depth.");
    m_partsBy = new QComboBox;
    m_partsRow = lineOf("Parts by", m_partsBy, "partsBy",
                        "The cell array of whole numbers that divides the grid into parts.");
    m_edges = new QLineEdit;
    m_edges->setPlaceholderText("30 deg");
    m_edgesRow = lineOf(
        "Edges sharper than", m_edges, "edgeAngle",
        "Outer faces that the file does not name are divided into boundaries at edges sharper than this.");
    m_face = new FaceCard(session, this);
    m_layout->addWidget(m_face);
    connect(m_face, &FaceCard::heatRequested, this, &CasesSheet::heatRequested);
    m_layout->addStretch();
    m_hint = hint("Click a face or an edge to see what it is. Double-click a cell of the table below to correct it, or "
                  "paste a column from a spreadsheet. "
                  "What you enter is kept in the survey; the case file is never changed.");
    connect(m_list, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row < 0 || static_cast<std::size_t>(row) >= m_session.survey().cases.size())
            return;
        auto view = m_session.view();
        view.caseName = m_session.survey().cases[static_cast<std::size_t>(row)].name;
        if (m_session.activeEntry() != nullptr && m_session.activeEntry()->name != view.caseName)
            m_session.editView("Choose case", view);
    });
    connect(m_symmetry, &QLineEdit::editingFinished, this, [this] {
        if (const auto* entry = m_session.activeEntry(); entry != nullptr && m_symmetry->isModified())
            m_session.editOrComplain("Symmetry factor", withSymmetry(m_session.survey(), entry->name,
                                                                     m_symmetry->text().trimmed().toStdString()));
    });
    connect(m_depth, &QLineEdit::editingFinished, this, [this] {
        if (const auto* entry = m_session.activeEntry(); entry != nullptr && m_depth->isModified())
            m_session.editOrComplain("Depth", withDepth(m_session.survey(), entry->name,
                                                        withUnit(m_depth->text().trimmed().toStdString(), "mm")));
    });
    connect(m_partsBy, &QComboBox::activated, this, [this](int chosen) {
        if (const auto* entry = m_session.activeEntry(); entry != nullptr)
            m_session.editOrComplain(
                "Parts by an array",
                withPartsBy(m_session.survey(), entry->name,
                            chosen == 0 ? std::nullopt : std::optional(m_partsBy->currentText().toStdString())));
    });
    connect(m_edges, &QLineEdit::editingFinished, this, [this] {
        if (const auto* entry = m_session.activeEntry(); entry != nullptr && m_edges->isModified())
            m_session.editOrComplain("Edges of boundaries", withEdgeAngle(m_session.survey(), entry->name,
                                                                          m_edges->text().trimmed().toStdString()));
    });
    connect(m_remove, &QPushButton::clicked, this, [this] {
        if (const auto* entry = m_session.activeEntry())
            m_session.edit("Remove case", withoutCase(m_session.survey(), entry->name));
    });
    session.listen(this, contents, &CasesSheet::refresh);
    refresh();
}

void CasesSheet::refresh() {
    const QSignalBlocker quiet(m_list);
    m_list->clear();
    const auto* active = m_session.activeEntry();
    for (const auto& entry : m_session.survey().cases) {
        const auto* state = m_session.stateOf(entry);
        QString status = "waiting";
        if (state != nullptr)
            status = state->error ? "cannot be read" : state->opened ? "open" : "reading \u2026";
        auto* item = new QListWidgetItem(q(entry.name) + "   " + status, m_list);
        item->setToolTip(q(m_session.pathOf(entry).string()) +
                         (state != nullptr && state->error ? "\n" + q(state->error->text()) : QString()));
        if (active == &entry)
            m_list->setCurrentItem(item);
    }
    m_remove->setEnabled(active != nullptr);
    m_hint->setVisible(m_face->isHidden()); // done already, and the card needs the room
    m_symmetry->setEnabled(active != nullptr);
    if (!m_symmetry->hasFocus() || !m_symmetry->isModified())
        m_symmetry->setText(active != nullptr && active->symmetry ? q(fmt::format("{:g}", *active->symmetry))
                                                                  : QString());
    const auto* state = m_session.activeCase();
    const bool plane = state != nullptr && state->opened && state->opened->solved->plane;
    m_depthRow->setVisible(plane);
    if (!m_depth->hasFocus() || !m_depth->isModified())
        m_depth->setText(active != nullptr && active->depth ? q(active->depth->text) : QString());
    refreshSplit(active, state != nullptr && state->opened ? state->opened->solved.get() : nullptr);
    if (state == nullptr || !state->opened) {
        m_facts->setText(state != nullptr && state->error ? q(state->error->text()) : QString("No case is open."));
        return;
    }
    std::uint64_t cells = 0;
    std::uint64_t nodes = 0;
    for (const auto& part : state->opened->solved->parts) {
        cells += part.fileCells;
        nodes += state->opened->solved->nodesOf(part);
    }
    const auto steps = state->series.steps.size();
    const auto time = state->shownStep().time ? state->shownStep().time : state->opened->solved->time;
    m_facts->setText(q(fmt::format("{}, {}\n{}, {}\n{}{}\n{}", counted(state->opened->solved->parts.size(), "part"),
                                   counted(state->opened->solved->boundaries.size(), "boundary"),
                                   counted(cells, "cell"), counted(nodes, "node"), plane ? "two dimensions, " : "",
                                   steps > 1 ? fmt::format("{} steps", steps)
                                   : time    ? fmt::format("one step, t = {:g} s", *time)
                                             : "steady, one step",
                                   std::filesystem::path(state->opened->solved->file).filename().string())));
}

// How the case was divided where its file does not tell, to be corrected; only what applies to it is shown.
void CasesSheet::refreshSplit(const CaseEntry* entry, const Case* solved) {
    const QSignalBlocker quiet(m_partsBy);
    m_partsRow->setVisible(solved != nullptr && solved->lone && !solved->lone->couldBe.empty());
    m_edgesRow->setVisible(solved != nullptr && std::ranges::any_of(solved->boundaries, [](const Region& boundary) {
                               return boundary.patchOf.has_value();
                           }));
    m_partsBy->clear();
    m_partsBy->addItem("nothing");
    if (solved != nullptr && solved->lone)
        for (const auto& array : solved->lone->couldBe) {
            m_partsBy->addItem(q(array));
            if (array == solved->lone->dividedBy)
                m_partsBy->setCurrentIndex(m_partsBy->count() - 1);
        }
    if (!m_edges->hasFocus() || !m_edges->isModified()) {
        const auto angle = entry != nullptr && entry->splitWritten.is_object()
                               ? entry->splitWritten.value("angle", Json())
                               : Json();
        m_edges->setText(angle.is_string()   ? q(angle.get<std::string>())
                         : angle.is_number() ? q(fmt::format("{:g} rad", angle.get<double>()))
                                             : QString());
    }
}

} // namespace pyro
