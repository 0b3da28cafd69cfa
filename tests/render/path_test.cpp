// Paths of the heat and of a flow, packed for drawing, and the balance that tells where the heat goes.
#include "render/path_picture.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// A bar along x, hot at x = 0, with a constant flux of 200 W/m2 along x and its two ends as boundaries.
class PathTest : public testing::Test {
protected:
    void SetUp() override {
        const BoxMesh box{{0.2, 0.1, 0.1}, {10, 5, 5}};
        auto bar = boxPart("bar", box);
        addNodeField(bar, "temperature", [](const Point& at) { return 400 - 100 * at[0]; });
        ArrayData flux{"heat_flux", Location::Cell, 3, {}};
        for (std::size_t cell = 0; cell + 1 < bar.offsets.size(); ++cell)
            flux.values.insert(flux.values.end(), {200, 0, 0});
        bar.arrays.push_back(std::move(flux));
        ASSERT_TRUE(
            writeCase({bar, boxSide("hot end", box, 0, false), boxSide("cold end", box, 0, true)}, folder / "bar.vtm"));
        opened = mustOpen(folder / "bar.vtm");
        quantities = *recognise(*opened.solved, {});
        picture = std::make_unique<FieldPicture>(
            *makePicture(opened, *quantities.named("temperature"), nullptr, progress));
        orders = *makeOrders(opened, progress);
    }
    PathPicture paths(const PathView& view, const std::optional<Point>& hottest, const char* followed = "heat_flux") {
        auto made = makePaths(*picture, orders, *quantities.named(followed), view, {hottest, nullptr}, progress);
        EXPECT_TRUE(made);
        return std::move(*made);
    }

    TempFolder folder;
    NoProgress progress;
    OpenedCase opened;
    QuantityList quantities;
    std::unique_ptr<FieldPicture> picture;
    CellOrders orders;
};

} // namespace

TEST_F(PathTest, FromABoundaryTheyRunStraightThroughTheBar) {
    PathView view;
    view.start = PathStart::Boundary;
    view.from = "hot end";
    view.lines = 25;
    const auto made = paths(view, std::nullopt);
    ASSERT_EQ(made.lines(), 25U);
    EXPECT_FALSE(made.fromGradient);
    EXPECT_TRUE(made.why.empty());
    for (std::size_t line = 0; line < made.lines(); ++line) {
        const auto first = made.begin[line];
        const auto last = made.begin[line + 1] - 1;
        EXPECT_NEAR(made.points[3 * first], 0, 2e-3);
        EXPECT_NEAR(made.points[3 * last], 0.2, 2e-3);
        for (const std::size_t axis : {1U, 2U})
            EXPECT_NEAR(made.points[3 * first + axis], made.points[3 * last + axis], 1e-6);
        for (auto point = first; point <= last; ++point)
            EXPECT_NEAR(made.values[point], 400 - 100 * made.points[3 * point], 1e-2)
                << "coloured by the quantity on display";
    }
}

TEST_F(PathTest, AroundTheHottestPlaceTheyFallTowardsTheCold) {
    PathView view;
    view.lines = 30;
    const auto made = paths(view, Point{0.1, 0.05, 0.05}, "temperature");
    EXPECT_TRUE(made.fromGradient) << "a scalar is followed down its gradient";
    ASSERT_GT(made.lines(), 20U);
    for (std::size_t line = 0; line < made.lines(); ++line)
        EXPECT_GT(made.values[made.begin[line]], made.values[made.begin[line + 1] - 1]);
}

TEST_F(PathTest, SayWhyThereAreNone) {
    PathView view;
    view.start = PathStart::Boundary;
    view.from = "no such side";
    EXPECT_NE(paths(view, std::nullopt).why.find("no such side"), std::string::npos);
    view.from.clear();
    const auto outside = paths(view, Point{5, 5, 5});
    EXPECT_EQ(outside.lines(), 0U);
    EXPECT_FALSE(outside.why.empty());
    EXPECT_FALSE(paths(view, std::nullopt).why.empty());
}

TEST_F(PathTest, CanBeCancelled) {
    class Stopped final : public Progress {
    public:
        void report(double, std::string_view) override {}
        bool cancelled() const override { return true; }
    } stopped;
    PathView view;
    view.start = PathStart::Boundary;
    view.from = "hot end";
    const auto made = makePaths(*picture, orders, *quantities.named("heat_flux"), view, {}, stopped);
    ASSERT_FALSE(made);
    EXPECT_TRUE(made.error().cancelled());
}
