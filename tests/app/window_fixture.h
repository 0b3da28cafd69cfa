// The real window under Xvfb, driven by real events. Every test starts with a small survey of two parts.
#pragma once

#include "app/main_window.h"
#include "tests/support/temp_folder.h"

#include <QLineEdit>
#include <QTableView>
#include <QTest>
#include <gtest/gtest.h>

namespace pyro::test {

class WindowTest : public testing::Test {
protected:
    void SetUp() override;
    // Opens the survey written by SetUp and waits until it is drawn.
    void openSurvey();
    // Waits until nothing runs any more; fails after half a minute.
    void settle();
    template <class Widget>
    Widget* find(const QString& name) {
        auto* found = window->findChild<Widget*>(name);
        if (found == nullptr)
            ADD_FAILURE() << "no widget " << name.toStdString();
        return found;
    }
    // Buttons share style names; they are told apart by their accessible name.
    QPushButton* button(const QString& accessibleName);
    void click(QWidget* widget, QPoint at = {});
    void type(Qt::Key key, Qt::KeyboardModifiers modifiers = Qt::NoModifier);
    // Triggers an action, which must be enabled.
    void trigger(const QString& id);
    // The text of a table cell, by row and column title.
    QString cell(QTableView* table, int row, const QString& column);
    int columnOf(QTableView* table, const QString& title);
    // Types over what stands in a visible field and presses Enter.
    void fill(QLineEdit* edit, const QString& text);
    void fill(const QString& name, const QString& text);
    // Chooses from a box by its text.
    void pick(const QString& name, const QString& text);
    // Double-clicks a cell, types a text and presses Enter.
    void enter(QTableView* table, int row, const QString& column, const QString& text);

    TempFolder folder;
    std::filesystem::path survey;
    std::unique_ptr<MainWindow> window;
};

} // namespace pyro::test
