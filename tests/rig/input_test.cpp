// The rig's input: every mistake is refused with what, where and what to do; what is right is read in SI.
#include "core/units/written.h"
#include "rig/grid.h"

#include <algorithm>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::rig;

namespace {

// A small input as JSON, to be spoilt one key at a time.
nlohmann::json sound() {
    return nlohmann::json::parse(R"json({
        "rig": 1, "title": "Block", "length_unit": "mm",
        "grid": {"x": {"spacing": 10}, "y": {"spacing": 10, "fine": 2}, "z": {"spacing": "1 cm", "fine": "1 mm",
          "growth": 1.5}},
        "materials": {"steel": {"conductivity": "50 W/(m.K)"}, "wood": {"conductivity": ["0.2 W/(m.K)", 0.1, 0.1]}},
        "boxes": [{"part": "a", "material": "steel", "from": [0, 0, 0], "to": [100, 20, 20], "power": "3 W"},
                  {"part": "b", "material": "wood", "from": [100, 0, 0], "to": [150, 20, 20], "source": "2 kW/m3"}],
        "environments": [{"boundary": "air", "temperature": "20 degC", "film_coefficient": "8 W/(m2.K)",
          "faces": [{"side": "any"}]},
                         {"boundary": "plate", "temperature": 300, "surface_resistance": "0.01 m2.K/W",
                          "faces": [{"side": "-z", "from": [0, 0, 0], "to": [50, 20, 0]}]}]})json");
}

} // namespace

TEST(RigInput, IsReadInSi) {
    const auto model = modelFromText(sound().dump(), "x");
    ASSERT_TRUE(model) << model.error().text();
    EXPECT_EQ(model->title, "Block");
    EXPECT_DOUBLE_EQ(model->boxes[0].to[0], 0.1);
    EXPECT_DOUBLE_EQ(model->boxes[0].power, 3);
    EXPECT_DOUBLE_EQ(model->boxes[1].source, 2000);
    EXPECT_DOUBLE_EQ(model->axes[1].fine, 0.002);
    EXPECT_DOUBLE_EQ(model->axes[2].spacing, 0.01);
    EXPECT_DOUBLE_EQ(model->axes[2].growth, 1.5);
    EXPECT_DOUBLE_EQ(model->axes[0].fine, model->axes[0].spacing) << "without fine there is no grading";
    EXPECT_NEAR(model->environments[0].temperature, 293.15, 1e-9);
    EXPECT_NEAR(model->environments[0].resistance, 0.125, 1e-12);
    EXPECT_DOUBLE_EQ(model->environments[1].temperature, 300);
    EXPECT_EQ(model->environments[1].faces[0].side, Side::ZMinus);
    const auto wood = std::ranges::find(model->materials, "wood", &Material::name);
    EXPECT_DOUBLE_EQ(wood->conductivity[0], 0.2);
    EXPECT_DOUBLE_EQ(wood->conductivity[2], 0.1);
}

TEST(RigInput, MistakesAreNamed) {
    using Spoil = void (*)(nlohmann::json&);
    const struct {
        const char* what;
        Spoil spoil;
        const char* told; // a word of the message or its place
    } rows[]{
        {"no version", [](auto& j) { j.erase("rig"); }, "rig"},
        {"another version", [](auto& j) { j["rig"] = 2; }, "rig"},
        {"no materials", [](auto& j) { j.erase("materials"); }, "materials"},
        {"no boxes", [](auto& j) { j["boxes"] = nlohmann::json::array(); }, "box"},
        {"no environments", [](auto& j) { j["environments"] = nlohmann::json::array(); }, "environment"},
        {"no grid", [](auto& j) { j.erase("grid"); }, "grid"},
        {"no axis", [](auto& j) { j["grid"].erase("z"); }, "z"},
        {"no spacing", [](auto& j) { j["grid"]["x"].erase("spacing"); }, "spacing"},
        {"spacing of zero", [](auto& j) { j["grid"]["x"]["spacing"] = 0; }, "spacing"},
        {"fine above spacing", [](auto& j) { j["grid"]["x"]["fine"] = 50; }, "fine"},
        {"shrinking grid", [](auto& j) { j["grid"]["z"]["growth"] = 0.5; }, "growth"},
        {"unknown unit of length", [](auto& j) { j["length_unit"] = "ell"; }, "ell"},
        {"no conductivity", [](auto& j) { j["materials"]["steel"].clear(); }, "conductivity"},
        {"conductivity of zero", [](auto& j) { j["materials"]["steel"]["conductivity"] = 0; }, "positive"},
        {"conductivity in another unit", [](auto& j) { j["materials"]["steel"]["conductivity"] = "50 W"; }, "steel"},
        {"two conductivities",
         [](auto& j) {
             j["materials"]["wood"]["conductivity"] = {1, 2};
         },
         ""},
        {"unknown material", [](auto& j) { j["boxes"][0]["material"] = "gold"; }, "gold"},
        {"no part", [](auto& j) { j["boxes"][1].erase("part"); }, "part"},
        {"flat box",
         [](auto& j) {
             j["boxes"][1]["to"] = {100, 20, 20};
         },
         "boxes.1"},
        {"two coordinates",
         [](auto& j) {
             j["boxes"][1]["to"] = {150, 20};
         },
         "three"},
        {"power per area", [](auto& j) { j["boxes"][0]["power"] = "3 W/m2"; }, "power"},
        {"power as a list", [](auto& j) { j["boxes"][0]["power"] = {3}; }, "unit"},
        {"no temperature", [](auto& j) { j["environments"][0].erase("temperature"); }, "temperature"},
        {"temperature as power", [](auto& j) { j["environments"][0]["temperature"] = "20 W"; }, "temperature"},
        {"negative film coefficient", [](auto& j) { j["environments"][0]["film_coefficient"] = -8; }, "positive"},
        {"film coefficient of zero", [](auto& j) { j["environments"][0]["film_coefficient"] = 0; }, "positive"},
        {"unknown side", [](auto& j) { j["environments"][0]["faces"][0]["side"] = "top"; }, "top"},
        {"no faces", [](auto& j) { j["environments"][0].erase("faces"); }, "faces"},
    };
    for (const auto& row : rows) {
        SCOPED_TRACE(row.what);
        auto json = sound();
        row.spoil(json);
        const auto model = modelFromText(json.dump(), "test.rig.json");
        ASSERT_FALSE(model);
        EXPECT_NE(model.error().text().find(row.told), std::string::npos) << model.error().text();
        EXPECT_FALSE(model.error().text().empty());
    }
    EXPECT_EQ(loadModel("/no/such/file.rig.json").error().code, ErrorCode::FileMissing);
    EXPECT_EQ(modelFromText("not json", "x").error().code, ErrorCode::Syntax);
}

TEST(RigInput, LaterBoxesCutIntoEarlierOnes) {
    auto json = sound();
    json["boxes"].push_back({{"part", "core"}, {"material", "steel"}, {"from", {40, 0, 0}}, {"to", {60, 20, 20}}});
    const auto model = modelFromText(json.dump(), "x");
    ASSERT_TRUE(model);
    const auto grid = makeGrid(*model);
    ASSERT_TRUE(grid);
    std::array<double, 3> length{};
    for (std::size_t i = 0; i < grid->cells(0); ++i)
        length[static_cast<std::size_t>(grid->box[grid->cell(i, 0, 0)])] += grid->width(0, i);
    EXPECT_NEAR(length[0], 0.08, 1e-12);
    EXPECT_NEAR(length[1], 0.05, 1e-12);
    EXPECT_NEAR(length[2], 0.02, 1e-12);
}
