#include "app/stages/field/isotherm_card.h"

#include "app/stages/card.h"
#include "render/text.h"

#include <QFormLayout>
#include <QRegularExpression>
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
        edit(on ? "Show isolines" : "Hide isolines", [on](IsothermView& view) { view.shown = on; });
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
    m_spacing->setPlaceholderText("Fits the range");
    m_heavy = new QSpinBox;
    m_heavy->setObjectName("isothermHeavy");
    m_heavy->setRange(0, 100);
    m_heavy->setSpecialValueText("none");
    m_heavy->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_heavy->setPrefix("every ");
    m_heavy->setSuffix(". line");
    m_marks = new QLineEdit;
    m_marks->setObjectName("isothermMarks");
    m_marks->setPlaceholderText("110, Amplifier, dew_point");
    m_marks->setToolTip("Values in the unit on display, and names: a gauge, or a part for its limits; a name follows "
                        "what it comes to be");
    m_surfaces = new QLineEdit;
    m_surfaces->setObjectName("isothermSurfaces");
    m_surfaces->setPlaceholderText("85, 110");
    m_surfaces->setToolTip("Values whose surfaces are drawn through the parts, with the volume above each");
    m_labels = new QCheckBox("Values on the index lines");
    m_labels->setObjectName("isothermLabels");
    m_ground = new QComboBox;
    m_ground->setObjectName("isothermGround");
    m_ground->addItem("the quantity", QString("field"));
    m_ground->addItem("nothing", QString("plain"));
    m_ground->addItem("materials", QString("materials"));
    for (QWidget* field : {static_cast<QWidget*>(m_spacing), static_cast<QWidget*>(m_heavy),
                           static_cast<QWidget*>(m_marks), static_cast<QWidget*>(m_surfaces)})
        field->setFocusPolicy(Qt::ClickFocus);
    form->addRow("Spacing", m_spacing);
    form->addRow("Index line", m_heavy);
    form->addRow("Surfaces show", m_ground);
    form->addRow("Mark", m_marks);
    form->addRow("Surfaces at", m_surfaces);
    form->addRow(m_labels);
    connect(m_spacing, &QLineEdit::editingFinished, this, &IsothermCard::readSpacing);
    connect(m_marks, &QLineEdit::editingFinished, this, &IsothermCard::readMarks);
    connect(m_surfaces, &QLineEdit::editingFinished, this, &IsothermCard::readSurfaces);
    connect(m_heavy, &QSpinBox::valueChanged, this,
            [this](int every) { edit("Index lines", [every](IsothermView& view) { view.heavyEvery = every; }); });
    connect(m_ground, &QComboBox::activated, this, [this](int at) {
        edit("What surfaces show", [at](IsothermView& view) { view.ground = static_cast<Ground>(at); });
    });
    connect(m_labels, &QCheckBox::clicked, this,
            [this](bool on) { edit("Labels of isolines", [on](IsothermView& view) { view.labels = on; }); });
    return editor;
}

void IsothermCard::edit(const QString& what, const std::function<void(IsothermView&)>& change) {
    auto next = m_session.view();
    change(next.field.isotherms);
    m_session.editView(what, next);
}

void IsothermCard::editValues(const QString& what, const std::function<void(IsolineValues&)>& change) {
    const auto view = m_session.view();
    edit(what, [&](IsothermView& isotherms) { change(isotherms.values[isolineKey(view.quantity, view.component)]); });
}

void IsothermCard::readSpacing() {
    bool read = false;
    const auto text = m_spacing->text().trimmed().replace(',', '.');
    const double spacing = text.toDouble(&read);
    if (text.isEmpty())
        editValues("Spacing of isolines", [](IsolineValues& values) { values.spacing.reset(); });
    else if (read && spacing > 0)
        editValues("Spacing of isolines", [spacing](IsolineValues& values) { values.spacing = spacing; });
    else
        m_session.complain({ErrorCode::Syntax, "the spacing of isolines is a number above zero", text.toStdString(),
                            "Type for example 5, or leave it empty to fit the range"});
    refresh();
}

