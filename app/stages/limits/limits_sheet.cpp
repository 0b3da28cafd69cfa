#include "app/stages/limits/limits_sheet.h"

#include "app/stages/limits/ambient_card.h"
#include "app/stages/limits/limit_editor.h"
#include "core/limits/judge.h"
#include "core/limits/touch_limits.h"
#include "core/report/limit_text.h"
#include "core/survey/edit.h"
#include "render/text.h"

#include <QHBoxLayout>
#include <fmt/format.h>

namespace pyro {

LimitsSheet::LimitsSheet(Session& session, QWidget* parent) : Sheet(session, "Limits", parent) {
    QVBoxLayout* layout = nullptr;
    card(layout);
    m_counts = new QLabel;
    m_counts->setTextFormat(Qt::RichText);
    m_counts->setObjectName("limitCounts");
    m_worst = new QLabel;
    m_worst->setObjectName("limitWorst");
    m_worst->setWordWrap(true);
    layout->addWidget(m_counts);
    layout->addWidget(m_worst);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    m_add = small(row, "addLimit", "Add", "A limit on the hottest part that has none yet");
    connect(m_add, &QPushButton::clicked, this, &LimitsSheet::addLimit);
    connect(small(row, "importLimits", "Import\u2026", "From CSV or a spreadsheet, with a preview"),
            &QPushButton::clicked, this, &LimitsSheet::importRequested);
    row->addStretch();
    m_layout->addLayout(row);
    row = new QHBoxLayout;
    row->setSpacing(6);
    m_more = small(row, "touchLimits", "Touch temperatures\u2026", "Published limits of surfaces that are touched");
    m_touch = new QMenu(this);
    m_touch->setObjectName("touchMenu");
    m_more->setMenu(m_touch);
    m_isotherm = small(row, "limitIsotherm", "Show as isotherm", "The chosen limit as an isotherm in the viewport");
    connect(m_isotherm, &QPushButton::clicked, this, &LimitsSheet::isothermRequested);
    row->addStretch();
    m_layout->addLayout(row);
    auto* column = scrolled();
    auto* form = new LimitEditor(session);
    connect(form, &LimitEditor::removeRequested, this, &LimitsSheet::removeRequested);
    column->addWidget(form);
    column->addWidget(new AmbientCard(session));
    column->addStretch();
    connect(m_touch, &QMenu::aboutToShow, this, &LimitsSheet::fillTouchMenu);
    session.listen(this, contents, &LimitsSheet::refresh);
    refresh();
}

void LimitsSheet::addLimit() {
    Limit limit;
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->opened)
        return;
    // The hottest part that has none yet, allowed what is asked for next.
    const RegionReading* hottest = nullptr;
    if (state->readings)
        for (const auto& part : state->readings->parts) {
            const bool has = std::ranges::any_of(m_session.survey().limits, [&](const Limit& one) {
                return one.target == LimitTarget{TargetKind::Part, part.name};
            });
            if (!has && part.max && (hottest == nullptr || part.max->kelvin > hottest->max->kelvin))
                hottest = &part;
        }
    limit.target.name = hottest != nullptr ? hottest->name : state->opened->solved->parts.front().name;
    const auto at = m_session.survey().limits.size();
    m_session.edit("Add limit", withLimit(m_session.survey(), limit));
    m_session.selection().selectLimit(at);
}

void LimitsSheet::fillTouchMenu() {
    m_touch->clear();
    const auto limits = touchLimits();
    for (std::size_t i = 0; i < limits.size(); ++i)
        m_touch->addAction(
            q(fmt::format("{}, {}: {:.0f} \u00b0C", limits[i].material, limits[i].contact, limits[i].kelvin - 273.15)),
            this, [this, i] { addTouchLimit(i); });
    m_touch->addSeparator();
    m_touch->addAction("Burn thresholds after ISO 13732-1, not yet compared with the standard")->setEnabled(false);
}

