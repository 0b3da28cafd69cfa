// The common shape of the cards in the sheet of the stage Field: name and facts, a switch, and an editor below them.
#pragma once

#include "app/theme/switch.h"

#include <QFrame>
#include <QLabel>
#include <optional>
#include <vector>

namespace pyro {

void layOutCard(QFrame& card, QLabel* name, QLabel* facts, Switch* shown, QWidget* editor);

// A card whose editor opens and closes by a click on it.
class FoldCard : public QFrame {
    Q_OBJECT
public:
    using QFrame::QFrame;
    bool isOpen() const { return m_editor != nullptr && m_editor->isVisibleTo(this); }

signals:
    void toggled();

protected:
    void setTitle(const QString& name) { m_name->setText(name); }
    void layOut(const QString& name, QLabel* facts, Switch* shown, QWidget* editor);
    void mousePressEvent(QMouseEvent* event) override;

private:
    QLabel* m_name = nullptr;
    QWidget* m_editor = nullptr;
};

// Numbers typed with blanks, commas or semicolons between them; nothing when a word is none.
std::optional<std::vector<double>> typedNumbers(const QString& text);

} // namespace pyro
