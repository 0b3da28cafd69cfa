// Places that are typed and moved, copies at stations, references as people write them, and what a gauge can be of.
#include "core/field/section_layers.h"
#include "core/quantities/offered_quantities.h"
#include "core/survey/gauge_edit.h"
#include "core/survey/gauge_places.h"
#include "core/survey/survey_file.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

Survey surveyWith(const std::string& gauges) {
    auto survey = surveyFromJson(Json::parse(R"({"pyrometer": 1, "gauges": [)" + gauges + "]}"), "test");
    EXPECT_TRUE(survey) << survey.error().text();
    return *survey;
}

const char* const line =
    R"j({"id": "T_line_1", "where": {"line": {"from": [0.1, 0, 0], "to": [0.1, "20 mm", 0]}},
      "quantity": "temperature"})j";

} // namespace

TEST(GaugePlaces, AreTypedAndTold) {
    const auto survey = surveyWith(
        std::string(line) +
        R"j(, {"id": "cut", "where": {"plane": {"origin": [0, 0, 0.005], "normal": [0, 0, 2]}},
          "quantity": "temperature"},
        {"id": "bent", "where": {"polyline": {"through": [[0, 0, 0], [0.1, 0, 0], [0.1, 0.1, 0]]}},
          "quantity": "temperature"}, {"id": "part", "where": {"part": "a"}, "quantity": "temperature"})j");
    const auto ends = placesOf(survey.gauges[0]);
    ASSERT_EQ(ends.size(), 2U);
    EXPECT_EQ(ends[1].label, "To");
    EXPECT_EQ(typedPlace(ends[1]), "100, 20, 0 mm");
    EXPECT_EQ(typedPlace(placesOf(survey.gauges[1])[1]), "0, 0, 1");
    EXPECT_EQ(placesOf(survey.gauges[2])[2].label, "Place 3");
    EXPECT_TRUE(placesOf(survey.gauges[3]).empty());
    // What is shown reads back as the same place, and so does what people type instead.
    for (const char* text : {"100, 20, 0 mm", "100 20 0", "0.1 m, 20 mm, 0 mm", "10 2 0 cm", "0.1; 0.02; 0 m"}) {
        const auto place = placeOfText(text, "mm");
        ASSERT_TRUE(place) << text << ": " << place.error().text();
        EXPECT_NEAR((*place)[0], 0.1, 1e-12) << text;
        EXPECT_NEAR((*place)[1], 0.02, 1e-12) << text;
    }
    EXPECT_FALSE(placeOfText("1, 2 mm", "mm"));
    EXPECT_FALSE(placeOfText("1, 2, 3 kg", "mm"));
    EXPECT_FALSE(placeOfText("left, 2, 3", "mm"));
    const auto moved = withGaugePlace(survey, 0, 1, {0.1, 0.05, 0});
    ASSERT_TRUE(moved);
    EXPECT_EQ(typedPlace(placesOf(moved->gauges[0])[1]), "100, 50, 0 mm");
    EXPECT_EQ(typedPlace(placesOf(moved->gauges[0])[0]), "100, 0, 0 mm");
    EXPECT_EQ(typedPlace(placesOf(withGaugePlace(survey, 2, 1, {0, 0, 1})->gauges[2])[1]), "0, 0, 1000 mm");
    EXPECT_FALSE(withGaugePlace(survey, 1, 1, {0, 0, 0})) << "a normal without a direction";
    EXPECT_FALSE(withGaugePlace(survey, 3, 0, {0, 0, 0}));
}

TEST(GaugePlaces, CopiesStandAtStations) {
    const auto survey = surveyWith(line);
    const auto stations = stationsOfText("x = 200, 300 mm", "mm");
    ASSERT_TRUE(stations) << stations.error().text();
    const auto all = withStations(survey, 0, *stations);
    ASSERT_TRUE(all);
    ASSERT_EQ(all->gauges.size(), 3U);
    EXPECT_EQ(all->gauges[1].id, "T_line_2");
    EXPECT_EQ(all->gauges[2].id, "T_line_3");
    EXPECT_EQ(typedPlace(placesOf(all->gauges[2])[0]), "300, 0, 0 mm");
    EXPECT_EQ(typedPlace(placesOf(all->gauges[2])[1]), "300, 20, 0 mm") << "the whole line moves";
    EXPECT_DOUBLE_EQ(stationsOfText("z = 0.5 m", "mm")->at[0], 0.5);
    for (const char* text : {"100, 200 mm", "x 100", "w = 3", "x =", ""})
        EXPECT_FALSE(stationsOfText(text, "mm")) << text;
    EXPECT_FALSE(
        withStations(surveyWith(R"({"id": "p", "where": {"part": "a"}, "quantity": "temperature"})"), 0, *stations));
    EXPECT_EQ(withGaugeCopy(survey, 0)->gauges[1].where.written, survey.gauges[0].where.written);
}

TEST(GaugePlaces, ReferencesAreUnderstoodAsTyped) {
    const auto survey = surveyWith(
        R"j({"id": "T_air", "where": {"part": "a"}, "quantity": "temperature"}, {"id": "h", "where": {"boundary": "b"},
          "quantity": "film_coefficient"})j");
    const auto meant = [&](const std::string& text) {
        const auto next = withGaugeKey(survey, 1, "reference", text);
        return next ? next->gauges[1].rest["reference"].dump() : next.error().text();
    };
    EXPECT_EQ(meant("T_air"), R"({"gauge":"T_air"})");
    EXPECT_EQ(meant("gauge T_air"), R"({"gauge":"T_air"})");
    EXPECT_EQ(meant("bulk of outlet"), R"({"bulk":"outlet"})");
    EXPECT_EQ(meant("3 mm"), R"({"distance":"3 mm"})");
    EXPECT_EQ(meant("2 mm from the wall"), R"({"distance":"2 mm"})");
    EXPECT_EQ(meant("20 degC"), R"("20 degC")");
    EXPECT_EQ(meant(R"({"bulk": "outlet"})"), R"({"bulk":"outlet"})");
    EXPECT_NE(meant("gauge gone").find("there is no gauge"), std::string::npos);
}

