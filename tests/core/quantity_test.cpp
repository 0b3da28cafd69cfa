#include "core/case/quantity.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

struct Named {
    TempFolder folder;
    OpenedCase with(const std::string& array, double value, bool cell = false) {
        auto part = boxPart("block", {});
        const Field field = [value](const Point& at) { return value + at[0]; };
        if (cell)
            addCellField(part, array, field);
        else
            addNodeField(part, array, field);
        const auto file = folder / (array + std::to_string(static_cast<int>(value)) + ".vtu");
        EXPECT_TRUE(writeBlock(part, file));
        return mustOpen(file);
    }
};

} // namespace

TEST(Quantity, TemperatureIsRecognisedByCommonNames) {
    Named cases;
    for (const auto* name : {"T", "Temp", "TEMPERATURE", "temperature_", "T [degC]", "Temperature (K)"})
        EXPECT_NE(recognise(*cases.with(name, 300).solved, {})->named("temperature"), nullptr) << name;
    EXPECT_EQ(recognise(*cases.with("wall", 300).solved, {})->named("temperature"), nullptr);
    EXPECT_TRUE(has(recognise(*cases.with("wall", 300).solved, {})->remarks, "no-temperature"));
}

TEST(Quantity, UnitComesFromNameChoiceOrGuess) {
    Named cases;
    EXPECT_NEAR(recognise(*cases.with("T [degC]", 80).solved, {})->named("temperature")->max, 80 + 1 + 273.15, 1e-9);
    const auto guessedCelsius = recognise(*cases.with("T", 80).solved, {});
    EXPECT_EQ(guessedCelsius->named("temperature")->unit, "degC");
    EXPECT_TRUE(has(guessedCelsius->remarks, "unit-guessed"));
    EXPECT_EQ(recognise(*cases.with("T", 350).solved, {})->named("temperature")->unit, "K");
    QuantityChoices choices;
    choices["temperature"].unit = "degF";
    EXPECT_NEAR(recognise(*cases.with("T", 212).solved, choices)->named("temperature")->min, 373.15, 1e-9);
}

TEST(Quantity, DoubtfulUnitsAreRemarked) {
    Named cases;
    QuantityChoices kelvin;
    kelvin["temperature"].unit = "K";
    EXPECT_TRUE(has(recognise(*cases.with("T", 80).solved, kelvin)->remarks, "unit-doubtful"));
    EXPECT_FALSE(has(recognise(*cases.with("T", 350).solved, kelvin)->remarks, "unit-doubtful"));
    QuantityChoices celsius;
    celsius["temperature"].unit = "degC";
    EXPECT_TRUE(has(recognise(*cases.with("T", 350).solved, celsius)->remarks, "unit-doubtful"));
}

TEST(Quantity, ChoicesCorrectTheRecognition) {
    Named cases;
    const auto opened = cases.with("wall", 300, true);
    QuantityChoices choices;
    choices["temperature"] = {false, "wall", "K", std::nullopt};
    EXPECT_EQ(recognise(*opened.solved, choices)->named("temperature")->on, Location::Cell);
    choices["temperature"].array = "absent";
    EXPECT_TRUE(has(recognise(*opened.solved, choices)->remarks, "array-missing"));
    choices["temperature"] = {false, "wall", "W", std::nullopt};
    EXPECT_EQ(recognise(*opened.solved, choices).error().code, ErrorCode::WrongUnit);
    QuantityChoices off;
    off["temperature"].off = true;
    EXPECT_EQ(recognise(*cases.with("T", 300).solved, off)->named("temperature"), nullptr);
}
