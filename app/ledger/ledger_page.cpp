#include "app/ledger/ledger_page.h"

#include <QApplication>
#include <QClipboard>
#include <QMouseEvent>
#include <QSplitter>
#include <QVBoxLayout>

namespace pyro {

LedgerPage::LedgerPage(const QString& title, QWidget* parent)
    : QWidget(parent), m_title(new QLabel(title)), m_head(new QHBoxLayout), m_tables(new QStackedWidget) {
    m_title->setObjectName("ledgerTitle");
    m_head->setContentsMargins(16, 6, 12, 2);
    m_head->setSpacing(2);
    m_head->addWidget(m_title);
    m_head->addStretch();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addLayout(m_head);
    layout->addWidget(m_tables, 1);
    connect(m_tables, &QStackedWidget::currentChanged, this, &LedgerPage::tableShown);
}

void LedgerPage::setTitle(const QString& title) { m_title->setText(title); }

RowTable* LedgerPage::addTable(const QString& name, const QString& tab) { return addTableBeside(name, tab, nullptr); }

RowTable* LedgerPage::addTableBeside(const QString& name, const QString& tab, QWidget* beside) {
    auto* model = new RowTable(this);
    auto* view = makeTable(model, name, this);
    QWidget* page = view;
    if (beside != nullptr) {
        auto* split = new QSplitter(Qt::Horizontal, this);
        split->setHandleWidth(1);
        split->setChildrenCollapsible(false);
        split->addWidget(view);
        split->addWidget(beside);
        split->setStretchFactor(0, 3);
        split->setStretchFactor(1, 2);
        page = split;
    }
    const int at = m_tables->addWidget(page);
    m_models.push_back(model);
    if (!tab.isEmpty()) {
        auto* button = new QPushButton(tab, this);
        button->setObjectName("link");
        button->setAccessibleName(name + "Tab");
        button->setCheckable(true);
        button->setAutoExclusive(true);
        button->setChecked(at == 0);
        m_head->insertWidget(1 + m_tabs++, button);
        connect(button, &QPushButton::clicked, m_tables, [this, at] { m_tables->setCurrentIndex(at); });
    }
    return model;
}

void LedgerPage::showTable(const QString& name) {
    for (int at = 0; at < m_tables->count(); ++at)
        if (m_tables->widget(at) == view(name) || m_tables->widget(at)->isAncestorOf(view(name)))
            m_tables->setCurrentIndex(at);
    for (auto* tab : findChildren<QPushButton*>("link"))
        if (tab->accessibleName() == name + "Tab")
            tab->setChecked(true);
}

QTableView* LedgerPage::view(const QString& name) const { return findChild<QTableView*>(name); }

QPushButton* LedgerPage::addLink(const QString& name, const QString& text) {
    auto* button = new QPushButton(text, this);
    button->setObjectName("link");
    button->setAccessibleName(name);
    m_head->addWidget(button);
    return button;
}

void LedgerPage::addCopyLink(const QString& name) {
    connect(addLink(name, "Copy"), &QPushButton::clicked, this, [this] {
        QApplication::clipboard()->setText(asText(*m_models.at(static_cast<std::size_t>(m_tables->currentIndex()))));
    });
}

void LedgerPage::mouseDoubleClickEvent(QMouseEvent* event) {
    if (event->position().y() < m_tables->y())
        emit foldRequested();
}

void LedgerPage::addTool(QWidget* tool) { m_head->addWidget(tool); }

} // namespace pyro
