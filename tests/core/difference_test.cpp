// The field of one case less that of another, as a case of its own.
#include "core/compare/difference_field.h"
#include "core/evaluate/region_readings.h"
#include "core/survey/shown_unit.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

OpenedCase blocks(const TempFolder& folder, const std::string& name, Cells cells, int count, double constant,
                  const std::vector<std::string>& parts, double length = 1) {
    std::vector<BlockData> data;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const BoxMesh box{{length, 1, 1}, {count, count, count}, {2.0 * static_cast<double>(i), 0, 0}};
        data.push_back(boxPart(parts[i], box, cells));
        addNodeField(data.back(), "T [degC]",
                     [&](const Point& at) { return constant + 3 * at[0] - at[1] + 2 * at[2]; });
        addCellField(data.back(), "source [W/m3]", [&](const Point&) { return 100 * constant; });
    }
    EXPECT_TRUE(writeCase(data, folder / (name + ".vtm")));
    return mustOpen(folder / (name + ".vtm"));
}

Result<DifferenceField> difference(const OpenedCase& own, const OpenedCase& other,
                                   const std::string& quantity = "temperature") {
    NoProgress progress;
    const CaseAtTime at{other};
    return differenceOf(own, *recognise(*own.solved, {}), {at, *recognise(*other.solved, {})}, quantity, progress);
}

} // namespace

TEST(DifferenceField, IsExactForLinearFieldsOnOtherMeshes) {
    for (const auto cells : {Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids, Cells::Hexahedra}) {
        const TempFolder folder;
        const auto own = blocks(folder, "own", Cells::Hexahedra, 6, 40, {"a", "b"});
        const auto other = blocks(folder, "other", cells, 4, 33.5, {"a", "b"});
        const auto found = difference(own, other);
        ASSERT_TRUE(found) << found.error().text();
        EXPECT_EQ(found->quantity.name, "temperature_difference");
        EXPECT_EQ(found->covered, 1);
        EXPECT_NEAR(found->quantity.min, 6.5, 1e-9);
        EXPECT_NEAR(found->quantity.max, 6.5, 1e-9) << "of each place, corners and edges too";
        NoProgress progress;
        for (const auto& region : readRegions(found->opened, found->quantity, Component::Natural, progress))
            EXPECT_NEAR(*region.mean, 6.5, 1e-9) << "it is read as any field is";
        const auto source = difference(own, other, "heat_source");
        ASSERT_TRUE(source) << source.error().text();
        EXPECT_NEAR(source->quantity.max, 650, 1e-9) << "on cells";
    }
}

TEST(DifferenceField, TellsWhatHasNoPartner) {
    const TempFolder folder;
    const auto own = blocks(folder, "own", Cells::Hexahedra, 10, 40, {"a", "b", "alone"});
    const auto other = blocks(folder, "other", Cells::Tetrahedra, 4, 33.5, {"a", "b"}, 0.45);
    const auto found = difference(own, other);
    ASSERT_TRUE(found);
    EXPECT_EQ(found->alone, std::vector<std::string>{"alone"});
    EXPECT_NEAR(found->covered, 2 * 5.0 / (3 * 11), 1e-12) << "5 of 11 layers of nodes in two of three parts";
    EXPECT_NEAR(found->quantity.min, 6.5, 1e-9);
    EXPECT_EQ(difference(own, other, "pressure").error().code, ErrorCode::NameUnknown);
    const auto stranger = blocks(folder, "stranger", Cells::Hexahedra, 2, 0, {"c"});
    EXPECT_NE(difference(own, stranger).error().what.find("no place in common"), std::string::npos);
}

TEST(DifferenceField, IsShownAsADifference) {
    ViewState view;
    view.unit = TemperatureUnit::Fahrenheit;
    EXPECT_EQ(shownUnit("temperature_difference", "K", view).text(10), "18.0 \u00b0F (difference)");
    view.unit = TemperatureUnit::Celsius;
    EXPECT_EQ(shownUnit("temperature_difference", "K", view).text(-13.84), "-13.8 K");
    view.units["pressure"] = "kPa";
    EXPECT_EQ(shownUnit("pressure_difference", "Pa", view).text(250), "0.25 kPa");
}

// The same body, turned by 90 degrees, moved and twice as large: by three places, and by boxes where it is only moved.
TEST(DifferenceField, OfGeometryThatWasMovedOrScaled) {
    const TempFolder folder;
    const auto own = blocks(folder, "own", Cells::Hexahedra, 6, 40, {"a"});
    BoxMesh box{{1, 1, 1}, {4, 4, 4}};
    box.map = [](const Point& at) { return Point{5 - 2 * at[1], 1 + 2 * at[0], 2 * at[2]}; };
    auto data = boxPart("a", box, Cells::Tetrahedra);
    addNodeField(data, "T [degC]", [](const Point& at) {
        const Point straight{(at[1] - 1) / 2, (5 - at[0]) / 2, at[2] / 2};
        return 33.5 + 3 * straight[0] - straight[1] + 2 * straight[2];
    });
    ASSERT_TRUE(writeCase(std::vector{data}, folder / "other.vtm"));
    const auto other = mustOpen(folder / "other.vtm");
    const std::vector<Point> from{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}};
    const std::vector<Point> to{{5, 1, 0}, {5, 3, 0}, {3, 1, 0}};
    NoProgress progress;
    const auto placement = placementOf(from, to, true);
    ASSERT_TRUE(placement);
    EXPECT_FALSE(placement->keepsDirections());
    const CaseAtTime at{other};
    const auto found = differenceOf(own, *recognise(*own.solved, {}), {at, *recognise(*other.solved, {}), *placement},
                                    "temperature", progress);
    ASSERT_TRUE(found) << found.error().text();
    EXPECT_EQ(found->covered, 1);
    EXPECT_NEAR(found->quantity.min, 6.5, 1e-9);
    EXPECT_NEAR(found->quantity.max, 6.5, 1e-9);
    const std::vector<Point> line{{0, 0, 0}, {1, 0, 0}, {2, 0, 0}};
    EXPECT_NE(placementOf(line, to, false).error().what.find("one line"), std::string::npos);
}
