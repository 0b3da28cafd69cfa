// The chosen limit, field by field.
#pragma once

#include "app/session/session.h"
#include "core/survey/edit.h"

#include <QComboBox>
#include <QFrame>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace pyro {

class LimitEditor : public QFrame {
    Q_OBJECT
public:
    explicit LimitEditor(Session& session, QWidget* parent = nullptr);

signals:
    void removeRequested();

private:
    void line(const char* name, const QString& title, LimitField field);
    void place(QWidget* widget, const QString& title);
    void refresh();
    void fillTargets(const Limit& limit);
    void about(); // another target or form was chosen

    Session& m_session;
    QGridLayout* m_grid;
    QLabel* m_title;
    QLabel* m_hint;
    QComboBox* m_target;
    QComboBox* m_form;
    struct Row {
        QWidget* label;
        QWidget* widget;
    };
    std::vector<Row> m_rows;
    struct Line {
        QLineEdit* edit;
        LimitField field;
    };
    std::vector<Line> m_lines;
};

} // namespace pyro
