#include "app/stages/compare/compare_sheet.h"

#include "app/theme/theme.h"
#include "core/limits/judge.h"
#include "core/report/limit_text.h"
#include "core/report/shown/shown_table.h"
#include "core/survey/edit.h"
#include "render/text.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace pyro {
namespace {

// The verdict of a case with its least margin.
struct Standing {
    Verdict verdict = Verdict::Unknown;
    QString margin; // "5.4 K"
    QString about;  // what has it, or why it is not known
};

Standing standingOf(const Session& session, const CaseEntry& entry) {
    Standing out;
    for (const auto& one : session.verdictsOfCases()) {
        if (one.name != entry.name)
            continue;
        if (!one.why.empty()) {
            out.about = q(one.why);
            return out;
        }
        out.verdict = verdictOf(one.limits);
        for (const auto at : byMargin(one.limits))
            if (one.limits[at].margin) {
                out.margin = q(limitDifference(one.limits[at], one.limits[at].margin));
                out.about = q(targetName(entry, one.limits[at].target));
                return out;
            }
        return out;
    }
    out.about = "not evaluated yet";
    return out;
}

} // namespace

CompareSheet::CompareSheet(Session& session, QWidget* parent) : Sheet(session, "Compare", parent) {
    heading("Baseline");
    auto* row = new QHBoxLayout;
    m_baseline = new QComboBox;
    m_baseline->setObjectName("baselineBox");
    m_baseline->setToolTip("The case that all others are held against");
    m_baselineFigure = new QLabel;
    m_baselineFigure->setObjectName("baselineFigure");
    row->addWidget(m_baseline, 1);
    row->addWidget(m_baselineFigure);
    m_layout->addLayout(row);
    connect(m_baseline, &QComboBox::activated, this, [this](int at) {
        m_session.edit("Choose baseline", withBaseline(m_session.survey(), m_baseline->itemText(at).toStdString()));
    });
    heading("Show");
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(6);
    auto* more = new QHBoxLayout;
    more->setSpacing(6);
    m_show = new QButtonGroup(this);
    for (const auto& [how, name, text, tip] :
         {std::tuple{CompareShow::SideBySide, "showSideBySide", "Side by side", "Each case in a picture of its own"},
          {CompareShow::Wipe, "showWipe", "Wipe", "The first ticked variant over the baseline, with an edge to drag"},
          {CompareShow::Difference, "showDifference", "Difference", "What each variant differs by from the baseline"},
          {CompareShow::Measured, "showMeasured", "Measured", "Measured data beside the cases"},
          {CompareShow::Sweep, "showSweep", "Sweep", "The picture of the sweep"}}) {
        auto* button = small(how == CompareShow::Measured || how == CompareShow::Sweep ? more : buttons, name, text,
                             tip);
        button->setCheckable(true);
        m_show->addButton(button, static_cast<int>(how));
    }
    m_layout->addLayout(buttons);
    m_layout->addLayout(more);
    connect(m_show, &QButtonGroup::idClicked, this, [this](int id) { show(static_cast<CompareShow>(id)); });
    m_showHint = hint();
    heading("Variants");
    auto* column = scrolled();
    auto* variants = new QWidget;
    m_variants = new QVBoxLayout(variants);
    m_variants->setContentsMargins(0, 0, 0, 0);
    m_variants->setSpacing(6);
    column->addWidget(variants);
    column->addStretch();
    m_sweepHead = new QLabel("SWEEP");
    m_sweepHead->setObjectName("heading");
    m_layout->addWidget(m_sweepHead);
    m_sweep = hint();
    m_sweep->setAccessibleName("sweepText");
    m_gridsHead = new QLabel("GRID CONVERGENCE");
    m_gridsHead->setObjectName("heading");
    m_layout->addWidget(m_gridsHead);
    m_grids = hint();
    m_grids->setObjectName("gridsText");
    m_measuredHead = new QLabel("MEASURED");
    m_measuredHead->setObjectName("heading");
    m_layout->addWidget(m_measuredHead);
    m_measured = hint();
    m_measured->setAccessibleName("measuredText");
    m_deviations = new QCheckBox("Label the places in the pictures");
    m_deviations->setObjectName("deviationLabels");
    m_layout->addWidget(m_deviations);
    connect(m_deviations, &QCheckBox::clicked, this, [this](bool on) {
        auto view = m_session.view();
        view.compare.deviations = on;
        m_session.editView(on ? "Label measured places" : "No labels of measured places", view);
    });
    session.listen(this, contents, &CompareSheet::refresh);
    refresh();
}

void CompareSheet::show(CompareShow how) {
    auto view = m_session.view();
    view.compare.show = how;
    m_session.editView("Show cases", view);
}

