#include "app/ledger/ledger.h"

#include "app/ledger/ledger_page.h"

namespace pyro {

Ledger::Ledger(QWidget* parent) : QStackedWidget(parent) { setObjectName("ledger"); }

void Ledger::addPage(const Stage& stage, QWidget* page) {
    m_pages[&stage] = page;
    addWidget(page);
    auto folding = page->findChildren<LedgerPage*>();
    if (auto* own = qobject_cast<LedgerPage*>(page))
        folding.append(own);
    for (auto* one : folding)
        connect(one, &LedgerPage::foldRequested, this, &Ledger::foldRequested);
}

QWidget* Ledger::page(const Stage& stage) const {
    const auto found = m_pages.find(&stage);
    return found == m_pages.end() ? nullptr : found->second;
}

void Ledger::showStage(const Stage& stage) {
    auto* shown = page(stage);
    setVisible(shown != nullptr);
    if (shown != nullptr)
        setCurrentWidget(shown);
}

} // namespace pyro
