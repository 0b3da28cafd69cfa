#include "app/stages/card.h"

#include <QHBoxLayout>
#include <QMouseEvent>
#include <QRegularExpression>
#include <QVBoxLayout>

namespace pyro {

void layOutCard(QFrame& card, QLabel* name, QLabel* facts, Switch* shown, QWidget* editor) {
    card.setObjectName("card");
    card.setCursor(Qt::PointingHandCursor);
    name->setObjectName("cardTitle");
    facts->setObjectName("hint");
    auto* words = new QVBoxLayout;
    words->setSpacing(0);
    words->addWidget(name);
    words->addWidget(facts);
    auto* head = new QHBoxLayout;
    head->addLayout(words, 1);
    head->addWidget(shown);
    auto* layout = new QVBoxLayout(&card);
    layout->setContentsMargins(12, 6, 12, 6);
    layout->setSpacing(6);
    layout->addLayout(head);
    layout->addWidget(editor);
}

void FoldCard::layOut(const QString& name, QLabel* facts, Switch* shown, QWidget* editor) {
    m_editor = editor;
    facts->setWordWrap(true);
    m_name = new QLabel(name);
    layOutCard(*this, m_name, facts, shown, editor);
    editor->hide();
}

void FoldCard::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton)
        m_editor->setVisible(!m_editor->isVisible());
}

std::optional<std::vector<double>> typedNumbers(const QString& text) {
    std::vector<double> numbers;
    for (const auto& word : text.split(QRegularExpression("[\\s,;]+"), Qt::SkipEmptyParts)) {
        bool read = false;
        numbers.push_back(word.toDouble(&read));
        if (!read)
            return std::nullopt;
    }
    return numbers;
}

} // namespace pyro
