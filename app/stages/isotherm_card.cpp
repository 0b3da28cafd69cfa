#include "app/stages/isotherm_card.h"

#include "app/stages/card.h"
#include "render/text.h"

#include <QFormLayout>
#include <fmt/format.h>

namespace pyro {

IsothermCard::IsothermCard(Session& session, QWidget* parent) : FoldCard(parent), m_session(session) {
    m_facts = new QLabel;
    m_shown = new Switch("isothermSwitch");
    m_shown->setToolTip("Lines of equal value on surfaces and sections (I)");
    layOut("Isotherms", m_facts, m_shown, buildEditor());
    m_above = new QLabel; // stays in sight while the editor is closed
    m_above->setObjectName("hint");
    m_above->setWordWrap(true);
    m_above->setTextFormat(Qt::RichText);
    layout()->addWidget(m_above);
    connect(m_shown, &Switch::clicked, this, [this](bool on) {
        edit(on ? "Show isotherms" : "Hide isotherms", [on](IsothermView& view) { view.shown = on; });
    });
    refresh();
}

QWidget* IsothermCard::buildEditor() {
    auto* editor = new QWidget;
    auto* form = new QFormLayout(editor);
    form->setContentsMargins(0, 0, 0, 4);
    form->setSpacing(6);
    m_spacing = new QLineEdit;
    m_spacing->setObjectName("isothermSpacing");
    m_spacing->setPlaceholderText("fits the range");
    m_heavy = new QSpinBox;
    m_heavy->setObjectName("isothermHeavy");
    m_heavy->setRange(0, 100);
    m_heavy->setSpecialValueText("none");
    m_heavy->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_heavy->setPrefix("each ");
    m_heavy->setSuffix("th line");
    m_marks = new QLineEdit;
    m_marks->setObjectName("isothermMarks");
    m_marks->setPlaceholderText("110, 12.6");
    m_surfaces = new QLineEdit;
    m_surfaces->setObjectName("isothermSurfaces");
    m_surfaces->setPlaceholderText("85, 110");
    m_surfaces->setToolTip("Values whose surfaces are drawn through the parts, with the volume above each");
    m_labels = new QCheckBox("values on the heavy lines");
    m_labels->setObjectName("isothermLabels");
    m_ground = new QComboBox;
    m_ground->setObjectName("isothermGround");
    m_ground->addItem("the field", QString("field"));
    m_ground->addItem("nothing, lines alone", QString("plain"));
    m_ground->addItem("materials", QString("materials"));
    for (QWidget* field : {static_cast<QWidget*>(m_spacing), static_cast<QWidget*>(m_heavy), static_cast<QWidget*>(m_marks),
                           static_cast<QWidget*>(m_surfaces)})
        field->setFocusPolicy(Qt::ClickFocus);
    form->addRow("every", m_spacing);
    form->addRow("heavy", m_heavy);
    form->addRow("under", m_ground);
    form->addRow("mark", m_marks);
    form->addRow("surface", m_surfaces);
    form->addRow(m_labels);
    connect(m_spacing, &QLineEdit::editingFinished, this, &IsothermCard::readSpacing);
    connect(m_marks, &QLineEdit::editingFinished, this, &IsothermCard::readMarks);
    connect(m_surfaces, &QLineEdit::editingFinished, this, &IsothermCard::readSurfaces);
    connect(m_heavy, &QSpinBox::valueChanged, this, [this](int every) {
        edit("Heavy isotherms", [every](IsothermView& view) { view.heavyEvery = every; });
    });
    connect(m_ground, &QComboBox::activated, this, [this](int at) {
        edit("What surfaces show", [at](IsothermView& view) { view.ground = static_cast<Ground>(at); });
    });
    connect(m_labels, &QCheckBox::clicked, this, [this](bool on) {
        edit("Labels of isotherms", [on](IsothermView& view) { view.labels = on; });
    });
    return editor;
}

void IsothermCard::edit(const QString& what, const std::function<void(IsothermView&)>& change) {
    auto next = m_session.view();
    change(next.field.isotherms);
    m_session.editView(what, next);
}

void IsothermCard::readSpacing() {
    bool read = false;
    const auto text = m_spacing->text().trimmed().replace(',', '.');
    const double spacing = text.toDouble(&read);
    if (text.isEmpty())
        edit("Spacing of isotherms", [](IsothermView& view) { view.spacing.reset(); });
    else if (read && spacing > 0)
        edit("Spacing of isotherms", [spacing](IsothermView& view) { view.spacing = spacing; });
    else
        m_session.complain({ErrorCode::Syntax, "the spacing of isotherms is a number above zero", text.toStdString(),
                            "Type for example 5, or leave it empty to fit the range"});
    refresh();
}

std::optional<std::vector<double>> IsothermCard::typedValues(const QLineEdit& field) {
    auto values = typedNumbers(field.text());
    if (!values)
        m_session.complain({ErrorCode::Syntax, "isotherms are told by numbers", field.text().toStdString(),
                            "Type values in the unit on display, separated by commas"});
    const auto unit = m_session.unit();
    if (values)
        for (auto& value : *values)
            value = unit.si(value);
    return values;
}

void IsothermCard::readMarks() {
    if (const auto marks = typedValues(*m_marks))
        edit("Marked isotherms", [&](IsothermView& view) { view.marks = *marks; });
}

void IsothermCard::readSurfaces() {
    const auto values = typedValues(*m_surfaces);
    if (!values)
        return;
    if (values->size() > mostSurfaces)
        return m_session.complain({ErrorCode::WrongType, fmt::format("there can be {} isotherm surfaces", mostSurfaces),
                                   m_surfaces->text().toStdString(), "Leave some out"});
    edit("Isotherm surfaces", [&](IsothermView& view) { view.surfaces = *values; });
}

// "above 85.0 °C: Amplifier 12.1 % (0.214 cm3), Pads < 0.1 % (...)".
QString IsothermCard::surfaceFacts() const {
    const auto levels = m_session.extras().levels();
    const auto* state = m_session.activeCase();
    if (!levels || state == nullptr || !state->opened)
        return {};
    QStringList lines;
    if (!levels->why.empty())
        lines.append(q(levels->why));
    for (const auto& level : levels->levels) {
        QStringList parts;
        for (const auto& [part, above] : level.parts)
            parts.append(q(fmt::format("{} {} ({})", shownName(*m_session.activeEntry(), state->opened->solved->parts[part].name),
                                       formatShare(above.share()), formatExtent(above.volume, 3))));
        lines.append("above <b>" + q(m_session.unit().text(level.value)) + "</b>: " + (parts.isEmpty() ? QString("nothing") : parts.join(", ")));
    }
    return lines.join("<br>");
}

void IsothermCard::refresh() {
    const auto isotherms = m_session.view().field.isotherms;
    const auto* state = m_session.activeCase();
    const bool onNodes = state == nullptr || !state->picture || state->picture->quantity.on == Location::Node;
    const double spacing = m_session.isothermSpacing();
    m_shown->setChecked(isotherms.shown);
    if (!onNodes)
        m_facts->setText("none: the values are stored on cells");
    else
        m_facts->setText(q(fmt::format("every {:.4g} {}", spacing, m_session.unit().differenceSymbol())) +
                         (isotherms.heavyEvery > 0 ? q(fmt::format(", heavy every {:.4g}", spacing * isotherms.heavyEvery)) : QString()));
    const QSignalBlocker quiet(m_heavy);
    m_heavy->setValue(isotherms.heavyEvery);
    m_labels->setChecked(isotherms.labels);
    m_ground->setCurrentIndex(static_cast<int>(isotherms.ground));
    if (!m_spacing->hasFocus())
        m_spacing->setText(isotherms.spacing ? QString::number(*isotherms.spacing) : QString());
    const auto written = [unit = m_session.unit()](const std::vector<double>& values) {
        QStringList words;
        for (const double value : values)
            words.append(q(fmt::format("{:.6g}", unit.of(value))));
        return words.join(", ");
    };
    if (!m_marks->hasFocus())
        m_marks->setText(written(isotherms.marks));
    if (!m_surfaces->hasFocus())
        m_surfaces->setText(written(isotherms.surfaces));
    m_above->setText(surfaceFacts());
    m_above->setVisible(!m_above->text().isEmpty());
}

} // namespace pyro
