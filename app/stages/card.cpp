#include "app/stages/card.h"

#include <QComboBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
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

namespace {

// A card is as wide as its sheet: a long entry of a list is cut, and read in the list itself.
void keepNarrow(QWidget& editor) {
    for (auto* box : editor.findChildren<QComboBox*>()) {
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMinimumContentsLength(6);
    }
    for (auto* edit : editor.findChildren<QLineEdit*>())
        edit->setMinimumWidth(40);
    for (auto* form : editor.findChildren<QFormLayout*>())
        form->setRowWrapPolicy(QFormLayout::WrapLongRows);
    if (auto* form = qobject_cast<QFormLayout*>(editor.layout()))
        form->setRowWrapPolicy(QFormLayout::WrapLongRows);
}

} // namespace

void FoldCard::layOut(const QString& name, QLabel* facts, Switch* shown, QWidget* editor) {
    m_editor = editor;
    keepNarrow(*editor);
    facts->setWordWrap(true);
    m_name = new QLabel(name);
    layOutCard(*this, m_name, facts, shown, editor);
    editor->hide();
}

void FoldCard::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton) {
        m_editor->setVisible(!m_editor->isVisible());
        emit toggled();
    }
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
