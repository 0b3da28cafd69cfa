#include "app/stages/trust/trust_page.h"

#include "app/charts/chart_view.h"
#include "app/stages/trust/trust_sheet.h"
#include "app/theme/theme.h"
#include "core/units/typographic.h"
#include "render/text.h"

#include <QHeaderView>
#include <QTableView>
#include <fmt/format.h>

namespace pyro {
namespace {

Verdict markOf(Severity severity, const std::string& state) {
    if (state != "open")
        return Verdict::Within;
    return severity == Severity::Serious   ? Verdict::Over
           : severity == Severity::Warning ? Verdict::Tight
                                           : Verdict::Unknown;
}

Severity severityFrom(const QString& text) {
    return text == "serious" ? Severity::Serious : text == "note" ? Severity::Note : Severity::Warning;
}

Verdict markOf(SettlingState state) {
    return state == SettlingState::Settled    ? Verdict::Within
           : state == SettlingState::TooShort ? Verdict::Unknown
                                              : Verdict::Tight;
}

} // namespace

TrustPage::TrustPage(Session& session, QWidget* parent)
    : LedgerPage("", parent), m_session(session), m_plot(new QCustomPlot) {
    m_checks = addTable("checksTable", "Checks");
    m_findings = addTable("findingsTable", "Findings");
    m_plot->setObjectName("historyChart");
    m_plot->setMinimumWidth(300);
    m_monitored = addTableBeside("monitoredTable", "History", m_plot);
    auto* monitored = view("monitoredTable");
    monitored->setSelectionMode(QAbstractItemView::ExtendedSelection);
    connect(monitored->selectionModel(), &QItemSelectionModel::selectionChanged, this, &TrustPage::drawHistory);
    connect(m_plot, &QCustomPlot::afterLayout, this, [this] { placeLegend(*m_plot); });
    m_remove = addLink("removeFinding", "Delete finding");
    connect(m_remove, &QPushButton::clicked, this, &TrustPage::removeFinding);
    connect(addLink("exportFindings", "Export\u2026"), &QPushButton::clicked, this, &TrustPage::exportRequested);
    addCopyLink("copyChecks");
    auto* checks = view("checksTable");
    checks->setWordWrap(true); // what was found is a sentence with numbers at its end
    checks->verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    connect(checks->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& row) { choose(at(row.row())); });
    connect(checks, &QTableView::doubleClicked, this, [this](const QModelIndex& row) {
        if (const auto check = at(row.row()))
            emit placeRequested(*check);
    });
    connect(view("findingsTable"), &QTableView::clicked, this, [this](const QModelIndex& row) {
        const auto& findings = m_session.survey().findings;
        if (row.row() >= 0 && static_cast<std::size_t>(row.row()) < findings.size())
            emit findingRequested(findings[static_cast<std::size_t>(row.row())]);
    });
    connect(&session, &Session::changed, this, [this](Changes what) {
        if (what & (Change::Cases | Change::Survey | Change::Readings | Change::View))
            fill();
    });
    fill();
}

void TrustPage::showFindings() { showTable("findingsTable"); }

void TrustPage::choose(const std::optional<Check>& check) {
    m_session.selection().markPlace(check ? check->at : std::nullopt);
    m_session.markCells(check ? &*check : nullptr);
    emit chosen(check);
}

std::optional<Check> TrustPage::at(int row) const {
    const auto checks = m_session.checks();
    if (row < 0 || static_cast<std::size_t>(row) >= checks.size())
        return std::nullopt;
    return checks[static_cast<std::size_t>(row)];
}

void TrustPage::fill() {
    fillChecks();
    fillFindings();
    fillMonitored();
}

void TrustPage::fillChecks() {
    const auto* state = m_session.activeCase();
    const auto readings = state != nullptr ? state->readings : nullptr;
    if (!readings)
        return m_checks->reset(0, {{"Check", {}}});
    const auto checks = std::make_shared<const std::vector<Check>>(m_session.checks());
    const auto check = [checks](int row) -> const Check& { return (*checks)[static_cast<std::size_t>(row)]; };
    m_checks->reset(
        static_cast<int>(checks->size()),
        {{"",
          [check](int row) { return q(std::string(checkStateText(check(row).state))); },
          false,
          {},
          {},
          [check](int row) { return QVariant(theme::verdictPixmap(pyro::markOf(check(row).state))); },
          {},
          118},
         {"Check", [check](int row) { return q(check(row).title); }, false, {}, {}, {}, {}, 290},
         {"Found", [check](int row) { return q(typographic(check(row).figure)); }, false, {}, {}, {}, {}, 330},
         {"Required", [check](int row) { return q(typographic(check(row).threshold)); }}});
}

