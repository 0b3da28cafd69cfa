#include "app/stages/limits/ambient_card.h"

#include "app/theme/unit_field.h"
#include "core/report/estimate_text.h"
#include "core/survey/edit.h"
#include "core/survey/typed_unit.h"
#include "core/units/unit.h"
#include "render/text.h"

#include <QGridLayout>
#include <fmt/format.h>

namespace pyro {

AmbientCard::AmbientCard(Session& session, QWidget* parent)
    : QFrame(parent), m_session(session), m_ambient(new QLineEdit), m_other(new QLineEdit), m_power(new QLineEdit),
      m_answer(new QLabel) {
    setObjectName("card");
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(12, 10, 12, 10);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(5);
    auto* title = new QLabel("Other ambient temperature");
    title->setObjectName("cardTitle");
    grid->addWidget(title, 0, 0, 1, 2);
    m_ambient->setObjectName("caseAmbient");
    m_other->setObjectName("otherAmbient");
    m_other->setPlaceholderText("45 degC");
    grid->addWidget(new QLabel("Solved at"), 1, 0);
    grid->addWidget(m_ambient, 1, 1);
    grid->addWidget(new QLabel("Estimate at"), 2, 0);
    grid->addWidget(m_other, 2, 1);
    m_power->setObjectName("otherPower");
    m_power->setPlaceholderText("100 %");
    grid->addWidget(new QLabel("With power"), 3, 0);
    grid->addWidget(m_power, 3, 1);
    int row = 4;
    for (const auto& [key, text] : {std::pair{"radiation", "Radiation"},
                                    {"natural_convection", "Natural convection"},
                                    {"properties", "Temperature-dependent properties"}}) {
        auto* box = new QCheckBox(text);
        box->setObjectName(QString("nonlinear_") + key);
        box->setToolTip("Temperatures are then not in proportion to ambient and power: an estimate is refused");
        grid->addWidget(box, row++, 0, 1, 2);
        m_nonlinear.push_back({box, key});
        connect(box, &QCheckBox::clicked, this, [this, key = std::string(key)](bool on) {
            if (const auto* entry = m_session.activeEntry())
                m_session.edit("What cools the case", withNonlinear(m_session.survey(), entry->name, key, on));
        });
    }
    for (auto* edit : {m_ambient, m_other})
        new UnitHint(edit, [this] { return std::string(udunitsName(m_session.view().unit)); });
    m_answer->setObjectName("ambientAnswer");
    m_answer->setWordWrap(true);
    grid->addWidget(m_answer, row, 0, 1, 2);
    connect(m_ambient, &QLineEdit::editingFinished, this, [this] {
        const auto* entry = m_session.activeEntry();
        if (entry == nullptr || !m_ambient->isModified())
            return;
        m_ambient->setModified(false);
        m_session.editOrComplain(
            "Ambient", withAmbient(m_session.survey(), entry->name, m_ambient->text().trimmed().toStdString()));
    });
    new UnitHint(m_power, [] { return std::string("%"); });
    for (const auto& [field, edit, unit] :
         {std::tuple{EstimateField::Ambient, m_other, false}, {EstimateField::Power, m_power, true}})
        connect(edit, &QLineEdit::editingFinished, this, [this, field, edit, unit] {
            if (!edit->isModified())
                return;
            edit->setModified(false);
            const auto text = withUnit(edit->text().trimmed().toStdString(),
                                       unit ? std::string("%") : std::string(udunitsName(m_session.view().unit)));
            m_session.editOrComplain("Estimate", withEstimate(m_session.survey(), field, text));
        });
    connect(&session, &Session::changed, this, [this](Changes what) {
        if (what & (Change::Survey | Change::Cases | Change::Readings | Change::View))
            refresh();
    });
    refresh();
}

QString AmbientCard::answer() const {
    const auto* entry = m_session.activeEntry();
    const auto* state = m_session.activeCase();
    if (!m_session.survey().estimate || entry == nullptr || state == nullptr || !state->readings)
        return "With the same cooling all temperatures of a linear case move with its environments, and rise with its "
               "power.";
    if (!state->readings->estimate)
        return "Estimating\u2026";
    QStringList lines;
    for (const auto& sentence :
         estimateSentences(m_session.survey(), *entry, *state->readings->estimate, m_session.view().unit))
        lines << q(sentence);
    return lines.join("\n");
}

void AmbientCard::refresh() {
    const auto* entry = m_session.activeEntry();
    const auto* state = m_session.activeCase();
    setEnabled(entry != nullptr);
    if (!m_ambient->hasFocus() || !m_ambient->isModified()) {
        m_ambient->setText(entry != nullptr && entry->ambient ? q(entry->ambient->text) : QString());
        const auto found = state != nullptr && state->readings ? state->readings->ambient : std::nullopt;
        m_ambient->setPlaceholderText(found ? q(formatTemperature({*found}, m_session.view().unit)) +
                                                  ", of the environments"
                                            : QString("20 degC"));
    }
    const auto& wish = m_session.survey().estimate;
    const auto show = [](QLineEdit* edit, const std::optional<Written<double>>& value) {
        if (!edit->hasFocus() || !edit->isModified())
            edit->setText(value ? q(value->text) : QString());
    };
    show(m_other, wish ? wish->ambient : std::nullopt);
    show(m_power, wish ? wish->power : std::nullopt);
    for (const auto& why : m_nonlinear)
        why.box->setChecked(entry != nullptr && std::ranges::find(entry->nonlinear, why.key) != entry->nonlinear.end());
    m_answer->setText(answer());
}

} // namespace pyro
