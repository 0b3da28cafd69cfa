#include "app/stages/limits/limits_page.h"

#include "app/theme/theme.h"
#include "core/feedback/counted.h"
#include "core/limits/judge.h"
#include "core/readings/estimate_reading.h"
#include "core/report/estimate_text.h"
#include "core/report/limit_text.h"
#include "core/survey/edit.h"
#include "core/survey/typed_unit.h"
#include "render/text.h"

#include <fmt/format.h>
#include <numeric>

namespace pyro {
namespace {

// What the rows are drawn from, as it was when the table was filled.
struct Shown {
    Survey survey;
    CaseEntry entry;
    std::vector<LimitReading> verdicts; // empty while nothing is judged
    std::vector<PowerReading> powers;
    std::shared_ptr<const Estimate> estimate; // null: none is asked for
    std::vector<std::size_t> order;
    TemperatureUnit unit = TemperatureUnit::Celsius;

    std::size_t at(int row) const { return order[static_cast<std::size_t>(row)]; }
    const Limit& limit(int row) const { return survey.limits[at(row)]; }
    const LimitReading* reading(int row) const { return verdicts.empty() ? nullptr : &verdicts[at(row)]; }
    const PowerReading* power(int row) const {
        const auto found = limit(row).target.kind == TargetKind::Part
                               ? std::ranges::find(powers, limit(row).target.name, &PowerReading::part)
                               : powers.end();
        return found == powers.end() ? nullptr : &*found;
    }
    std::string name(int row) const {
        const auto& target = limit(row).target;
        return target.kind == TargetKind::Part ? shownName(entry, target.name)
                                               : fmt::format("{} {}", targetKindName(target.kind), target.name);
    }
    std::string allowed(int row) const {
        const auto* one = reading(row);
        if (one == nullptr || !one->limit)
            return limit(row).max   ? limit(row).max->text
                   : limit(row).min ? fmt::format("at least {}", limit(row).min->text)
                                    : std::string();
        return fmt::format("{}{}", one->isMaximum ? "" : "at least ", limitLevel(*one, one->limit, unit));
    }
    std::string powerText(int row) const {
        const auto* one = power(row);
        if (one == nullptr)
            return {};
        const auto watt = [](double value) { return fmt::format("{:.4g} W", value); };
        if (!one->given || !one->found)
            return one->given ? watt(*one->given) : fmt::format("{} found", watt(*one->found));
        const bool same = std::abs(*one->given - *one->found) <= 0.01 * std::abs(*one->given);
        return same ? watt(*one->given) : fmt::format("{}, {} found", watt(*one->given), watt(*one->found));
    }
    std::string whenText(int row) const {
        const auto* one = reading(row);
        if (one == nullptr || !one->time)
            return {};
        auto over = overTimeText(*one);
        if (one->form->judgeHistory != nullptr)
            return over;
        return fmt::format("worst at {:.4g} s{}{}", *one->time, over.empty() ? "" : "; ", over);
    }
};

bool holdsWords(const std::string& text, const QString& words) {
    const auto parts = words.split(' ', Qt::SkipEmptyParts);
    return std::ranges::all_of(parts, [&](const QString& word) { return q(text).contains(word, Qt::CaseInsensitive); });
}

bool holds(const Shown& shown, int row, const QString& words) {
    const auto* one = shown.reading(row);
    const auto text = fmt::format("{} {} {} {} {}", shown.name(row), shown.limit(row).kind,
                                  limitWords(shown.limit(row)), shown.limit(row).source,
                                  one != nullptr ? verdictName(one->verdict) : "");
    return holdsWords(text, words);
}

} // namespace

LimitsPage::LimitsPage(Session& session, QWidget* parent) : LedgerPage("Verdicts", parent), m_session(session) {
    m_verdicts = addTable("limitsTable");
    m_filter = new QLineEdit;
    m_filter->setObjectName("limitFilter");
    m_filter->setPlaceholderText("Only rows with \u2026");
    m_filter->setToolTip("Words of name, type or source, or a verdict: over, tight, unknown, within");
    m_filter->setClearButtonEnabled(true);
    m_filter->setFixedWidth(170);
    addTool(m_filter);
    connect(m_filter, &QLineEdit::textChanged, this, &LimitsPage::fill);
    m_across = addLink("allCases", "All cases");
    m_across->setCheckable(true);
    m_across->setToolTip("Every limit on every case of the survey");
    connect(m_across, &QPushButton::toggled, this, &LimitsPage::fill);
    connect(addLink("exportVerdicts", "Export\u2026"), &QPushButton::clicked, this, &LimitsPage::exportRequested);
    addCopyLink("copyTable");
    auto* table = view("limitsTable");
    connect(table, &QTableView::clicked, this, [this](const QModelIndex& at) { choose(at.row()); });
    connect(table->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this, table](const QModelIndex& row) {
                if (row.isValid() && table->hasFocus())
                    choose(row.row());
            });
    connect(&session, &Session::changed, this, [this](Changes what) {
        if (what & (Change::Cases | Change::Survey | Change::View | Change::Readings))
            fill();
    });
    fill();
}