// On the boundary of the chosen limit, else on the part chosen in the viewport, else on the first boundary.
void LimitsSheet::addTouchLimit(std::size_t which) {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->opened)
        return;
    const auto& one = touchLimits()[which];
    Limit limit;
    const auto chosen = m_session.selection().selectedLimit();
    if (chosen && m_session.survey().limits[*chosen].target.kind == TargetKind::Boundary)
        limit.target = m_session.survey().limits[*chosen].target;
    else if (!m_session.selection().selectedPart().empty())
        limit.target = {TargetKind::Part, m_session.selection().selectedPart()};
    else if (!state->opened->solved->boundaries.empty())
        limit.target = {TargetKind::Boundary, state->opened->solved->boundaries.front().name};
    else
        limit.target = {TargetKind::Part, state->opened->solved->parts.front().name};
    limit.max = Bound{fmt::format("{:g} degC", one.kelvin - 273.15), one.kelvin};
    limit.kind = fmt::format("touch, {}", one.contact);
    limit.source = fmt::format("{}, {}", touchLimitSource, one.material);
    const auto at = m_session.survey().limits.size();
    m_session.edit("Add touch limit", withLimit(m_session.survey(), limit));
    m_session.selection().selectLimit(at);
}

QString LimitsSheet::worstText() const {
    const auto cases = m_session.verdictsOfCases();
    const auto worstOf = worstOfCases(cases);
    std::vector<LimitReading> readings;
    for (const auto& one : worstOf)
        readings.push_back(one.reading);
    const auto at = byMargin(readings).front();
    const auto& worst = readings[at];
    const auto& caseName = cases[worstOf[at].theCase].name;
    const auto name = targetName(*m_session.survey().caseNamed(caseName), worst.target) +
                      (cases.size() > 1 ? " in " + caseName : "");
    if (!worst.margin || !worst.limit)
        return q(name + ": " + worst.why);
    auto size = worst;
    size.margin = std::abs(*worst.margin);
    const bool over = worst.verdict == Verdict::Over;
    auto text = fmt::format("{} {} {} by {}", name,
                            worst.isMaximum ? over ? "exceeds" : "stays below"
                            : over          ? "falls below"
                                            : "stays above",
                            limitLevel(worst, worst.limit, m_session.view().unit), limitDifference(size, size.margin));
    if (const auto when = overTimeText(worst); !when.empty())
        text += "; " + when;
    return q(text);
}

void LimitsSheet::refresh() {
    const auto* state = m_session.activeCase();
    const bool open = state != nullptr && state->opened.has_value();
    m_add->setEnabled(open);
    m_more->setEnabled(open);
    const auto chosen = m_session.selection().selectedLimit();
    m_isotherm->setEnabled(chosen && isTemperatureLimit(m_session.survey().limits[*chosen]) &&
                           m_session.survey().limits[*chosen].max);
    const auto cases = m_session.verdictsOfCases();
    const auto failed = std::ranges::find_if(cases, [](const CaseVerdicts& one) { return !one.why.empty(); });
    if (worstOfCases(cases).empty() && failed != cases.end() && !m_session.survey().limits.empty()) {
        m_counts->setText("<b>unknown</b>");
        m_worst->setText(q(fmt::format("{} cannot be read: {}", failed->name, failed->why)));
        return;
    }
    if (worstOfCases(cases).empty() || m_session.survey().limits.empty()) {
        m_counts->setText(m_session.survey().limits.empty() ? "No limits yet" : "Not evaluated yet");
        m_worst->setText(m_session.survey().limits.empty() ? "Add a limit, or import a table of them." : "");
        return;
    }
    auto count = countOfCases(cases);
    QStringList words;
    for (const auto verdict : {Verdict::Over, Verdict::Unknown, Verdict::Tight, Verdict::Within})
        if (count[verdict] > 0)
            words.append(QString("<b>%1</b> %2").arg(count[verdict]).arg(q(std::string(verdictName(verdict)))));
    m_counts->setText(words.join(" &nbsp;&nbsp; "));
    m_worst->setText(worstText());
}

} // namespace pyro
