#include "app/charts/reference_dialog.h"

#include "core/survey/typed_unit.h"
#include "core/units/display.h"
#include "core/units/written.h"
#include "render/text.h"

#include <QGridLayout>
#include <algorithm>
#include <fmt/format.h>

namespace pyro {

ReferenceDialog::ReferenceDialog(const std::optional<ReferenceCurve>& given, QWidget* parent)
    : QDialog(parent), m_kind(new QComboBox), m_fluid(new QComboBox), m_about(new QLabel), m_state(new QLabel),
      m_take(new QPushButton(given ? "Change" : "Add to the chart")) {
    setObjectName("referenceDialog");
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle("Reference curve");
    const auto start = given.value_or(ReferenceCurve{std::string(correlations().front().key), {}, 0});
    m_kind->setObjectName("referenceKind");
    for (const auto& one : correlations())
        m_kind->addItem(q(one.title), q(one.key));
    m_kind->setCurrentIndex(std::max(0, m_kind->findData(q(start.correlation))));
    m_fluid->setObjectName("referenceFluid");
    m_fluid->addItem("its own values");
    for (const auto& fluid : referenceFluids())
        m_fluid->addItem(q(fluid.name));
    m_about->setWordWrap(true);
    m_about->setObjectName("hint");
    m_about->setMinimumWidth(380);
    m_state->setWordWrap(true);
    m_state->setObjectName("referenceState");
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(16, 14, 16, 14);
    grid->setVerticalSpacing(6);
    grid->addWidget(m_kind, 0, 0, 1, 3);
    grid->addWidget(m_about, 1, 0, 1, 3);
    grid->addWidget(new QLabel("Fluid"), 2, 0);
    grid->addWidget(m_fluid, 2, 1, 1, 2);
    const auto& at = start.conditions;
    addField("Conductivity", "conductivity", "W/(m.K)", &FlowConditions::conductivity, at.conductivity);
    addField("Viscosity", "kinematic viscosity", "m2/s", &FlowConditions::viscosity, at.viscosity);
    addField("Prandtl", "Prandtl number", "1", &FlowConditions::prandtl, at.prandtl);
    addField("Expansion", "thermal expansion", "1/K", &FlowConditions::expansion, at.expansion);
    addField("Speed", "speed", "m/s", &FlowConditions::speed, at.speed);
    addField("Length", "length or diameter", "m", &FlowConditions::length, at.length);
    addField("Difference", "wall to fluid", "K", &FlowConditions::difference, at.difference);
    addField("Start", "leading edge at", "m", nullptr, start.start);
    const int last = grid->rowCount();
    grid->addWidget(m_state, last, 0, 1, 3);
    auto* buttons = new QHBoxLayout;
    if (given) {
        auto* remove = new QPushButton("Delete");
        remove->setObjectName("referenceRemove");
        connect(remove, &QPushButton::clicked, this, [this] {
            emit removed();
            close();
        });
        buttons->addWidget(remove);
    }
    buttons->addStretch();
    m_take->setObjectName("referenceTake");
    m_take->setDefault(true);
    buttons->addWidget(m_take);
    grid->addLayout(buttons, last + 1, 0, 1, 3);
    grid->setColumnStretch(1, 1);
    connect(m_kind, &QComboBox::currentIndexChanged, this, &ReferenceDialog::check);
    connect(m_fluid, &QComboBox::activated, this, &ReferenceDialog::takeFluid);
    connect(m_take, &QPushButton::clicked, this, [this] {
        if (const auto made = curve()) {
            emit chosen(*made);
            close();
        }
    });
    check();
}

void ReferenceDialog::addField(const char* name, const QString& label, const char* unit,
                               double FlowConditions::*condition, double value) {
    auto* grid = static_cast<QGridLayout*>(layout());
    const int row = grid->rowCount();
    const std::string shown = std::string_view(unit) == "m" ? "mm" : unit;
    auto* edit = new QLineEdit(
        value == 0 ? QString() : QString::fromStdString(fmt::format("{:.6g}", shown == "mm" ? 1e3 * value : value)));
    edit->setObjectName(QString("reference") + name);
    auto* title = new QLabel(label);
    grid->addWidget(title, row, 0);
    grid->addWidget(edit, row, 1);
    grid->addWidget(new QLabel(shown == "1" ? QString() : q(unitText(shown))), row, 2);
    connect(edit, &QLineEdit::textEdited, this, &ReferenceDialog::check);
    m_fields.push_back({condition, unit, shown, title, edit});
}

const CorrelationFacts& ReferenceDialog::facts() const {
    return correlations()[static_cast<std::size_t>(std::max(0, m_kind->currentIndex()))];
}

void ReferenceDialog::takeFluid(int fluid) {
    if (fluid <= 0)
        return;
    const auto& taken = referenceFluids()[static_cast<std::size_t>(fluid - 1)];
    for (const auto& [condition, value] : {std::pair{&FlowConditions::conductivity, taken.conductivity},
                                           {&FlowConditions::viscosity, taken.viscosity},
                                           {&FlowConditions::prandtl, taken.prandtl},
                                           {&FlowConditions::expansion, taken.expansion}})
        std::ranges::find(m_fields, condition, &Field::condition)
            ->edit->setText(QString::fromStdString(fmt::format("{:g}", value)));
    check();
}

// A number is in the unit beside it; other units are written out: 40 mm.
Result<ReferenceCurve> ReferenceDialog::curve() const {
    ReferenceCurve made{std::string(facts().key), {}, 0};
    for (const auto& field : m_fields) {
        const auto text = field.edit->text().trimmed();
        if (text.isEmpty() || field.edit->isHidden())
            continue;
        const auto parsed = parseMeasured(withUnit(text.toStdString(), field.shown), field.unit);
        if (!parsed)
            return tl::unexpected(parsed.error());
        (field.condition == nullptr ? made.start : made.conditions.*field.condition) = *parsed;
    }
    return made;
}

void ReferenceDialog::check() {
    const auto& about = facts();
    m_about->setText(q(about.formula) + "<br>" + q(about.source).toHtmlEscaped() + "; holds for " +
                     q(about.range).toHtmlEscaped());
    for (const auto& field : m_fields) {
        const bool used = field.condition == nullptr ? about.alongPlace : uses(about.correlation, field.condition);
        field.edit->setVisible(used);
        field.label->setVisible(used);
    }
    const auto made = curve();
    const auto value = made ? correlate(about.correlation, made->conditions, 0.1) : tl::unexpected(made.error());
    m_take->setEnabled(value.has_value());
    m_state->setText(!value ? q(value.error().what)
                            : q(fmt::format("h = {:.4g} {}{}{}{}", value->filmCoefficient, unitText("W/(m2.K)"),
                                            about.alongPlace ? " at 100 mm" : "",
                                            value->outside.empty() ? "" : "; careful: ", value->outside)));
}

} // namespace pyro
