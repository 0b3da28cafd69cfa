// A case that is being written while the window watches it: by the rig, and by a writer that stops half way through a
// file.
#include "rig/run.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <thread>

using namespace pyro;
using namespace pyro::test;

namespace {

// The rig, slowed down, and held while the window opens, so that it has something to watch.
class HeldProgress final : public Progress {
public:
    void report(double, std::string_view) override {
        do
            std::this_thread::sleep_for(std::chrono::milliseconds(30));
        while (held);
    }
    bool cancelled() const override { return false; }
    std::atomic<bool> held = false;
};

class WatchTest : public WindowTest {
protected:
    const CaseState* state() { return window->session().activeCase(); }
    // Until the watch has seen the folder this many times more.
    void waitForLooks(int count) {
        const int before = window->session().watch().looks();
        ASSERT_TRUE(QTest::qWaitFor([&] { return window->session().watch().looks() >= before + count; }, 20000));
    }
    std::size_t steps() { return state() != nullptr ? state()->series.steps.size() : 0; }
    void writeStep(int i) {
        auto part = boxPart("bar", {{0.1, 0.02, 0.02}, {10, 2, 2}});
        addNodeField(part, "T [degC]", [i](const Point& at) { return 25 + 10 * i + 200 * at[0]; });
        part.time = 30.0 * i;
        ASSERT_TRUE(writeBlock(part, folder / ("warm_000" + std::to_string(i) + ".vtu")));
    }
};

} // namespace

TEST_F(WatchTest, StepsAppearWhileTheRigWritesThemAndTheViewStays) {
    writeText(folder / "in.rig.json",
              R"j({"rig": 1, "grid": {"x": {"spacing": 0.02}, "y": {"spacing": 1}, "z": {"spacing": 1}},
        "materials": {"metal": {"conductivity": 50, "density": 8000, "heat_capacity": 500}},
        "boxes": [{"part": "bar", "material": "metal", "from": [0, 0, 0], "to": [0.2, 1, 1], "power": "100 W"}],
        "environments": [{"boundary": "air", "temperature": 300, "film_coefficient": 20, "faces": [{"side": "+x"}]}],
        "transient": {"start": 300, "duration": 120, "step": 10, "write_every": 1}})j");
    HeldProgress slow;
    std::atomic<bool> solved = false;
    std::thread rig([&] {
        EXPECT_TRUE(rig::run({folder / "in.rig.json", folder / "out.vtm", folder / "out-history.csv"}, slow));
        solved = true;
    });
    ASSERT_TRUE(QTest::qWaitFor([&] { return std::filesystem::exists(folder / "out_0001.vtm"); }, 20000));
    slow.held = true;
    window->session().watch().setInterval(100);
    window->open(QString::fromStdString((folder / "out_0000.vtm").string()));
    settle();
    const auto first = steps();
    EXPECT_LT(first, 13U) << "the rig was faster than the window; it has nothing to watch";
    auto camera = *window->session().view().camera;
    camera.scale *= 0.5;
    window->session().moveCamera(camera);
    slow.held = false;
    ASSERT_TRUE(QTest::qWaitFor([&] { return solved.load(); }, 60000));
    rig.join();
    ASSERT_TRUE(QTest::qWaitFor([&] { return steps() == 13; }, 20000)) << steps();
    settle();
    EXPECT_EQ(state()->step, 12) << "who stood at the end goes along";
    EXPECT_EQ(state()->waiting, 0);
    EXPECT_NEAR(window->session().view().camera->scale, camera.scale, 1e-12);
    EXPECT_TRUE(window->message().isEmpty()) << window->message().toStdString();
    ASSERT_TRUE(QTest::qWaitFor(
        [&] {
            return state()->readings && !state()->readings->monitored.empty() &&
                   state()->readings->monitored.front().count == 13;
        },
        20000))
        << "the history grew with it";
}

TEST_F(WatchTest, AHalfWrittenFileWaits) {
    writeStep(0);
    writeStep(1);
    window->session().watch().setInterval(100);
    window->open(QString::fromStdString((folder / "warm_0000.vtu").string()));
    settle();
    ASSERT_EQ(steps(), 2U);
    window->session().setStep(0);
    settle();
    writeStep(2);
    const auto whole = readText(folder / "warm_0002.vtu");
    writeText(folder / "warm_0002.vtu", whole.substr(0, whole.size() - 400));
    waitForLooks(5);
    settle();
    EXPECT_EQ(steps(), 2U) << "no garbage";
    EXPECT_TRUE(window->message().isEmpty()) << window->message().toStdString();
    writeText(folder / "warm_0002.vtu", whole);
    ASSERT_TRUE(QTest::qWaitFor([&] { return steps() == 3; }, 20000));
    settle();
    EXPECT_EQ(state()->step, 0) << "who looks at the first step goes on looking at it";
    EXPECT_NEAR(state()->readings->parts.at(0).max->kelvin - 273.15, 45, 1e-4);
}

// The newest file is half written when the case is opened: the step before is shown, and the newest as soon as it is
// whole.
TEST_F(WatchTest, ACaseWithAHalfWrittenLastFileOpensAtTheOneBefore) {
    for (int i = 0; i < 3; ++i)
        writeStep(i);
    const auto whole = readText(folder / "warm_0002.vtu");
    writeText(folder / "warm_0002.vtu", whole.substr(0, whole.size() - 400));
    window->session().watch().setInterval(100);
    window->open(QString::fromStdString((folder / "warm_0000.vtu").string()));
    settle();
    EXPECT_TRUE(window->message().isEmpty()) << window->message().toStdString();
    ASSERT_EQ(steps(), 2U);
    EXPECT_TRUE(find<QLabel>("stepLabel")->text().contains("a file is being written"))
        << find<QLabel>("stepLabel")->text().toStdString();
    writeText(folder / "warm_0002.vtu", whole);
    ASSERT_TRUE(QTest::qWaitFor([&] { return steps() == 3; }, 20000));
    settle();
    EXPECT_EQ(state()->step, 2);
    EXPECT_NEAR(state()->readings->parts.at(0).max->kelvin - 273.15, 65, 1e-4);
    EXPECT_EQ(state()->waiting, 0);
}

TEST_F(WatchTest, AStepThatIsWrittenAnewIsReadAnew) {
    writeStep(0);
    writeStep(1);
    window->session().watch().setInterval(100);
    window->open(QString::fromStdString((folder / "warm_0000.vtu").string()));
    settle();
    EXPECT_NEAR(state()->readings->parts.at(0).max->kelvin - 273.15, 55, 1e-4);
    auto part = boxPart("bar", {{0.1, 0.02, 0.02}, {10, 2, 2}});
    addNodeField(part, "T [degC]", [](const Point&) { return 77; });
    part.time = 30.0;
    ASSERT_TRUE(writeBlock(part, folder / "warm_0001.vtu"));
    ASSERT_TRUE(QTest::qWaitFor(
        [&] { return state()->readings && std::abs(state()->readings->parts.at(0).max->kelvin - 273.15 - 77) < 1e-4; },
        20000));
    window->session().setWatching(false);
    writeStep(2);
    QTest::qWait(400); // nothing is to happen: there is no condition to wait for
    EXPECT_EQ(steps(), 2U) << "not watched any more";
}