void CompareSheet::refresh() {
    const auto cases = m_session.comparedCases();
    m_baseline->clear();
    for (const auto& entry : m_session.survey().cases)
        m_baseline->addItem(q(entry.name));
    m_baseline->setEnabled(m_baseline->count() > 1);
    if (!cases.empty()) {
        m_baseline->setCurrentText(q(cases.front()->name));
        const auto standing = standingOf(m_session, *cases.front());
        m_baselineFigure->setPixmap(theme::verdictPixmap(standing.verdict));
        m_baselineFigure->setToolTip(standing.about + " " + standing.margin);
    }
    fillVariants();
    fillGrids();
    fillMeasured();
    fillSweep();
    const auto show = m_session.view().compare.show;
    for (auto* button : m_show->buttons())
        button->setChecked(m_show->id(button) == static_cast<int>(show));
    m_showHint->setText(show == CompareShow::Difference
                            ? "case minus baseline at the same places; its own scale, zero in the middle"
                        : show == CompareShow::Sweep ? "all cases of the sweep; choose above the picture what is drawn"
                        : show == CompareShow::Measured ? "the cases, and what was measured on them"
                                                        : "one camera, one range, one section, the same time");
}

void CompareSheet::fillVariants() {
    while (auto* item = m_variants->takeAt(0)) {
        if (item->widget() != nullptr)
            item->widget()->deleteLater();
        delete item;
    }
    const auto cases = m_session.comparedCases();
    for (std::size_t i = 1; i < cases.size(); ++i)
        m_variants->addWidget(variantRow(*cases[i]));
    if (cases.size() < 2) {
        auto* none = new QLabel("There is one case only. Open another one (Ctrl+O) to compare it with this one.");
        none->setObjectName("hint");
        none->setWordWrap(true);
        m_variants->addWidget(none);
    }
}

// Name and parameters, least margin and verdict; ticked while it is seen beside the baseline.
QWidget* CompareSheet::variantRow(const CaseEntry& entry) {
    auto* card = new QFrame;
    card->setObjectName("card");
    auto* row = new QHBoxLayout(card);
    row->setContentsMargins(10, 6, 10, 6);
    auto* tick = new QCheckBox(q(entry.name));
    tick->setAccessibleName("variant " + q(entry.name));
    tick->setToolTip("Whether it is seen beside the baseline; the table compares all cases");
    tick->setChecked(!m_session.view().compare.left.contains(entry.name));
    connect(tick, &QCheckBox::clicked, this, [this, name = entry.name](bool on) {
        auto view = m_session.view();
        if (on)
            view.compare.left.erase(name);
        else
            view.compare.left.insert(name);
        m_session.editView(on ? "Show variant" : "Leave variant out", view);
    });
    auto* names = new QVBoxLayout;
    names->setSpacing(1);
    names->addWidget(tick);
    if (!entry.parameters.empty()) {
        std::vector<std::string> words;
        for (const auto& [name, value] : entry.parameters)
            words.push_back(name + " " + value);
        auto* about = new QLabel(q(fmt::format("{}", fmt::join(words, ", "))));
        about->setObjectName("hint");
        names->addWidget(about);
    }
    row->addLayout(names, 1);
    const auto standing = standingOf(m_session, entry);
    auto* margin = new QLabel(standing.margin);
    margin->setToolTip("Least margin: " + standing.about);
    row->addWidget(margin);
    auto* mark = new QLabel;
    mark->setPixmap(theme::verdictPixmap(standing.verdict));
    mark->setToolTip(q(std::string(verdictName(standing.verdict))));
    row->addWidget(mark);
    return card;
}

// How many hold every limit, and the best.
void CompareSheet::fillSweep() {
    const auto sweep = m_session.sweep();
    m_sweepHead->setVisible(sweep != nullptr);
    m_sweep->setVisible(sweep != nullptr);
    if (!sweep)
        return;
    const auto sentences = sweepSentences(m_session.survey(), *sweep);
    QStringList lines;
    for (std::size_t i = 0; i < std::min<std::size_t>(sentences.size(), sweep->best.empty() ? 3 : 4); ++i)
        lines.append(q(sentences[i]));
    m_sweep->setText(lines.join("\n"));
    QStringList all;
    for (const auto& sentence : sentences)
        all.append(q(sentence));
    m_sweep->setToolTip(all.join("\n"));
}

void CompareSheet::fillMeasured() {
    QStringList lines;
    for (const auto& one : m_session.openRun().cases)
        for (const auto& reading : one.measured)
            lines.append(q(reading.id + ", " + one.name + ": " + measuredText(reading)));
    m_measuredHead->setVisible(!lines.isEmpty());
    m_measured->setVisible(!lines.isEmpty());
    m_measured->setText(lines.join("\n"));
    m_deviations->setVisible(!lines.isEmpty());
    m_deviations->setChecked(m_session.view().compare.deviations);
}

// The widest uncertainty of each study, or why there is none.
void CompareSheet::fillGrids() {
    QStringList lines;
    for (const auto& study : m_session.openRun().grids) {
        if (!study.why.empty()) {
            lines.append(q(study.why));
            continue;
        }
        std::size_t told = 0;
        for (const auto& row : study.rows)
            told += row.why.empty() && row.found.state == GridState::Monotone ? 1 : 0;
        lines.append(q(fmt::format("{} meshes, finest {}: {} of {} values converge monotonically", study.cases.size(),
                                   study.cases.front(), told, study.rows.size())));
    }
    m_gridsHead->setVisible(!lines.isEmpty());
    m_grids->setVisible(!lines.isEmpty());
    m_grids->setText(lines.join("\n"));
}

} // namespace pyro