std::optional<MarkSource> IsothermCard::sourceNamed(const QString& word) const {
    const auto name = word.toStdString();
    const auto& survey = m_session.survey();
    if (std::ranges::find(survey.gauges, name, &Gauge::id) != survey.gauges.end())
        return MarkSource{MarkSource::Kind::Gauge, name};
    const auto* entry = m_session.activeEntry();
    for (const auto& limit : survey.limits)
        if (limit.target.kind == TargetKind::Part &&
            (limit.target.name == name || (entry != nullptr && shownName(*entry, limit.target.name) == name)))
            return MarkSource{MarkSource::Kind::Part, limit.target.name};
    return std::nullopt;
}

void IsothermCard::readMarks() {
    IsolineValues typed;
    const auto unit = m_session.unit();
    for (const auto& word : m_marks->text().split(QRegularExpression("[,;]"), Qt::SkipEmptyParts)) {
        if (const auto numbers = typedNumbers(word)) {
            for (const double value : *numbers)
                typed.marks.push_back(unit.si(value));
        } else if (const auto source = sourceNamed(word.trimmed()))
            typed.marksOf.push_back(*source);
        else
            return m_session.complain(
                {ErrorCode::NameUnknown, "this is neither a number nor a gauge nor a part with a limit",
                 word.trimmed().toStdString(), "Type values in the unit on display, or names, separated by commas"});
    }
    editValues("Marked isolines", [&](IsolineValues& values) {
        values.marks = typed.marks;
        values.marksOf = typed.marksOf;
    });
}

void IsothermCard::readSurfaces() {
    auto typed = typedNumbers(m_surfaces->text());
    if (!typed)
        return m_session.complain({ErrorCode::Syntax, "surfaces are told by numbers", m_surfaces->text().toStdString(),
                                   "Type values in the unit on display, separated by commas"});
    if (typed->size() > mostSurfaces)
        return m_session.complain({ErrorCode::WrongType, fmt::format("there can be {} surfaces", mostSurfaces),
                                   m_surfaces->text().toStdString(), "Leave some out"});
    for (auto& value : *typed)
        value = m_session.unit().si(value);
    editValues("Surfaces of one value", [&](IsolineValues& values) { values.surfaces = *typed; });
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
            parts.append(q(fmt::format("{} {} ({})",
                                       shownName(*m_session.activeEntry(), state->opened->solved->parts[part].name),
                                       formatShare(above.share()), formatExtent(above.volume, 3))));
        lines.append("above <b>" + q(m_session.unit().text(level.value)) +
                     "</b>: " + (parts.isEmpty() ? QString("nothing") : parts.join(", ")));
    }
    return lines.join("<br>");
}

void IsothermCard::refresh() {
    const auto isotherms = m_session.view().field.isotherms;
    const auto values = isolineValues(m_session.seen());
    const auto* state = m_session.activeCase();
    const auto picture = m_session.seenPicture();
    const bool onNodes = state == nullptr || !state->picture || state->picture->quantity.on == Location::Node;
    setTitle(!picture || picture->quantity.name == "temperature" ? "Isotherms" : "Isolines");
    m_shown->setChecked(isotherms.shown);
    m_facts->setText(onNodes ? q(fmt::format("every {:.4g} {}", isothermSpacing(m_session.seen()),
                                             m_session.unit().differenceSymbol()))
                             : QString("none: the values are stored on cells"));
    const QSignalBlocker quiet(m_heavy);
    m_heavy->setValue(isotherms.heavyEvery);
    m_labels->setChecked(isotherms.labels);
    m_ground->setCurrentIndex(static_cast<int>(isotherms.ground));
    if (!m_spacing->hasFocus())
        m_spacing->setText(values.spacing ? QString::number(*values.spacing) : QString());
    const auto written = [unit = m_session.unit()](const std::vector<double>& numbers) {
        QStringList words;
        for (const double value : numbers)
            words.append(q(fmt::format("{:.6g}", unit.of(value))));
        return words;
    };
    auto marks = written(values.marks);
    for (const auto& source : values.marksOf)
        marks.append(q(source.kind == MarkSource::Kind::Part && m_session.activeEntry() != nullptr
                           ? shownName(*m_session.activeEntry(), source.name)
                           : source.name));
    if (!m_marks->hasFocus())
        m_marks->setText(marks.join(", "));
    if (!m_surfaces->hasFocus())
        m_surfaces->setText(written(values.surfaces).join(", "));
    m_above->setText(surfaceFacts());
    m_above->setVisible(!m_above->text().isEmpty());
}

} // namespace pyro
