#include "app/stages/card.h"

#include <QHBoxLayout>
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

} // namespace pyro