TEST(GaugePlaces, NamesTellQuantityAndPlaceUntilSomebodyGivesOne) {
    Survey survey;
    Gauge gauge;
    gauge.where.written = {{"boundary", "channel wall"}};
    gauge.quantity = "temperature";
    survey = withGauge(survey, gauge);
    EXPECT_EQ(survey.gauges[0].id, "T_channel_wall");
    const auto film = withGaugeField(survey, 0, GaugeField::Quantity, "film_coefficient");
    ASSERT_TRUE(film);
    EXPECT_EQ(film->gauges[0].id, "h_channel_wall") << "a name that was made follows";
    EXPECT_EQ(withGaugeField(*film, 0, GaugeField::Quantity, "heat_flux")->gauges[0].id, "q_channel_wall");
    EXPECT_EQ(withGaugeField(*withGaugeField(*film, 0, GaugeField::Quantity, "heat_flux"), 0, GaugeField::Statistic,
                             "integral")
                  ->gauges[0]
                  .id,
              "Q_channel_wall");
    const auto named = withGaugeId(*film, 0, "alpha");
    EXPECT_EQ(withGaugeField(*named, 0, GaugeField::Quantity, "temperature")->gauges[0].id, "alpha")
        << "one that was given stays";
    gauge.where.written = {{"point", {0, 0, 0}}};
    survey = withGauge(withGauge(survey, gauge), gauge);
    EXPECT_EQ(survey.gauges[1].id, "T_point_1");
    EXPECT_EQ(survey.gauges[2].id, "T_point_2");
}

TEST(OfferedQuantities, WhatCannotBeReadAtAPlaceComesLastWithItsReason) {
    QuantityList stored;
    stored.quantities.push_back({"temperature", "T", Location::Node, 1, "K", "K", {}, 300, 400});
    const auto offered = [&](const std::string& where) {
        Gauge gauge;
        gauge.where.written = Json::parse(where);
        return offeredQuantities(gauge, stored);
    };
    const auto why = [](const std::vector<OfferedQuantity>& list, const std::string& name) {
        const auto found = std::ranges::find(list, name, &OfferedQuantity::name);
        return found == list.end() ? std::string("not offered") : found->why;
    };
    const auto onPart = offered(R"({"part": "a"})");
    EXPECT_EQ(onPart.front().name, "temperature");
    EXPECT_EQ(why(onPart, "volume"), "");
    EXPECT_EQ(why(onPart, "area"), "needs a surface");
    EXPECT_EQ(why(onPart, "film_coefficient"), "needs a boundary, or a line on one");
    const auto onWall = offered(R"({"boundary": "wall"})");
    EXPECT_EQ(why(onWall, "film_coefficient"), "");
    EXPECT_EQ(why(onWall, "mass_flow"), "the case has no velocity");
    EXPECT_EQ(why(onWall, "heat_content"), "needs a part");
    EXPECT_EQ(why(offered(R"({"line": {"from": [0,0,0], "to": [1,0,0]}})"), "boundary_layer_thickness"), "");
    EXPECT_EQ(why(offered("null"), "linear_transmittance"), "");
    EXPECT_EQ(why(offered("null"), "temperature"), "needs a place");
    for (const auto& list : {onPart, onWall}) { // grouped, and within each group what can be read first
        for (std::size_t i = 1; i < list.size(); ++i)
            EXPECT_FALSE(list[i].group == list[i - 1].group && list[i].why.empty() && !list[i - 1].why.empty())
                << list[i].name;
        std::vector<std::string> groups;
        for (const auto& one : list)
            if (groups.empty() || groups.back() != one.group)
                groups.push_back(one.group);
        EXPECT_EQ(groups.size(), 6U) << "each group once";
    }
}

// A pad of 1 mm between two blocks of 50 mm: a step of 10 mm does not jump over it.
TEST(SectionLayers, ANudgeStopsInThinParts) {
    const TempFolder folder;
    ASSERT_TRUE(writeCase({boxPart("base", BoxMesh{{0.1, 0.1, 0.05}, {1, 1, 1}}),
                           boxPart("pad", BoxMesh{{0.1, 0.1, 0.001}, {1, 1, 1}, {0, 0, 0.05}}),
                           boxPart("block", BoxMesh{{0.1, 0.1, 0.05}, {1, 1, 1}, {0, 0, 0.051}})},
                          folder / "stack.vtm"));
    const auto opened = mustOpen(folder / "stack.vtm");
    const std::vector<std::size_t> parts{0, 1, 2};
    const auto at = [&](double z, int direction) {
        return nextStop(*opened.index, parts, Plane{{0, 0, z}, {0, 0, 1}}, 0.01, direction);
    };
    EXPECT_NEAR(at(0.02, 1).by, 0.01, 1e-12);
    const auto stop = at(0.045, 1);
    EXPECT_NEAR(0.045 + stop.by, 0.0505, 1e-9);
    ASSERT_FALSE(stop.parts.empty());
    EXPECT_EQ(opened.solved->parts[stop.parts[0]].name, "pad");
    EXPECT_NEAR(0.055 - at(0.055, -1).by, 0.0505, 1e-9);
    EXPECT_NEAR(at(0.0505, 1).by, 0.01, 1e-12) << "and goes on from there";
}
