#include "app/stages/gauges/gauge_page.h"

#include "core/evaluate/over_steps.h"
#include "core/quantities/gauge_keys.h"
#include "core/survey/gauge_edit.h"
#include "core/thermal/whole_heat.h"
#include "core/units/millimetres.h"
#include "core/units/typographic.h"
#include "render/text.h"

#include <QHeaderView>
#include <QMenu>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace pyro {
namespace {

constexpr int widthForSpots = 420; // pixels: their table is the wider one

QString shownUnitText(const std::string& unit) { return unit == "1" ? QString() : q(unitText(unit)); }

QString numberText(const Gauge& gauge, const GaugeReading& reading) {
    if (reading.profile) {
        double low = std::nan("");
        double high = std::nan("");
        for (const double value : reading.profile->value) {
            low = std::fmin(low, value);
            high = std::fmax(high, value);
        }
        return q(reading.isTemperature ? formatNumber(low) + " \u2026 " + formatNumber(high)
                                       : fmt::format("{:.3g} \u2026 {:.3g}", low, high));
    }
    if (!reading.value)
        return "not available";
    return q(gaugeNumber(gauge, *reading.value, reading.isTemperature));
}

QString noteOf(const GaugeReading& reading) {
    QStringList words;
    if (!reading.why.empty())
        words.append(q(reading.why));
    if (!reading.reference.empty())
        words.append("against " + q(reading.reference));
    if (!reading.method.empty())
        words.append(q(reading.method));
    if (reading.spread)
        words.append(q(fmt::format("\u00b1 {:.3g} from the first to the second layer of cells", *reading.spread)));
    if (reading.gradientValue)
        words.append(q(fmt::format("gradient {:.5g}", *reading.gradientValue)));
    if (reading.outside)
        words.append(q(formatShare(*reading.outside) + " outside of the mesh"));
    if (reading.covered && *reading.covered < 1)
        words.append(q(formatShare(*reading.covered) + " of the place lies in both cases"));
    if (reading.place)
        words.append(q(fmt::format("at {:.1f} {:.1f} {:.1f} mm", millimetres(reading.place->at[0], 0.1),
                                   millimetres(reading.place->at[1], 0.1), millimetres(reading.place->at[2], 0.1))));
    return words.join(", ");
}

// What the rows of the table read from, kept as long as the table shows it.
struct GaugeRows {
    struct Column { // one case
        QString name;
        std::shared_ptr<const Readings> readings;
        std::vector<GaugeReading> overSteps;
        bool waiting; // for its steps
    };
    Survey survey;
    std::vector<std::size_t> order; // gauges by row
    std::vector<Column> columns;

    explicit GaugeRows(const Session& session) : survey(session.survey()), order(survey.gauges.size()) {
        std::iota(order.begin(), order.end(), std::size_t{0});
        for (const auto& entry : survey.cases)
            if (const auto* state = session.stateOf(entry))
                columns.push_back(
                    {q(entry.name), state->readings,
                     state->history ? readOverSteps(survey.gauges, *state->history) : std::vector<GaugeReading>(),
                     state->series.steps.size() > 1 && !state->history});
    }

    std::size_t at(int row) const { return order[static_cast<std::size_t>(row)]; }
    const Gauge& gauge(int row) const { return survey.gauges[at(row)]; }

    // Nothing while it is being read.
    std::optional<GaugeReading> reading(std::size_t column, int row) const {
        const auto& from = columns[column];
        if (readsOverSteps(survey.gauges, gauge(row))) {
            const auto found = std::ranges::find(from.overSteps, gauge(row).id, &GaugeReading::id);
            if (found != from.overSteps.end())
                return *found;
            if (from.waiting)
                return std::nullopt;
            GaugeReading none;
            none.why = "the case has one step only";
            return none;
        }
        if (!from.readings || at(row) >= from.readings->gauges.size() ||
            from.readings->gauges[at(row)].id != gauge(row).id)
            return std::nullopt;
        return from.readings->gauges[at(row)];
    }
    QString unit(int row) const {
        for (std::size_t i = 0; i < columns.size(); ++i)
            if (const auto one = reading(i, row); one && one->read())
                return shownUnitText(one->unit);
        return shownUnitText(gauge(row).unit);
    }
    QString what(int row) const {
        const auto& one = gauge(row);
        return !one.formula.empty() ? QString("formula")
                                    : q(one.quantity).replace('_', ' ') +
                                          (one.statistic.empty() ? "" : ", " + q(one.statistic).replace('_', ' '));
    }
    QString note(int row) const {
        QStringList notes;
        for (std::size_t i = 0; i < columns.size(); ++i)
            if (const auto one = reading(i, row))
                if (const auto words = noteOf(*one); !words.isEmpty() && !notes.contains(words))
                    notes.append(words);
        return notes.join(" | ");
    }
};

} // namespace

