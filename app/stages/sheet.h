// The column to the left of the viewport, which each stage fills with its own.
#pragma once

#include "app/session/session.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

namespace pyro {

// A titled column of widgets, about 320 px wide.
class Sheet : public QWidget {
    Q_OBJECT
public:
    Sheet(Session& session, const QString& title, QWidget* parent);

protected:
    void heading(const QString& text);
    QLabel* hint(const QString& text = {});
    QPushButton* button(const QString& name, const QString& text, bool primary = false);
    QWidget* card(QVBoxLayout*& layout);
    // A small button in a row of them.
    static QPushButton* small(QBoxLayout* row, const char* name, const QString& text, const QString& tip);
    // A column for cards that scrolls when it is too tall.
    QVBoxLayout* scrolled();

    Session& m_session;
    QVBoxLayout* m_layout;
};

} // namespace pyro