void TrustPage::fillFindings() {
    const auto findings = std::make_shared<const std::vector<Finding>>(m_session.survey().findings);
    m_remove->setVisible(!findings->empty());
    for (auto* tab : findChildren<QPushButton*>())
        if (tab->accessibleName() == "findingsTableTab")
            tab->setText(findings->empty() ? QString("Findings") : QString("Findings (%1)").arg(findings->size()));
    const auto of = [findings](int row) -> const Finding& { return (*findings)[static_cast<std::size_t>(row)]; };
    const auto setter = [this, findings](void (*change)(Finding&, const QString&)) {
        return [this, findings, change](int row, const QString& text) {
            const auto position = static_cast<std::size_t>(row);
            auto finding = (*findings)[position];
            change(finding, text);
            m_session.editOrComplain("Finding", withFindingAt(m_session.survey(), position, finding));
        };
    };
    QStringList states;
    for (const auto state : findingStates)
        states.append(q(std::string(state)));
    m_findings->reset(
        static_cast<int>(findings->size()),
        {{"Severity",
          [of](int row) { return q(std::string(severityName(of(row).severity))); },
          false,
          setter([](Finding& one, const QString& text) { one.severity = severityFrom(text); }),
          {"note", "warning", "serious"},
          [of](int row) { return QVariant(theme::verdictPixmap(markOf(of(row).severity, of(row).state))); },
          {},
          96},
         {"State",
          [of](int row) { return q(of(row).state); },
          false,
          setter([](Finding& one, const QString& text) { one.state = text.toStdString(); }),
          states,
          {},
          {},
          80},
         {"Finding",
          [of](int row) { return q(of(row).text); },
          false,
          setter([](Finding& one, const QString& text) { one.text = text.trimmed().toStdString(); }),
          {},
          {},
          {},
          430},
         {"Part", [of](int row) { return q(of(row).part); }, false, {}, {}, {}, {}, 110},
         {"Case",
          [of](int row) {
              return q(of(row).step ? fmt::format("{}, step {}", of(row).caseName, *of(row).step + 1)
                                    : of(row).caseName);
          },
          false,
          {},
          {},
          {},
          {},
          120},
         {"From", [of](int row) { return q(of(row).check); }}});
}

void TrustPage::fillMonitored() {
    const auto* state = m_session.activeCase();
    const auto readings = state != nullptr ? state->readings : nullptr;
    const auto count = readings ? static_cast<int>(readings->monitored.size()) : 0;
    const auto of = [readings](int row) -> const MonitoredValue& {
        return readings->monitored[static_cast<std::size_t>(row)];
    };
    const auto number = [](const std::optional<double>& value) {
        return value ? q(fmt::format("{:.6g}", *value)) : QString();
    };
    const auto small = [](double value) { return q(fmt::format("{:.3g}", value)); };
    m_monitored->reset(
        count, {{"",
                 [of](int row) { return q(std::string(settlingName(of(row).settling.state))); },
                 false,
                 {},
                 {},
                 [of](int row) { return QVariant(theme::verdictPixmap(markOf(of(row).settling.state))); },
                 {},
                 104},
                {"Monitored", [of](int row) { return q(of(row).title); }, false, {}, {}, {}, {}, 200},
                {"Last", [of, number](int row) { return number(of(row).last); }, true, {}, {}, {}, {}, 90},
                {"Expected final value",
                 [of, number](int row) { return number(of(row).settling.expected); },
                 true,
                 {},
                 {},
                 {},
                 {},
                 100},
                {"Drift", [of, small](int row) { return small(of(row).settling.drift); }, true, {}, {}, {}, {}, 80},
                {"Oscillation",
                 [of, small](int row) { return small(of(row).settling.oscillation); },
                 true,
                 {},
                 {},
                 {},
                 {},
                 90},
                {"Allowed", [of, small](int row) { return small(of(row).settling.allowed); }, true, {}, {}, {}, {}, 80},
                {"Values", [of](int row) { return QString::number(of(row).count); }, true}});
    drawHistory();
}

// The chosen rows; without any the first that has not settled, which stands out in the table too.
void TrustPage::drawHistory() {
    const auto* state = m_session.activeCase();
    const auto readings = state != nullptr ? state->readings : nullptr;
    ChartView view;
    ChartData chart;
    if (readings && readings->history) {
        std::vector<std::string> titles;
        for (const auto& row : this->view("monitoredTable")->selectionModel()->selectedRows())
            if (static_cast<std::size_t>(row.row()) < readings->monitored.size())
                titles.push_back(readings->monitored[static_cast<std::size_t>(row.row())].title);
        if (titles.empty() && !readings->monitored.empty()) {
            const auto moving = std::ranges::find_if(readings->monitored, [](const MonitoredValue& one) {
                return one.settling.state != SettlingState::Settled;
            });
            titles.push_back(moving == readings->monitored.end() ? readings->monitored.front().title : moving->title);
        }
        chart = historyChart(*readings->history, titles, view);
    }
    drawChart(*m_plot, chart, view);
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void TrustPage::removeFinding() {
    const int row = view("findingsTable")->currentIndex().row();
    if (row >= 0 && static_cast<std::size_t>(row) < m_session.survey().findings.size())
        m_session.edit("Delete finding", withoutFinding(m_session.survey(), static_cast<std::size_t>(row)));
}

} // namespace pyro