GaugePage::GaugePage(Session& session, QWidget* parent)
    : QSplitter(Qt::Horizontal, parent), m_session(session), m_page(new LedgerPage("", this)),
      m_beside(new QStackedWidget), m_chart(new ChartPanel(session)), m_termsPage(new LedgerPage("Terms", this)) {
    setHandleWidth(1);
    setChildrenCollapsible(false);
    m_readings = m_page->addTable("gaugeTable", "Gauges");
    m_balances = m_page->addTable("balanceTable", "Balances");
    m_flows = m_page->addTable("flowTable", "Boundaries");
    m_links = m_page->addTable("linkTable", "Heat between parts");
    m_page->addCopyLink("copyGauges");
    auto* write = m_page->addLink("exportGauges", "Export\u2026");
    addWidget(m_page);
    m_terms = m_termsPage->addTable("termsTable");
    auto* terms = m_termsPage->view("termsTable");
    terms->setWordWrap(true); // origins are sentences
    terms->verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_termsPage->addCopyLink("copyTerms");
    m_beside->addWidget(m_chart);
    m_beside->addWidget(m_termsPage);
    m_spots = new SpotPage(session, this);
    m_beside->addWidget(m_spots);
    connect(m_spots, &SpotPage::placeRequested, this, &GaugePage::placeRequested);
    auto* map = m_page->addLink("heatFlowDiagramLink", "Flow diagram");
    map->setToolTip("Heat flow diagram of the assembly (M): which way the heat goes, and what resists it");
    connect(map, &QPushButton::clicked, this, &GaugePage::heatFlowDiagramRequested);
    m_beside->setMinimumWidth(300); // a window of 1280 holds both
    addWidget(m_beside);
    setSizes({520, 420});
    // The balances have no curve: their tables take the whole width.
    if (auto* tables = m_page->findChild<QStackedWidget*>())
        connect(tables, &QStackedWidget::currentChanged, m_beside,
                [this](int table) { m_beside->setVisible(table == 0); });
    connect(write, &QPushButton::clicked, this, &GaugePage::exportRequested);
    auto* view = m_page->view("gaugeTable");
    connect(view->selectionModel(), &QItemSelectionModel::currentRowChanged, this, [this](const QModelIndex& row) {
        if (row.isValid() && !m_choosing)
            chooseRow(row.row());
    });
    view->horizontalHeader()->setSectionsClickable(true);
    connect(view->horizontalHeader(), &QHeaderView::sectionClicked, this, &GaugePage::sortBy);
    view->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(view, &QTableView::customContextMenuRequested, this, [this, view](const QPoint& at) {
        QMenu menu;
        menu.addAction("Delete this gauge", this, &GaugePage::removeRequested);
        menu.exec(view->viewport()->mapToGlobal(at));
    });
    connect(&session, &Session::changed, this, &GaugePage::follow);
    follow(~Changes());
}

void GaugePage::follow(Changes what) {
    if (what & (Change::Cases | Change::Survey | Change::View | Change::Readings)) {
        fillReadings();
        fillHeat();
    }
    if (what & (Change::Cases | Change::Survey | Change::Selection | Change::Readings))
        fillTerms();
    if (!(what & (Change::Selection | Change::Survey | Change::Cases)))
        return;
    const auto at = m_session.selection().selectedGaugeAt();
    const auto row = at ? std::ranges::find(m_order, *at) - m_order.begin() : -1;
    m_choosing = true;
    auto* view = m_page->view("gaugeTable");
    if (row >= 0 && row < static_cast<std::ptrdiff_t>(m_order.size())) {
        if (view->currentIndex().row() != row || !view->selectionModel()->hasSelection())
            view->selectRow(static_cast<int>(row)); // not again: it would close an editor that is open there
    } else
        view->clearSelection();
    m_choosing = false;
}

void GaugePage::chooseRow(int row) {
    if (row < static_cast<int>(m_order.size()))
        m_session.selection().selectGauge(m_session.survey().gauges[m_order[static_cast<std::size_t>(row)]].id);
}

// Once rising, once falling, then as in the survey again.
void GaugePage::sortBy(int column) {
    if (m_sorted != column) {
        m_sorted = column;
        m_descending = false;
    } else if (!m_descending) {
        m_descending = true;
    } else {
        m_sorted = -1;
    }
    fillReadings();
    follow(Change::Selection);
}

void GaugePage::orderRows(const std::vector<TableColumn>& columns) {
    m_order.resize(m_session.survey().gauges.size());
    std::iota(m_order.begin(), m_order.end(), std::size_t{0});
    if (m_sorted < 0 || m_sorted >= static_cast<int>(columns.size()))
        return;
    const auto& shown = columns[static_cast<std::size_t>(m_sorted)];
    std::vector<QString> keys;
    for (std::size_t i = 0; i < m_order.size(); ++i)
        keys.push_back(shown.text(static_cast<int>(i)));
    std::ranges::stable_sort(m_order, [&](std::size_t a, std::size_t b) {
        bool aNumber = false;
        bool bNumber = false;
        const double x = keys[a].section(' ', 0, 0).toDouble(&aNumber);
        const double y = keys[b].section(' ', 0, 0).toDouble(&bNumber);
        if (aNumber != bNumber)
            return aNumber;
        if (aNumber)
            return m_descending ? x > y : x < y;
        return m_descending ? keys[b].localeAwareCompare(keys[a]) < 0 : keys[a].localeAwareCompare(keys[b]) < 0;
    });
}

