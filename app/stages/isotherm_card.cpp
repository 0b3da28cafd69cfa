#include "app/stages/isotherm_card.h"

#include "app/stages/card.h"

#include <QFormLayout>
#include <QMouseEvent>
#include <QRegularExpression>
#include <fmt/format.h>

namespace pyro {
namespace {

QString q(const std::string& text) { return QString::fromStdString(text); }

} // namespace

IsothermCard::IsothermCard(Session& session, QWidget* parent) : QFrame(parent), m_session(session) {
    auto* name = new QLabel("Isotherms");
    m_facts = new QLabel;
    m_shown = new Switch("isothermSwitch");
    m_shown->setToolTip("Lines of equal value on surfaces and sections (I)");
    m_editor = buildEditor();
    layOutCard(*this, name, m_facts, m_shown, m_editor);
    m_editor->hide();
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
    m_labels = new QCheckBox("values on the heavy lines");
    m_labels->setObjectName("isothermLabels");
    for (QWidget* field : {static_cast<QWidget*>(m_spacing), static_cast<QWidget*>(m_heavy), static_cast<QWidget*>(m_marks)})
        field->setFocusPolicy(Qt::ClickFocus);
    form->addRow("every", m_spacing);
    form->addRow("heavy", m_heavy);
    form->addRow("mark", m_marks);
    form->addRow(m_labels);
    connect(m_spacing, &QLineEdit::editingFinished, this, &IsothermCard::readSpacing);
    connect(m_marks, &QLineEdit::editingFinished, this, &IsothermCard::readMarks);
    connect(m_heavy, &QSpinBox::valueChanged, this, [this](int every) {
        edit("Heavy isotherms", [every](IsothermView& view) { view.heavyEvery = every; });
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

// Marks are typed in the unit on display.
void IsothermCard::readMarks() {
    std::vector<double> marks;
    const auto toSi = m_session.toShown().inverse();
    for (const auto& word : m_marks->text().split(QRegularExpression("[\\s,;]+"), Qt::SkipEmptyParts)) {
        bool read = false;
        const double value = word.toDouble(&read);
        if (!read)
            return m_session.complain({ErrorCode::Syntax, "a marked isotherm is a number", word.toStdString(),
                                       "Type values in the unit on display, separated by commas"});
        marks.push_back(toSi(value));
    }
    edit("Marked isotherms", [&](IsothermView& view) { view.marks = marks; });
}

QString IsothermCard::unit() const {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->picture)
        return {};
    const auto& quantity = state->picture->quantity;
    return q(quantity.name == "temperature" ? std::string(differenceSymbol(m_session.view().unit)) : quantity.siUnit);
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
        m_facts->setText(q(fmt::format("every {:.4g} {}", spacing, unit().toStdString())) +
                         (isotherms.heavyEvery > 0 ? q(fmt::format(", heavy every {:.4g}", spacing * isotherms.heavyEvery)) : QString()));
    const QSignalBlocker quiet(m_heavy);
    m_heavy->setValue(isotherms.heavyEvery);
    m_labels->setChecked(isotherms.labels);
    if (!m_spacing->hasFocus())
        m_spacing->setText(isotherms.spacing ? QString::number(*isotherms.spacing) : QString());
    const auto shown = m_session.toShown();
    QStringList marks;
    for (const double mark : isotherms.marks)
        marks.append(q(fmt::format("{:.6g}", shown(mark))));
    if (!m_marks->hasFocus())
        m_marks->setText(marks.join(", "));
}

void IsothermCard::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton)
        m_editor->setVisible(!m_editor->isVisible());
}

} // namespace pyro
