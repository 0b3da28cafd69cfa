// The paths of heat or flow in the sheet of the stage Field.
#pragma once

#include "app/session/session.h"
#include "app/stages/card.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QLineEdit>
#include <QSpinBox>

namespace pyro {

class PathCard : public FoldCard {
    Q_OBJECT
public:
    explicit PathCard(Session& session, QWidget* parent = nullptr);
    void refresh();

private:
    QWidget* buildEditor();
    void addStart(QFormLayout& form);
    void addRun(QFormLayout& form);
    void addLook(QFormLayout& form);
    QLineEdit* lengthField(const char* name, const QString& tip);
    QCheckBox* check(const QString& text, const char* name, bool PathView::*flag);
    void edit(const QString& what, const std::function<void(PathView&)>& change);
    void readPlace(const QLineEdit& field, Point PathView::*place);
    void readLength(const QLineEdit& field, double PathView::*length, bool mayBeZero);
    void fillStarts(const PathView& view);
    QString startWords(const PathView& view) const;

    Session& m_session;
    QLabel* m_facts;
    Switch* m_shown;
    QFormLayout* m_form;
    QComboBox* m_quantity;
    QComboBox* m_from;
    QLineEdit* m_at;
    QLineEdit* m_to;
    QLineEdit* m_radius;
    QSpinBox* m_lines;
    QComboBox* m_direction;
    QLineEdit* m_longest;
    std::vector<std::pair<QCheckBox*, bool PathView::*>> m_checks;
};

} // namespace pyro