void GaugePage::fillReadings() {
    const auto rows = std::make_shared<GaugeRows>(m_session);
    const auto field = [this, rows](GaugeField which, const char* what) {
        return [this, rows, which, what](int row, const QString& text) {
            m_session.editOrComplain(what,
                                     withGaugeField(m_session.survey(), rows->at(row), which, text.toStdString()));
        };
    };
    std::vector<TableColumn> shown{{"Gauge",
                                    [rows](int row) { return q(rows->gauge(row).id); },
                                    false,
                                    [this, rows](int row, const QString& text) { rename(rows->at(row), text); },
                                    {},
                                    {},
                                    {},
                                    110}};
    for (std::size_t i = 0; i < rows->columns.size(); ++i)
        shown.push_back({rows->columns.size() == 1 ? QString("Value") : rows->columns[i].name,
                         [rows, i](int row) {
                             const auto one = rows->reading(i, row);
                             return one ? numberText(rows->gauge(row), *one) : QString("\u2026");
                         },
                         true,
                         {},
                         {},
                         {},
                         {},
                         96});
    shown.push_back({"Unit",
                     [rows](int row) { return rows->unit(row); },
                     false,
                     field(GaugeField::Unit, "Unit of gauge"),
                     {},
                     {},
                     [rows](int row) { return q(rows->gauge(row).unit); },
                     70});
    shown.push_back({"Place", [rows](int row) { return q(placeText(rows->gauge(row))); }, false, {}, {}, {}, {}, 150});
    shown.push_back({"Quantity", [rows](int row) { return rows->what(row); }, false, {}, {}, {}, {}, 130});
    shown.push_back({"Group",
                     [rows](int row) { return q(gaugeKey(rows->gauge(row), "group")); },
                     false,
                     field(GaugeField::Group, "Group of gauge"),
                     {},
                     {},
                     {},
                     60});
    shown.push_back({"Note", [rows](int row) { return rows->note(row); }});
    const auto count = static_cast<int>(rows->survey.gauges.size());
    orderRows(shown); // by the texts in the order of the survey
    rows->order = m_order;
    m_readings->reset(count, std::move(shown));
}

void GaugePage::rename(std::size_t gauge, const QString& id) {
    const bool chosen = m_session.selection().selectedGaugeAt() == gauge;
    auto renamed = withGaugeId(m_session.survey(), gauge, id.toStdString());
    const bool good = renamed.has_value();
    m_session.editOrComplain("Rename gauge", std::move(renamed));
    if (good && chosen)
        m_session.selection().selectGauge(id.toStdString());
}

// Balances of parts, what passes boundaries, and the heat from part to part.
void GaugePage::fillHeat() {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->readings || !state->readings->balances) {
        m_balances->reset(0, {{"Part", {}}});
        m_flows->reset(0, {{"Boundary", {}}});
        m_links->reset(0, {{"Heat from", {}}});
        return;
    }
    const auto& entry = *m_session.activeEntry();
    m_balances->reset(shownBalances(entry, *state->readings));
    m_flows->reset(shownFlows(*state->readings, m_session.view().unit));
    m_links->reset(shownLinks(entry, *state->readings));
}

// What the chosen gauge is the sum of, on the case that is shown.
void GaugePage::fillTerms() {
    const auto* state = m_session.activeCase();
    const GaugeReading* gauge = nullptr;
    if (state != nullptr && state->readings)
        for (const auto& reading : state->readings->gauges)
            if (reading.id == m_session.selection().selectedGauge())
                gauge = &reading;
    const auto derivation = gauge != nullptr ? gauge->derivation : nullptr;
    const bool spots = derivation && !derivation->spots.empty();
    m_beside->setCurrentWidget(spots ? m_spots : derivation ? static_cast<QWidget*>(m_termsPage) : m_chart);
    if (spots) {
        if (m_beside->width() < widthForSpots)
            setSizes({width() - widthForSpots, widthForSpots});
        return m_spots->fill();
    }
    if (!derivation)
        return;
    m_termsPage->setTitle("What " + q(m_session.selection().selectedGauge()) + " is made of, " +
                          q(m_session.activeEntry()->name));
    auto terms = shownTerms(*gauge);
    for (auto& row : terms.rows) // in full on the command line and in files
        row[2] = typographic(row[2].substr(0, row[2].find(": ")));
    m_terms->reset(std::move(terms), {108});
}

} // namespace pyro
