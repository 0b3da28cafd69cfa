#include "tests/app/window_fixture.h"

#include "app/theme/theme.h"
#include "tests/support/meshes.h"

#include <QApplication>
#include <QComboBox>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QSettings>
#include <QSurfaceFormat>

namespace pyro::test {

void WindowTest::SetUp() {
    QSettings().clear();
    // "hot core" lies hidden in the middle of the scene; "cold plate" is large and cool.
    const BoxMesh plate{{0.1, 0.1, 0.01}, {10, 10, 2}};
    const BoxMesh core{{0.02, 0.02, 0.02}, {4, 4, 4}, {0.04, 0.04, 0.01}};
    auto a = boxPart("cold plate", plate);
    auto b = boxPart("hot core", core);
    addNodeField(a, "T [degC]", [](const Point& at) { return 30 + 200 * at[0]; });
    addNodeField(b, "T [degC]", [](const Point& at) { return 90 + 1000 * (at[2] - 0.01); });
    ASSERT_TRUE(writeCase({a, b, boxSide("base", plate, 2, false)}, folder / "pair.vtm"));
    survey = folder / "pair.survey.json";
    writeText(survey, R"({"pyrometer": 1, "title": "Pair", "cases": [{"name": "first", "file": "pair.vtm",
        "parts": {"hot core": {"label": "Core", "power": "3 W"}}}],
        "limits": [{"part": "cold plate", "max": "60 degC", "margin": "5 K"}, {"part": "hot core", "max": "100 degC",
          "margin": "5 K", "source": "sheet"}],
        "view": {"stage": "Field"}})");
    window = std::make_unique<MainWindow>();
    window->resize(1280, 800);
    window->show();
    ASSERT_TRUE(QTest::qWaitForWindowExposed(window.get()));
    QApplication::setActiveWindow(window.get()); // Xvfb has no window manager to do it
}

void WindowTest::settle() {
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->isSettled(); }, 30000));
    QTest::qWait(30); // lets the views repaint
}

void WindowTest::openSurvey() {
    window->open(QString::fromStdString(survey.string()));
    settle();
}

QPushButton* WindowTest::button(const QString& accessibleName) {
    for (auto* one : window->findChildren<QPushButton*>())
        if (one->accessibleName() == accessibleName || one->objectName() == accessibleName)
            return one;
    ADD_FAILURE() << "no button " << accessibleName.toStdString();
    return nullptr;
}

void WindowTest::fill(QLineEdit* edit, const QString& text) {
    ASSERT_NE(edit, nullptr);
    ASSERT_TRUE(edit->isVisible()) << edit->objectName().toStdString();
    edit->setFocus();
    edit->selectAll();
    QTest::keyClicks(edit, text);
    QTest::keyClick(edit, Qt::Key_Return);
    settle();
}

void WindowTest::fill(const QString& name, const QString& text) { fill(find<QLineEdit>(name), text); }

void WindowTest::pick(const QString& name, const QString& text) {
    auto* box = find<QComboBox>(name);
    ASSERT_NE(box, nullptr);
    const int at = box->findText(text);
    ASSERT_GE(at, 0) << text.toStdString();
    box->setCurrentIndex(at);
    emit box->activated(at);
    settle();
}

void WindowTest::click(QWidget* widget, QPoint at) {
    ASSERT_NE(widget, nullptr);
    ASSERT_TRUE(widget->isVisible()) << widget->objectName().toStdString();
    ASSERT_TRUE(widget->isEnabled()) << widget->objectName().toStdString();
    QTest::mouseClick(widget, Qt::LeftButton, {}, at);
}

void WindowTest::type(Qt::Key key, Qt::KeyboardModifiers modifiers) {
    auto* focus = QApplication::focusWidget();
    QTest::keyClick(focus != nullptr ? focus : window.get(), key, modifiers);
}

void WindowTest::trigger(const QString& id) {
    auto* action = window->findChild<QAction*>(id);
    ASSERT_NE(action, nullptr) << id.toStdString();
    ASSERT_TRUE(action->isEnabled()) << id.toStdString();
    action->trigger();
}

int WindowTest::columnOf(QTableView* table, const QString& title) {
    for (int column = 0; column < table->model()->columnCount(); ++column)
        if (table->model()->headerData(column, Qt::Horizontal).toString() == title)
            return column;
    ADD_FAILURE() << "no column " << title.toStdString();
    return 0;
}

QString WindowTest::cell(QTableView* table, int row, const QString& column) {
    return table->model()->index(row, columnOf(table, column)).data().toString();
}

void WindowTest::enter(QTableView* table, int row, const QString& column, const QString& text) {
    const auto index = table->model()->index(row, columnOf(table, column));
    table->scrollTo(index);
    const auto at = table->visualRect(index).center();
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, at);
    QTest::mouseDClick(table->viewport(), Qt::LeftButton, {}, at);
    const QPointer<QLineEdit> editor = table->viewport()->findChild<QLineEdit*>();
    ASSERT_NE(editor, nullptr) << "the cell cannot be edited";
    editor->selectAll();
    QTest::keyClicks(editor, text);
    QTest::keyClick(editor, Qt::Key_Return);
    ASSERT_TRUE(QTest::qWaitFor([&] { return editor.isNull(); }, 3000)); // Qt commits after the key, queued
    // else the button counts as held, since the editor took its release
    QTest::mouseRelease(table->viewport(), Qt::LeftButton, {}, at);
}

} // namespace pyro::test

int main(int count, char** words) {
    testing::InitGoogleTest(&count, words);
    if (testing::GTEST_FLAG(list_tests)) // asked by the build, which has no display
        return RUN_ALL_TESTS();
    QSurfaceFormat format;
    format.setVersion(3, 2);
    format.setProfile(QSurfaceFormat::CoreProfile);
    QSurfaceFormat::setDefaultFormat(format);
    QApplication application(count, words);
    QApplication::setOrganizationName("pyrometer-test");
    pyro::theme::apply(application);
    return RUN_ALL_TESTS();
}
