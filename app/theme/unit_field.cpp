#include "app/theme/unit_field.h"

#include "core/survey/typed_unit.h"
#include "render/text.h"

#include <QEvent>

namespace pyro {

UnitHint::UnitHint(QLineEdit* edit, std::function<std::string()> unit)
    : QLabel(edit), m_edit(edit), m_unit(std::move(unit)), m_before(unitOfText(edit->text().toStdString())) {
    setObjectName("unitHint");
    setAttribute(Qt::WA_TransparentForMouseEvents);
    hide();
    edit->installEventFilter(this);
    connect(edit, &QLineEdit::textChanged, this, [this](const QString& text) {
        if (!m_edit->isModified())
            m_before = unitOfText(text.toStdString());
        show();
    });
    connect(edit, &QLineEdit::editingFinished, this, &UnitHint::complete);
}

std::string UnitHint::unit() const { return m_before.empty() ? m_unit() : m_before; }

void UnitHint::show() {
    const auto typed = m_edit->text().trimmed().toStdString();
    const auto wanted = m_edit->isModified() ? unit() : std::string();
    const bool bare = withUnit(typed, wanted) != typed;
    setText(q(wanted));
    adjustSize();
    move(m_edit->width() - width() - 6, (m_edit->height() - height()) / 2);
    setVisible(bare);
}

void UnitHint::complete() {
    if (!m_edit->isModified())
        return;
    const auto typed = m_edit->text().trimmed().toStdString();
    const auto whole = withUnit(typed, unit());
    if (whole != typed) {
        m_edit->setText(q(whole));
        m_edit->setModified(true);
    }
    hide();
}

bool UnitHint::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Resize)
        show();
    return QLabel::eventFilter(watched, event);
}

} // namespace pyro
