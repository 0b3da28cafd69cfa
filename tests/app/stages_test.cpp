// Stages as the window finds them in their list: each complete, none in another's way, all their actions at hand.
#include "app/stages/rail.h"
#include "tests/app/window_fixture.h"

#include <QAction>
#include <QFile>
#include <QMenu>
#include <QMenuBar>
#include <set>

using namespace pyro;
using namespace pyro::test;

namespace {

class StagesTest : public WindowTest {
protected:
    // All actions in menus, those in menus within too.
    static void collect(const QMenu& menu, std::set<QString>& names, int& highest) {
        highest = std::max(highest, menu.sizeHint().height());
        for (const auto* action : menu.actions())
            if (const auto* within = action->menu())
                collect(*within, names, highest);
            else if (!action->isSeparator())
                names.insert(action->objectName());
    }
};

} // namespace

TEST(Stages, AreComplete) {
    std::set<std::string> ids;
    std::set<int> keys;
    for (const auto* stage : stages()) {
        SCOPED_TRACE(stage->id);
        EXPECT_TRUE(ids.insert(stage->id).second) << "two of one name";
        EXPECT_TRUE(keys.insert(stage->key).second) << "two at one key";
        EXPECT_TRUE(stage->key >= 1 && stage->key <= 9) << "a digit";
        EXPECT_TRUE(QFile::exists(QString(":/icons/%1.svg").arg(stage->icon))) << stage->icon;
        EXPECT_NE(stage->sheet, nullptr);
        EXPECT_TRUE(stage->ledgerPage != nullptr || stage->page != nullptr) << "something stands beside its sheet";
        EXPECT_FALSE(stage->ledgerPage != nullptr && stage->page != nullptr) << "a page of its own hides the tables";
        for (const auto* wanted : stage->wantedMost)
            EXPECT_TRUE(QString(wanted).startsWith("<b>")) << wanted;
        EXPECT_TRUE(QString(stage->help).startsWith("<p>"));
        EXPECT_EQ(&stageNamed(stage->id), stage);
    }
    EXPECT_EQ(&stageNamed("Kitchen"), stages().front()) << "a name that is none leads to the first";
    EXPECT_EQ(std::ranges::count_if(stages(), [](const Stage* one) { return one->showsParts; }), 1)
        << "whoever looks for a part is led to one place";
}

TEST_F(StagesTest, TheRailShowsThemInTheOrderOfTheWork) {
    openSurvey();
    const auto buttons = find<Rail>("rail")->findChildren<RailButton*>();
    ASSERT_EQ(static_cast<std::size_t>(buttons.size()), stages().size());
    for (int i = 1; i < buttons.size(); ++i)
        EXPECT_GT(buttons[i]->y(), buttons[i - 1]->y());
    for (const auto* stage : stages()) {
        type(static_cast<Qt::Key>(Qt::Key_0 + stage->key));
        EXPECT_EQ(window->session().view().stage, stage->id);
        settle();
        EXPECT_TRUE(window->message().isEmpty()) << stage->id << ": " << window->message().toStdString();
    }
}

TEST_F(StagesTest, TheirActionsHaveNamesAndKeysOfTheirOwn) {
    openSurvey();
    std::set<QString> names;
    std::map<QString, QString> keys;
    for (const auto* action : window->findChildren<QAction*>()) {
        if (action->objectName().isEmpty() || action->objectName().startsWith("qt_"))
            continue;
        const auto key = action->shortcut().toString();
        if (key.isEmpty())
            continue;
        EXPECT_TRUE(keys.emplace(key, action->objectName()).second)
            << key.toStdString() << ": " << keys[key].toStdString() << " and " << action->objectName().toStdString();
    }
    for (const auto* stage : stages())
        for (const auto& action : actionsOf(*stage)) {
            SCOPED_TRACE(action.id);
            EXPECT_TRUE(names.insert(action.id).second) << "two actions of one name";
            auto* made = window->findChild<QAction*>(action.id);
            ASSERT_NE(made, nullptr);
            EXPECT_EQ(made->text(), QString(action.text));
            EXPECT_EQ(made->shortcut(), QKeySequence(action.keys));
            EXPECT_EQ(made->isCheckable(), action.isOn != nullptr);
            EXPECT_EQ(made->isChecked(), action.isOn != nullptr && action.isOn(window->session()));
            EXPECT_NE(action.run, nullptr);
        }
}

TEST_F(StagesTest, MenusHoldThemAndFitTheScreen) {
    openSurvey();
    std::set<QString> listed;
    int highest = 0;
    for (const auto* top : window->menuBar()->actions())
        if (top->menu() != nullptr)
            collect(*top->menu(), listed, highest);
    for (const auto* stage : stages()) {
        EXPECT_TRUE(listed.contains(QString("stage") + stage->id));
        for (const auto& action : actionsOf(*stage))
            EXPECT_EQ(listed.contains(action.id), action.menu != StageMenu::None) << action.id;
    }
    EXPECT_LT(highest, 720) << "the longest menu stays on a screen of 800 lines";
}

TEST_F(StagesTest, WhatIsTickedFollowsTheSession) {
    openSurvey();
    auto* watch = window->findChild<QAction*>("watchCase");
    ASSERT_TRUE(watch != nullptr && watch->isChecked());
    trigger("watchCase");
    EXPECT_FALSE(window->session().isWatching());
    EXPECT_FALSE(watch->isChecked());
    window->session().setWatching(true); // from elsewhere
    EXPECT_TRUE(watch->isChecked());
}
