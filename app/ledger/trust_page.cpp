#include "app/ledger/trust_page.h"

#include "app/stages/trust_sheet.h"
#include "app/theme/theme.h"

#include <QApplication>
#include <QClipboard>
#include <QTableView>

namespace pyro {
namespace {

QString q(const std::string& text) { return QString::fromStdString(text); }

} // namespace

TrustPage::TrustPage(Session& session, QWidget* parent) : LedgerPage("Is the field believable?", parent), m_session(session) {
    m_checks = addTable("checksTable");
    connect(addLink("copyChecks", "copy"), &QPushButton::clicked, this, [this] { QApplication::clipboard()->setText(asText(*m_checks)); });
    auto* table = view("checksTable");
    connect(table->selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this](const QModelIndex& row) {
        const auto check = at(row.row());
        m_session.markPlace(check ? check->at : std::nullopt);
        emit chosen(check);
    });
    connect(table, &QTableView::doubleClicked, this, [this](const QModelIndex& row) {
        if (const auto check = at(row.row()))
            emit placeRequested(*check);
    });
    connect(&session, &Session::changed, this, [this](Changes what) {
        if (what & (Change::Cases | Change::Survey | Change::Readings | Change::View))
            fill();
    });
    fill();
}

std::optional<Check> TrustPage::at(int row) const {
    const auto* state = m_session.activeCase();
    if (row < 0 || state == nullptr || !state->readings || static_cast<std::size_t>(row) >= state->readings->checks.size())
        return std::nullopt;
    return state->readings->checks[static_cast<std::size_t>(row)];
}

void TrustPage::fill() {
    const auto* state = m_session.activeCase();
    const auto readings = state != nullptr ? state->readings : nullptr;
    if (!readings)
        return m_checks->reset(0, {{"check", {}}});
    const auto check = [readings](int row) -> const Check& { return readings->checks[static_cast<std::size_t>(row)]; };
    m_checks->reset(static_cast<int>(readings->checks.size()),
                    {{"", [check](int row) { return q(std::string(checkStateName(check(row).state))); }, false, {}, {}, [check](int row) { return QVariant(theme::verdictPixmap(markOf(check(row).state))); }, {}, 84},
                     {"check", [check](int row) { return q(check(row).title); }, false, {}, {}, {}, {}, 290},
                     {"found", [check](int row) { return q(check(row).figure); }, false, {}, {}, {}, {}, 330},
                     {"wanted", [check](int row) { return q(check(row).threshold); }}});
}

} // namespace pyro
