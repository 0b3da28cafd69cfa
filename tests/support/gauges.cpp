#include "tests/support/gauges.h"

#include "core/survey/survey_file.h"

#include <gtest/gtest.h>

namespace pyro::test {

Readings readOn(const OpenedCase& opened, const Json& survey, const StepContext& context) {
    Json whole = survey;
    Json entry = survey.value("case", Json::object());
    whole.erase("case");
    whole["pyrometer"] = 1;
    entry["name"] = "case";
    entry["file"] = opened.solved->file;
    whole["cases"] = Json::array({entry});
    const auto read = surveyFromJson(whole, "test");
    if (!read) {
        ADD_FAILURE() << read.error().text();
        std::abort();
    }
    NoProgress progress;
    auto readings = evaluate(*read, read->cases[0], opened, {}, progress, context);
    if (!readings) {
        ADD_FAILURE() << readings.error().text();
        std::abort();
    }
    return std::move(*readings);
}

GaugeReading readGauge(const OpenedCase& opened, const Json& gauge, Json survey) {
    survey["gauges"] = Json::array({gauge});
    return readOn(opened, survey).gauges.at(0);
}

double heatThrough(const OpenedCase& opened, const std::string& boundary) {
    Json survey{{"materials", {{"m", {{"conductivity", "200 W/(m.K)"}}}}}};
    for (const auto& part : opened.solved->parts)
        survey["case"]["parts"][part.name]["material"] = "m";
    const auto gauge = readGauge(
        opened,
        {{"id", "q"}, {"where", {{"boundary", boundary}}}, {"quantity", "heat_flux"}, {"statistic", "integral"}},
        survey);
    EXPECT_TRUE(gauge.value) << gauge.why;
    EXPECT_EQ(gauge.unit, "W");
    return gauge.value.value_or(std::nan(""));
}

} // namespace pyro::test
