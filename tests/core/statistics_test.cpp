// Statistics over places and over steps, and that what the lists describe is sound.
#include "core/evaluate/over_steps.h"
#include "core/limits/limit_form.h"
#include "core/quantities/gauge_keys.h"
#include "core/quantities/gauge_quantity.h"
#include "core/report/tables/table.h"
#include "core/statistics/statistic_kind.h"
#include "core/trust/checks.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// One gauge over the steps of a case, whose values and times these are.
GaugeReading over(const std::string& statistic, const std::vector<double>& values, const std::vector<double>& times) {
    Gauge gauge;
    gauge.id = "g";
    gauge.quantity = "temperature";
    gauge.statistic = statistic;
    gauge.rest["over"] = "steps";
    std::vector<Readings> steps;
    for (std::size_t i = 0; i < values.size(); ++i) {
        Readings step{};
        step.step = static_cast<int>(i);
        step.time = times[i];
        step.gauges.push_back({"g", values[i], "K"});
        steps.push_back(step);
    }
    return readOverSteps({gauge}, steps).at(0);
}

template <class Kinds, class Name>
void expectDistinct(const Kinds& kinds, Name name) {
    std::set<std::string> seen;
    for (const auto* one : kinds)
        EXPECT_TRUE(seen.insert(std::string(std::invoke(name, one))).second) << std::invoke(name, one);
}

} // namespace

// T = 300 + 100 (x/L)^2 over a bar: the mean is 300 + 100/3, the median 300 + 100/4.
TEST(Statistics, MedianOfASkewField) {
    const TempFolder folder;
    auto part = boxPart("bar", {{1, 0.1, 0.1}, {400, 1, 1}});
    addNodeField(part, "T [K]", [](const Point& at) { return 300 + 100 * at[0] * at[0]; });
    ASSERT_TRUE(writeCase(std::vector{part}, folder / "case.vtm"));
    const auto readings = readOn(mustOpen(folder / "case.vtm"), Json::parse(R"j({"gauges": [
        {"id": "median", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "median"},
        {"id": "p50", "where": {"part": "bar"}, "quantity": "temperature", "statistic": "p50"},
        {"id": "mean", "where": {"part": "bar"}, "quantity": "temperature"}]})j"));
    EXPECT_NEAR(*readings.gauges[0].value, 325, 0.3) << "to half a cell";
    EXPECT_EQ(*readings.gauges[0].value, *readings.gauges[1].value);
    EXPECT_NEAR(*readings.gauges[2].value, 300 + 100.0 / 3, 1e-2);
}

TEST(Statistics, MedianOverStepsIsWeightedByTime) {
    EXPECT_EQ(*over("median", {0, 10, 20}, {0, 1, 10}).value, 10); // 0.5, 5 and 4.5 s
    EXPECT_EQ(*over("median", {0, 20, 10}, {0, 1, 10}).value, 10); // 0.5 and 4.5 s of the 10 s lie below or at 10
    EXPECT_EQ(*over("median", {7, 7}, {0, 5}).value, 7);
    EXPECT_NE(over("hotspots", {1, 2}, {0, 1}).why.find("\"hotspots\""), std::string::npos) << "it says why";
}

TEST(Lists, DescribeEverythingOnceAndWhole) {
    expectDistinct(gaugeQuantities(), &GaugeQuantity::name);
    expectDistinct(statisticKinds(), &StatisticKind::name);
    expectDistinct(limitForms(), &LimitForm::key);
    expectDistinct(checkKinds(), &CheckKind::key);
    expectDistinct(tableKinds(), &TableKind::name);
    std::set<std::string_view> keys;
    for (const auto& key : gaugeKeys())
        EXPECT_TRUE(keys.insert(key.key).second) << key.key << " is described twice";
    for (const auto* quantity : gaugeQuantities()) {
        EXPECT_TRUE(isUnit(std::string(quantity->siUnit))) << quantity->name;
        EXPECT_FALSE(quantity->meaning.empty()) << quantity->name;
        for (const auto key : quantity->keys)
            EXPECT_TRUE(key.empty() || gaugeKeyNamed(key) != nullptr) << quantity->name << " reads " << key;
        EXPECT_FALSE(quantity->measure != nullptr && quantity->measureEnvelope != nullptr) << quantity->name;
    }
    for (const auto* statistic : statisticKinds()) {
        EXPECT_FALSE(statistic->meaning.empty()) << statistic->name;
        for (const auto name : statistic->offered)
            EXPECT_TRUE(name.empty() || statisticKind(name) == statistic) << name;
        for (const auto key : statistic->keys)
            EXPECT_TRUE(key.empty() || gaugeKeyNamed(key) != nullptr) << statistic->name << " reads " << key;
    }
    for (const auto* form : limitForms()) {
        EXPECT_TRUE(form->judge != nullptr || form->judgeHistory != nullptr) << form->name;
        EXPECT_TRUE(form->ofParts || form->ofBoundaries || form->ofGauges) << form->name;
        EXPECT_FALSE(form->choice.empty() || form->maxExample.empty() || form->marginExample.empty()) << form->name;
    }
    for (const auto* check : checkKinds())
        EXPECT_TRUE((check->answer != nullptr) != (check->answers != nullptr)) << check->key;
}