std::optional<std::size_t> LimitsPage::limitAt(int row) const {
    const auto at = static_cast<std::size_t>(row);
    return row >= 0 && at < m_order.size() ? std::optional(m_order[at]) : std::nullopt;
}

void LimitsPage::order(const std::vector<LimitReading>& verdicts) {
    m_order = byMargin(verdicts);
    if (verdicts.empty()) {
        m_order.resize(m_session.survey().limits.size());
        std::iota(m_order.begin(), m_order.end(), std::size_t{0});
    }
}

void LimitsPage::fillAcross() {
    struct Across {
        Survey survey;
        std::vector<CaseVerdicts> cases;
        std::vector<std::size_t> order;
        TemperatureUnit unit;
        const LimitReading* at(std::size_t theCase, int row) const {
            const auto limit = order[static_cast<std::size_t>(row)];
            return limit < cases[theCase].limits.size() ? &cases[theCase].limits[limit] : nullptr;
        }
    };
    auto shown = std::make_shared<Across>(
        Across{m_session.survey(), m_session.verdictsOfCases(), {}, m_session.view().unit});
    std::vector<LimitReading> worst;
    for (auto& one : worstOfCases(shown->cases))
        worst.push_back(std::move(one.reading));
    order(worst.size() == shown->survey.limits.size() ? worst : std::vector<LimitReading>());
    std::erase_if(m_order, [&](std::size_t at) {
        const auto& one = shown->survey.limits[at];
        auto text = fmt::format("{} {} {} {}", one.target.name, one.kind, limitWords(one), one.source);
        for (const auto& theCase : shown->cases)
            if (at < theCase.limits.size())
                text += fmt::format(" {}", verdictName(theCase.limits[at].verdict));
        return !holdsWords(text, m_filter->text());
    });
    shown->order = m_order;
    setTitle("Verdicts of " + q(counted(shown->cases.size(), "case")) + ": value (margin)");
    const auto limit = [shown](int row) -> const Limit& {
        return shown->survey.limits[shown->order[static_cast<std::size_t>(row)]];
    };
    std::vector<TableColumn> columns{
        {"Limit on",
         [shown, limit](int row) {
             return q(shown->survey.cases.empty() ? limit(row).target.name
                                                  : targetName(shown->survey.cases[0], limit(row).target));
         },
         false,
         {},
         {},
         {},
         {},
         130},
        {"Allowed",
         [shown](int row) {
             for (std::size_t i = 0; i < shown->cases.size(); ++i)
                 if (const auto* one = shown->at(i, row); one != nullptr && one->limit)
                     return q((one->isMaximum ? "" : "min ") + limitLevel(*one, one->limit, shown->unit));
             return QString();
         },
         true,
         {},
         {},
         {},
         {},
         90},
        {"Judged quantity", [limit](int row) { return q(judgedQuantity(limit(row))); }, false, {}, {}, {}, {}, 130}};
    for (std::size_t i = 0; i < shown->cases.size(); ++i) {
        const auto text = [shown, i](int row) {
            const auto* one = shown->at(i, row);
            if (one == nullptr || !one->margin)
                return q(one != nullptr && !one->why.empty() ? one->why
                         : shown->cases[i].why.empty()       ? std::string("unknown")
                                                             : shown->cases[i].why);
            return q(
                fmt::format("{}  ({})", limitLevel(*one, one->value, shown->unit), limitDifference(*one, one->margin)));
        };
        columns.push_back({q(shown->cases[i].name),
                           text,
                           false,
                           {},
                           {},
                           [shown, i](int row) {
                               return QVariant(theme::verdictPixmap(
                                   shown->at(i, row) != nullptr ? shown->at(i, row)->verdict : Verdict::Unknown));
                           },
                           {},
                           190});
    }
    m_verdicts->reset(static_cast<int>(m_order.size()), std::move(columns));
}

