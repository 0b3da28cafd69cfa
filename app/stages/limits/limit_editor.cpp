#include "app/stages/limits/limit_editor.h"

#include "app/theme/unit_field.h"
#include "core/survey/typed_unit.h"
#include "render/text.h"

#include <algorithm>

namespace pyro {
namespace {

// The unit that an empty field shows by way of example.
QString example(const Limit& limit, LimitField field) {
    if (boundUnit(limit).empty())
        return "number and unit";
    return q(field == LimitField::Margin ? limit.form->marginExample : limit.form->maxExample);
}

} // namespace

LimitEditor::LimitEditor(Session& session, QWidget* parent)
    : QFrame(parent), m_session(session), m_grid(new QGridLayout(this)) {
    setObjectName("card");
    m_grid->setContentsMargins(12, 10, 12, 10);
    m_grid->setHorizontalSpacing(8);
    m_grid->setVerticalSpacing(5);
    m_title = new QLabel("The chosen limit");
    m_title->setObjectName("cardTitle");
    m_grid->addWidget(m_title, 0, 0, 1, 2);
    m_hint = new QLabel("Choose a row of the table, or add a limit.");
    m_hint->setWordWrap(true);
    m_grid->addWidget(m_hint, 1, 0, 1, 2);
    m_target = new QComboBox;
    m_target->setObjectName("limitTarget");
    place(m_target, "Part or gauge");
    m_form = new QComboBox;
    m_form->setObjectName("limitForm");
    place(m_form, "Quantity");
    line("limitLevel", "Level", LimitField::Level);
    line("limitAbove", "Above", LimitField::Above);
    line("limitMax", "Maximum", LimitField::Max);
    line("limitMin", "Minimum", LimitField::Min);
    line("limitMargin", "Required margin", LimitField::Margin);
    line("limitKind", "Limit type", LimitField::Kind);
    line("limitSource", "Source", LimitField::Source);
    auto* remove = new QPushButton("Delete this limit");
    remove->setObjectName("small");
    remove->setAccessibleName("removeLimit");
    m_grid->addWidget(remove, m_grid->rowCount(), 0, 1, 2);
    m_rows.push_back({nullptr, remove});
    connect(remove, &QPushButton::clicked, this, &LimitEditor::removeRequested);
    connect(m_target, &QComboBox::activated, this, &LimitEditor::about);
    connect(m_form, &QComboBox::activated, this, &LimitEditor::about);
    connect(&session, &Session::changed, this, [this](Changes what) {
        if (what & (Change::Survey | Change::Selection | Change::Cases | Change::Readings))
            refresh();
    });
    refresh();
}

void LimitEditor::place(QWidget* widget, const QString& title) {
    auto* label = new QLabel(title);
    const int row = m_grid->rowCount();
    m_grid->addWidget(label, row, 0);
    m_grid->addWidget(widget, row, 1);
    m_rows.push_back({label, widget});
}

void LimitEditor::line(const char* name, const QString& title, LimitField field) {
    auto* edit = new QLineEdit;
    edit->setObjectName(name);
    place(edit, title);
    m_lines.push_back({edit, field});
    new UnitHint(edit, [this, field] {
        const auto at = m_session.selection().selectedLimit();
        return at && *at < m_session.survey().limits.size()
                   ? typedUnit(m_session.survey(), m_session.survey().limits[*at], field, m_session.view())
                   : std::string();
    });
    connect(edit, &QLineEdit::editingFinished, this, [this, edit, field] {
        const auto at = m_session.selection().selectedLimit();
        if (!at || !edit->isModified())
            return;
        edit->setModified(false);
        m_session.editOrComplain("Limit",
                                 withLimitField(m_session.survey(), *at, field, edit->text().trimmed().toStdString()));
        refresh();
    });
}

void LimitEditor::about() {
    const auto at = m_session.selection().selectedLimit();
    if (!at || m_target->currentIndex() < 0)
        return;
    const auto target = m_target->currentData().toStringList();
    const auto kind = target[0] == "part"       ? TargetKind::Part
                      : target[0] == "boundary" ? TargetKind::Boundary
                                                : TargetKind::Gauge;
    const auto* form = limitForms()[static_cast<std::size_t>(m_form->currentData().toInt())];
    if (!form->fits(kind))
        form = &valueForm;
    m_session.editOrComplain("Limit", withLimitAbout(m_session.survey(), *at, {kind, target[1].toStdString()}, form));
}

void LimitEditor::fillTargets(const Limit& limit) {
    m_target->clear();
    const auto add = [&](TargetKind kind, const std::string& name) {
        const auto word = q(std::string(targetKindName(kind)));
        const auto* entry = m_session.activeEntry();
        m_target->addItem(kind == TargetKind::Part && entry != nullptr ? q(shownName(*entry, name))
                                                                       : word + " " + q(name),
                          QStringList{word, q(name)});
        if (limit.target == LimitTarget{kind, name})
            m_target->setCurrentIndex(m_target->count() - 1);
    };
    bool known = false;
    if (const auto* state = m_session.activeCase(); state != nullptr && state->opened) {
        for (const auto& part : state->opened->solved->parts)
            add(TargetKind::Part, part.name);
        for (const auto& boundary : state->opened->solved->boundaries)
            add(TargetKind::Boundary, boundary.name);
    }
    for (const auto& gauge : m_session.survey().gauges)
        add(TargetKind::Gauge, gauge.id);
    for (int i = 0; i < m_target->count(); ++i)
        known = known || m_target->itemData(i).toStringList() ==
                             QStringList{q(std::string(targetKindName(limit.target.kind))), q(limit.target.name)};
    if (!known) // what the case does not have stays as it is written
        add(limit.target.kind, limit.target.name);
}

void LimitEditor::refresh() {
    const auto at = m_session.selection().selectedLimit();
    for (const auto& row : m_rows)
        for (auto* widget : {row.label, row.widget})
            if (widget != nullptr)
                widget->setVisible(at.has_value());
    m_hint->setVisible(!at);
    if (!at)
        return;
    const auto& limit = m_session.survey().limits[*at];
    fillTargets(limit);
    m_form->clear();
    const auto forms = limitForms();
    for (std::size_t i = 0; i < forms.size(); ++i)
        if (forms[i]->fits(limit.target.kind)) {
            m_form->addItem(q(forms[i]->choice), static_cast<int>(i));
            if (forms[i] == limit.form)
                m_form->setCurrentIndex(m_form->count() - 1);
        }
    const auto parameter = limit.form->parameter;
    const bool level = parameter == LimitParameter::Level;
    const bool above = parameter == LimitParameter::Ambient || parameter == LimitParameter::OtherGauge;
    const auto text = [](const std::optional<Bound>& bound) { return bound ? q(bound->text) : QString(); };
    for (const auto& line : m_lines) {
        const auto row = std::ranges::find(m_rows, static_cast<QWidget*>(line.edit), &Row::widget);
        const bool visible = line.field == LimitField::Level ? level : line.field == LimitField::Above ? above : true;
        row->label->setVisible(visible);
        row->widget->setVisible(visible);
        if (line.edit->hasFocus() && line.edit->isModified())
            continue;
        switch (line.field) {
        case LimitField::Level:
            line.edit->setText(text(limit.level));
            line.edit->setPlaceholderText("80 degC");
            break;
        case LimitField::Above:
            line.edit->setText(limit.above ? q(limit.above->text) : q(limit.than));
            line.edit->setPlaceholderText(parameter == LimitParameter::OtherGauge ? "name of a gauge"
                                                                                  : "the case's ambient");
            break;
        case LimitField::Max:
            line.edit->setText(text(limit.max));
            break;
        case LimitField::Min:
            line.edit->setText(text(limit.min));
            break;
        case LimitField::Margin:
            line.edit->setText(text(limit.margin));
            break;
        case LimitField::Kind:
            line.edit->setText(q(limit.kind));
            line.edit->setPlaceholderText("Junction, case, touch \u2026");
            break;
        case LimitField::Source:
            line.edit->setText(q(limit.source));
            line.edit->setPlaceholderText("Data sheet, standard \u2026");
            break;
        case LimitField::Target:
            break;
        }
        if (line.field == LimitField::Max || line.field == LimitField::Min || line.field == LimitField::Margin)
            line.edit->setPlaceholderText(example(limit, line.field));
    }
}

} // namespace pyro
