#include "app/stages/sheet.h"

namespace pyro {

Sheet::Sheet(Session& session, const QString& title, QWidget* parent)
    : QWidget(parent), m_session(session), m_layout(new QVBoxLayout(this)) {
    setObjectName("sheet");
    setAttribute(Qt::WA_StyledBackground);
    m_layout->setContentsMargins(16, 12, 16, 12);
    m_layout->setSpacing(8);
    auto* label = new QLabel(title);
    label->setObjectName("sheetTitle");
    m_layout->addWidget(label);
}

void Sheet::heading(const QString& text) {
    auto* label = new QLabel(text.toUpper());
    label->setObjectName("heading");
    m_layout->addSpacing(4);
    m_layout->addWidget(label);
}

QLabel* Sheet::hint(const QString& text) {
    auto* label = new QLabel(text);
    label->setObjectName("hint");
    label->setWordWrap(true);
    m_layout->addWidget(label);
    return label;
}

QPushButton* Sheet::button(const QString& name, const QString& text, bool primary) {
    auto* made = new QPushButton(text);
    made->setObjectName(primary ? "primary" : name);
    made->setAccessibleName(name);
    m_layout->addWidget(made);
    return made;
}

QWidget* Sheet::card(QVBoxLayout*& layout) {
    auto* frame = new QWidget;
    frame->setObjectName("card");
    frame->setAttribute(Qt::WA_StyledBackground);
    layout = new QVBoxLayout(frame);
    layout->setContentsMargins(12, 10, 12, 10);
    layout->setSpacing(4);
    m_layout->addWidget(frame);
    return frame;
}

QPushButton* Sheet::small(QBoxLayout* row, const char* name, const QString& text, const QString& tip) {
    auto* made = new QPushButton(text);
    made->setObjectName("small");
    made->setAccessibleName(name);
    made->setToolTip(tip);
    row->addWidget(made);
    return made;
}

QVBoxLayout* Sheet::scrolled() {
    auto* scroll = new QScrollArea;
    scroll->setObjectName("cardScroll");
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* inner = new QWidget;
    inner->setObjectName("cards");
    auto* column = new QVBoxLayout(inner);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(10);
    scroll->setWidget(inner);
    m_layout->addWidget(scroll, 1);
    return column;
}

} // namespace pyro