void LimitsPage::fill() {
    m_across->setVisible(m_session.survey().cases.size() > 1);
    if (m_across->isChecked() && m_across->isVisibleTo(this))
        return fillAcross();
    auto verdicts = m_session.verdicts();
    if (verdicts.size() != m_session.survey().limits.size())
        verdicts.clear(); // of before an edit
    order(verdicts);
    const auto* state = m_session.activeCase();
    const auto steps = state != nullptr ? state->series.steps.size() : 0;
    const bool waits = steps > 1 && changesWithTime(state->series) && !m_session.verdictsOverSteps();
    setTitle(m_session.verdictsOverSteps() ? QString("Verdicts, worst of %1 steps").arg(steps)
             : waits ? QString("Verdicts of step %1; reading the others\u2026").arg(state->step + 1)
                     : QString("Verdicts"));
    auto shown = std::make_shared<Shown>();
    shown->survey = m_session.survey();
    shown->entry = m_session.activeEntry() != nullptr ? *m_session.activeEntry() : CaseEntry{};
    shown->verdicts = std::move(verdicts);
    if (state != nullptr && state->readings)
        shown->powers = state->readings->powers;
    if (state != nullptr && state->readings && state->readings->estimate &&
        state->readings->estimate->limits.size() == shown->survey.limits.size())
        shown->estimate = state->readings->estimate;
    shown->unit = m_session.view().unit;
    shown->order = m_order;
    std::vector<std::size_t> left;
    for (std::size_t row = 0; row < m_order.size(); ++row)
        if (holds(*shown, static_cast<int>(row), m_filter->text()))
            left.push_back(m_order[row]);
    m_order = shown->order = left;
    const auto setter = [this, shown](LimitField field, const char* what) {
        return [this, shown, field, what](int row, const QString& text) {
            m_session.editOrComplain(
                what, withLimitField(m_session.survey(), shown->at(row), field, text.trimmed().toStdString()));
        };
    };
    const auto unit = [shown, view = m_session.view()](LimitField field) {
        return [shown, view, field](int row) { return typedUnit(shown->survey, shown->limit(row), field, view); };
    };
    const auto text = [shown](std::string (Shown::*of)(int) const) {
        return [shown, of](int row) { return q(((*shown).*of)(row)); };
    };
    const auto told = [shown](auto tell) {
        return [shown, tell](int row) {
            return shown->reading(row) == nullptr ? QString("\u2026") : q(tell(*shown->reading(row)));
        };
    };
    std::vector<TableColumn> columns{
        {"Limit on",
         text(&Shown::name),
         false,
         {},
         {},
         [shown](int row) {
             return shown->reading(row) != nullptr ? QVariant(theme::verdictPixmap(shown->reading(row)->verdict))
                                                   : QVariant();
         },
         {},
         120},
        {"Verdict",
         told([](const LimitReading& one) { return std::string(verdictName(one.verdict)); }),
         false,
         {},
         {},
         {},
         {},
         66},
        {"Value",
         told([unit = shown->unit](const LimitReading& one) { return limitLevel(one, one.value, unit); }),
         true,
         {},
         {},
         {},
         {},
         78},
        {"Allowed",
         text(&Shown::allowed),
         true,
         setter(LimitField::Max, "Allowed maximum"),
         {},
         {},
         [shown](int row) { return shown->limit(row).max ? q(shown->limit(row).max->text) : QString(); },
         84,
         false,
         unit(LimitField::Max)},
        {"Margin",
         told([](const LimitReading& one) { return limitDifference(one, one.margin); }),
         true,
         {},
         {},
         {},
         {},
         72},
        {"Required margin",
         [shown](int row) { return shown->limit(row).margin ? q(shown->limit(row).margin->text) : QString(); },
         true,
         setter(LimitField::Margin, "Required margin"),
         {},
         {},
         {},
         68,
         false,
         unit(LimitField::Margin)},
        {"Limit type",
         [shown](int row) { return q(shown->limit(row).kind); },
         false,
         setter(LimitField::Kind, "Type of limit"),
         {},
         {},
         {},
         70},
        {"Judged quantity",
         [shown](int row) { return q(judgedQuantity(shown->limit(row))); },
         false,
         {},
         {},
         {},
         {},
         130},
        {"Power", text(&Shown::powerText), true, {}, {}, {}, {}, 70},
        {"R to ambient, K/W",
         [shown](int row) {
             const auto* one = shown->power(row);
             return one != nullptr && one->resistance ? q(fmt::format("{:.3g}", *one->resistance)) : QString();
         },
         true,
         {},
         {},
         {},
         {},
         50}};
    if (shown->estimate) {
        const auto of = [shown](int row) -> const EstimatedLimit& { return shown->estimate->limits[shown->at(row)]; };
        const auto value = [shown, of](int row) {
            return q(limitLevel(of(row).reading, of(row).reading.value, shown->unit));
        };
        const std::vector<TableColumn> estimated{
            {q("Value " + estimateAt(*shown->estimate, shown->unit)),
             value,
             true,
             {},
             {},
             [of](int row) { return QVariant(theme::verdictPixmap(of(row).reading.verdict)); },
             {},
             110},
            {"Margin there",
             [of](int row) { return q(limitDifference(of(row).reading, of(row).reading.margin)); },
             true,
             {},
             {},
             {},
             {},
             84},
            {"Ambient at limit",
             [shown, of](int row) { return q(ambientAtLimit(of(row), shown->unit)); },
             true,
             {},
             {},
             {},
             {},
             100},
            {"Power at limit", [of](int row) { return q(powerAtLimit(of(row))); }, true, {}, {}, {}, {}, 92}};
        columns.insert(columns.begin() + 6, estimated.begin(), estimated.end());
    }
    if (m_session.verdictsOverSteps())
        columns.insert(columns.begin() + 6, {"Over time", text(&Shown::whenText), false, {}, {}, {}, {}, 250});
    columns.push_back({"Source",
                       [shown](int row) {
                           const auto* one = shown->reading(row);
                           return q(one != nullptr && !one->why.empty() ? one->why : shown->limit(row).source);
                       },
                       false,
                       setter(LimitField::Source, "Source of limit"),
                       {},
                       {},
                       [shown](int row) { return q(shown->limit(row).source); }});
    m_verdicts->reset(static_cast<int>(m_order.size()), std::move(columns));
}

void LimitsPage::choose(int row) {
    const auto at = limitAt(row);
    if (!at)
        return;
    m_session.selection().selectLimit(*at);
    const auto verdicts = m_session.verdicts();
    if (*at >= verdicts.size())
        return;
    const auto& limit = verdicts[*at];
    if (limit.target.kind == TargetKind::Part && limit.place)
        emit placeChosen(q(limit.target.name), limit.place->at);
}

} // namespace pyro
