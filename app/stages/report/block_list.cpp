#include "app/stages/report/block_list.h"

#include "render/text.h"

#include <QKeyEvent>

namespace pyro {

QString blockName(const ReportBlock& block) {
    const auto* kind = reportBlockKind(block.kind);
    auto name = kind == nullptr ? q(block.kind) + " (unknown)" : q(kind->title);
    auto about = block.title;
    if (about.empty())
        about = !block.rows.empty() ? block.rows.front() + (block.rows.size() > 1 ? " \u2026" : "") : block.name;
    if (about.empty())
        about = block.text.substr(0, block.text.find('\n'));
    if (about.empty() && block.kind == "viewpoint")
        about = "all viewpoints";
    return about.empty() || q(about) == name ? name : name + ": " + q(about);
}

BlockList::BlockList(ReportDraft& draft, Session& session, QWidget* parent) : QListWidget(parent), m_draft(draft) {
    setObjectName("reportBlocks");
    setDragDropMode(QAbstractItemView::InternalMove);
    setDefaultDropAction(Qt::MoveAction);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setTextElideMode(Qt::ElideRight);
    setToolTip("Drag a block to move it; a block without its tick is not printed");
    connect(this, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
        auto blocks = m_draft.blocks();
        const auto at = static_cast<std::size_t>(row(item));
        const bool off = item->checkState() != Qt::Checked;
        if (at >= blocks.size() || blocks[at].off == off)
            return;
        blocks[at].off = off;
        m_draft.setBlocks(off ? "Leave out block" : "Show block", std::move(blocks));
    });
    connect(model(), &QAbstractItemModel::rowsMoved, this, &BlockList::takeOrder, Qt::QueuedConnection); // by a drag
    connect(this, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row >= 0)
            m_draft.choose(static_cast<std::size_t>(row));
    });
    connect(&draft, &ReportDraft::chosenChanged, this, [this] { setCurrentRow(static_cast<int>(m_draft.chosen())); });
    session.listen(this, Changes(Change::Survey), &BlockList::refresh);
    refresh();
}

void BlockList::refresh() {
    const auto blocks = m_draft.blocks();
    if (blocks == m_listed && count() == static_cast<int>(blocks.size()))
        return;
    m_listed = blocks;
    const QSignalBlocker quiet(this);
    clear();
    for (std::size_t at = 0; at < blocks.size(); ++at) {
        auto* item = new QListWidgetItem(blockName(blocks[at]), this);
        item->setData(Qt::UserRole, static_cast<int>(at));
        item->setFlags((item->flags() | Qt::ItemIsUserCheckable | Qt::ItemIsDragEnabled) & ~Qt::ItemIsDropEnabled);
        item->setCheckState(blocks[at].off ? Qt::Unchecked : Qt::Checked);
        if (const auto* kind = reportBlockKind(blocks[at].kind))
            item->setToolTip(q(kind->meaning));
    }
    setCurrentRow(static_cast<int>(std::min(m_draft.chosen(), blocks.empty() ? 0 : blocks.size() - 1)));
}

void BlockList::add(const std::string& kind) {
    auto blocks = m_draft.blocks();
    const auto at = std::min(blocks.size(), m_draft.chosen() + 1);
    ReportBlock made;
    made.kind = kind;
    blocks.insert(blocks.begin() + static_cast<std::ptrdiff_t>(at), made);
    m_draft.setBlocks("Add block", std::move(blocks));
    m_draft.choose(at);
}

void BlockList::deleteChosen() {
    auto blocks = m_draft.blocks();
    const auto at = m_draft.chosen();
    if (at >= blocks.size() || blocks.size() == 1) // a report without blocks is the usual one again
        return;
    blocks.erase(blocks.begin() + static_cast<std::ptrdiff_t>(at));
    m_draft.setBlocks("Delete block", std::move(blocks));
    m_draft.choose(std::min(at, m_listed.size() - 1));
}

void BlockList::moveChosen(int by) {
    auto blocks = m_draft.blocks();
    const auto from = static_cast<int>(m_draft.chosen());
    const int to = from + by;
    if (to < 0 || to >= static_cast<int>(blocks.size()))
        return;
    std::swap(blocks[static_cast<std::size_t>(from)], blocks[static_cast<std::size_t>(to)]);
    m_draft.setBlocks("Move block", std::move(blocks));
    m_draft.choose(static_cast<std::size_t>(to));
}

void BlockList::takeOrder() {
    const auto before = m_draft.blocks();
    std::vector<ReportBlock> blocks;
    std::size_t chosen = m_draft.chosen();
    for (int row = 0; row < count(); ++row) {
        const auto from = static_cast<std::size_t>(item(row)->data(Qt::UserRole).toInt());
        if (from >= before.size())
            return;
        if (from == m_draft.chosen())
            chosen = blocks.size();
        blocks.push_back(before[from]);
    }
    m_listed.clear(); // rows are numbered anew
    if (blocks.size() == before.size() && !(blocks == before))
        m_draft.setBlocks("Move block", std::move(blocks));
    refresh();
    m_draft.choose(chosen);
}

void BlockList::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Delete)
        deleteChosen();
    else if (event->modifiers() == Qt::AltModifier && event->key() == Qt::Key_Up)
        moveChosen(-1);
    else if (event->modifiers() == Qt::AltModifier && event->key() == Qt::Key_Down)
        moveChosen(1);
    else
        QListWidget::keyPressEvent(event);
}

} // namespace pyro
