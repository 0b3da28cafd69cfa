#include "app/ledger/ledger_splitter.h"

#include "app/session/settings.h"

#include <QEvent>
#include <QVBoxLayout>
#include <utility>

namespace pyro {
namespace {

constexpr int head = 36;   // px: what stays when folded
constexpr int usual = 190; // px: the viewport keeps half of a window of 800
constexpr int leastUpper = 200;

} // namespace

LedgerSplitter::LedgerSplitter(QWidget* upper, QWidget* ledger) : QSplitter(Qt::Vertical), m_ledger(ledger) {
    setObjectName("ledgerSplitter");
    addWidget(upper);
    addWidget(ledger);
    ledger->setMinimumHeight(head);
    setChildrenCollapsible(false);
    setHandleWidth(5);
    setStretchFactor(0, 1);
    setStretchFactor(1, 0);
    connect(this, &QSplitter::splitterMoved, this, [this] {
        m_folded = false;
        keepHeight();
    });
}

void LedgerSplitter::showStage(const QString& stage) {
    if (stage == m_stage)
        return;
    m_stage = stage;
    apply();
}

void LedgerSplitter::toggleFold() {
    m_folded = !m_folded;
    apply();
}

void LedgerSplitter::toggleFloat() {
    if (m_window != nullptr) {
        auto* window = std::exchange(m_window, nullptr);
        addWidget(m_ledger);
        apply();
        window->removeEventFilter(this);
        window->deleteLater();
        return;
    }
    m_window = new QWidget(window(), Qt::Window);
    m_window->setObjectName("ledgerWindow");
    m_window->setWindowTitle("Tables");
    auto* layout = new QVBoxLayout(m_window);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_ledger);
    m_window->installEventFilter(this);
    m_window->resize(std::max(900, width()), 460);
    m_window->show();
}

bool LedgerSplitter::eventFilter(QObject* watched, QEvent* event) {
    if (watched != m_window || event->type() != QEvent::Close)
        return false;
    toggleFloat();
    return true;
}

void LedgerSplitter::keepHeight() {
    if (sizes().size() == 2)
        settings::setLedgerHeight(m_stage, sizes()[1]);
}

void LedgerSplitter::apply() {
    const int wanted = m_folded ? head : settings::ledgerHeight(m_stage).value_or(usual);
    const int whole = height() > leastUpper ? height() : 700; // before it is shown
    const int below = std::min(wanted, std::max(head, whole - leastUpper));
    setSizes({whole - below, below});
}

} // namespace pyro
