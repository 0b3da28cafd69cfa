#include "app/stages/ambient_card.h"

#include "app/theme/unit_field.h"
#include "core/report/limit_text.h"
#include "core/survey/edit.h"
#include "core/survey/typed_unit.h"
#include "core/thermal/another_ambient.h"
#include "core/units/unit.h"
#include "render/text.h"

#include <QGridLayout>
#include <fmt/format.h>

namespace pyro {

AmbientCard::AmbientCard(Session& session, QWidget* parent) : QFrame(parent), m_session(session), m_ambient(new QLineEdit), m_other(new QLineEdit), m_answer(new QLabel) {
    setObjectName("card");
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(12, 10, 12, 10);
    grid->setHorizontalSpacing(8);
    grid->setVerticalSpacing(5);
    auto* title = new QLabel("Another ambient");
    title->setObjectName("cardTitle");
    grid->addWidget(title, 0, 0, 1, 2);
    m_ambient->setObjectName("caseAmbient");
    m_other->setObjectName("otherAmbient");
    m_other->setPlaceholderText("45 degC");
    grid->addWidget(new QLabel("solved at"), 1, 0);
    grid->addWidget(m_ambient, 1, 1);
    grid->addWidget(new QLabel("what if"), 2, 0);
    grid->addWidget(m_other, 2, 1);
    int row = 3;
    for (const auto& [key, text] : {std::pair{"radiation", "it radiates"}, {"natural_convection", "natural convection cools it"}, {"properties", "properties depend on temperature"}}) {
        auto* box = new QCheckBox(text);
        box->setObjectName(QString("nonlinear_") + key);
        box->setToolTip("A plain shift would then be wrong, and is refused");
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
        m_session.editOrComplain("Ambient", withAmbient(m_session.survey(), entry->name, m_ambient->text().trimmed().toStdString()));
    });
    connect(m_other, &QLineEdit::textChanged, this, [this] { m_answer->setText(answer()); });
    connect(&session, &Session::changed, this, [this](Changes what) {
        if (what & (Change::Survey | Change::Cases | Change::Readings | Change::View))
            refresh();
    });
    refresh();
}

QString AmbientCard::answer() const {
    const auto* state = m_session.activeCase();
    if (m_other->text().trimmed().isEmpty() || state == nullptr || !state->readings)
        return "With the same cooling every temperature of a linear case moves with its surroundings.";
    const auto kelvin = parseTemperature(withUnit(m_other->text().trimmed().toStdString(), std::string(udunitsName(m_session.view().unit))));
    if (!kelvin)
        return q(kelvin.error().what);
    const auto found = atAmbient(*state->readings, kelvin->kelvin);
    if (!found)
        return q(found.error().what + ". " + found.error().remedy + ".");
    const auto unit = m_session.view().unit;
    const auto& limits = state->readings->limits;
    const auto name = [&](std::size_t at) { return limits[at].target.kind == TargetKind::Part ? shownName(*m_session.activeEntry(), limits[at].target.name) : limits[at].target.name; };
    int over = 0;
    std::string worst;
    double least = 1e300;
    for (std::size_t i = 0; i < found->limits.size(); ++i) {
        const auto& one = found->limits[i];
        over += one.verdict == Verdict::Over ? 1 : 0;
        if (one.margin && limits[i].isTemperature && *one.margin < least) {
            least = *one.margin;
            worst = fmt::format("{}: {}, margin {}", name(i), limitLevel(limits[i], one.value, unit), limitDifference(limits[i], one.margin));
        }
    }
    std::string text = fmt::format("Estimate by a plain shift: {} of {} limits over.", over, found->limits.size());
    if (!worst.empty())
        text += "\n" + worst + ".";
    if (found->first)
        text += fmt::format("\n{} reaches its limit at an ambient of {}.", name(*found->first), formatTemperature({*found->limits[*found->first].reachedAt}, unit));
    if (found->leastPower) {
        const double share = *found->limits[*found->leastPower].power;
        text += share <= 0 ? fmt::format("\nNo power keeps {} within its limit there.", name(*found->leastPower)) : fmt::format("\n{:.0f} % of today\u2019s power is allowed there ({}).", std::floor(100 * share), name(*found->leastPower));
    }
    return q(text);
}

void AmbientCard::refresh() {
    const auto* entry = m_session.activeEntry();
    const auto* state = m_session.activeCase();
    setEnabled(entry != nullptr);
    if (!m_ambient->hasFocus() || !m_ambient->isModified()) {
        m_ambient->setText(entry != nullptr && entry->ambient ? q(entry->ambient->text) : QString());
        const auto found = state != nullptr && state->readings ? state->readings->ambient : std::nullopt;
        m_ambient->setPlaceholderText(found ? q(formatTemperature({*found}, m_session.view().unit)) + ", of the environments" : QString("20 degC"));
    }
    for (const auto& why : m_nonlinear)
        why.box->setChecked(entry != nullptr && std::ranges::find(entry->nonlinear, why.key) != entry->nonlinear.end());
    m_answer->setText(answer());
}

} // namespace pyro
