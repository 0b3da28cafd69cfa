// Changes of a survey: what was typed arrives, what does not fit is refused and changes nothing.
#include "core/survey/edit.h"

#include <gtest/gtest.h>

using namespace pyro;

namespace {

Survey oneCase() { return withCase({}, "results/hot run.vtm"); }

Quantity stored(const std::string& name, const std::string& array) {
    return {name, array, Location::Node, 1, "", "", {}, 0, 1};
}

} // namespace

TEST(Edit, CasesTakeTheirNameFromTheFileAndStayUnique) {
    auto survey = oneCase();
    EXPECT_EQ(survey.cases[0].name, "hot run");
    EXPECT_EQ(survey.cases[0].file, "results/hot run.vtm");
    survey = withCase(survey, "other/hot run.vtu");
    EXPECT_EQ(survey.cases[1].name, "hot run (2)");
    survey = withCase(survey, "hot run.vtu");
    EXPECT_EQ(survey.cases[2].name, "hot run (3)");
    survey = withoutCase(survey, "hot run (2)");
    ASSERT_EQ(survey.cases.size(), 2U);
    EXPECT_EQ(survey.cases[1].name, "hot run (3)");
    EXPECT_EQ(withoutCase(survey, "no such case"), survey);
}

TEST(Edit, PartFieldsAreReadWithTheirUnits) {
    const struct {
        PartNoteField field;
        const char* text;
        bool accepted;
    } rows[]{
        {PartNoteField::Label, "Amplifier", true}, {PartNoteField::Material, "silicon", true},
        {PartNoteField::Kind, "fluid", true},      {PartNoteField::Kind, "gas", false},
        {PartNoteField::Power, "12 W", true},      {PartNoteField::Power, "250 mW", true},
        {PartNoteField::Power, "1.5 kW", true},    {PartNoteField::Power, "3", true}, // bare numbers are SI
        {PartNoteField::Power, "12 W/m2", false},  {PartNoteField::Power, "12 degC", false},
        {PartNoteField::Power, "a lot", false},    {PartNoteField::Power, "nan W", false},
    };
    for (const auto& row : rows) {
        SCOPED_TRACE(row.text);
        const auto next = withPartField(oneCase(), "hot run", "amp", row.field, row.text);
        EXPECT_EQ(next.has_value(), row.accepted);
        if (!next) {
            EXPECT_FALSE(next.error().what.empty());
            EXPECT_FALSE(next.error().remedy.empty());
        }
    }
    const auto power = withPartField(oneCase(), "hot run", "amp", PartNoteField::Power, "250 mW");
    EXPECT_DOUBLE_EQ(power->cases[0].parts.at("amp").power->si, 0.25);
    EXPECT_EQ(power->cases[0].parts.at("amp").power->text, "250 mW") << "the user's spelling stays";
    EXPECT_FALSE(withPartField(oneCase(), "no such case", "amp", PartNoteField::Label, "A"));
}

TEST(Edit, AnEmptyTextTakesTheEntryAway) {
    auto survey = *withPartField(oneCase(), "hot run", "amp", PartNoteField::Label, "Amplifier");
    survey = *withPartField(survey, "hot run", "amp", PartNoteField::Label, "");
    EXPECT_TRUE(survey.cases[0].parts.empty());
    survey = *withBoundaryField(survey, "hot run", "in", BoundaryField::Kind, "inlet");
    EXPECT_EQ(survey.cases[0].boundaries.at("in").kind, "inlet");
    EXPECT_FALSE(withBoundaryField(survey, "hot run", "in", BoundaryField::Kind, "door"));
    survey = *withBoundaryField(survey, "hot run", "in", BoundaryField::Kind, "");
    EXPECT_TRUE(survey.cases[0].boundaries.empty());
}

TEST(Edit, MaterialsAreReadWithTheirUnits) {
    const struct {
        MaterialField field;
        const char* text;
        double si; // below zero: refused
    } rows[]{
        {MaterialField::Conductivity, "148 W/(m.K)", 148},   {MaterialField::Conductivity, "0.4 kW/(m.K)", 400},
        {MaterialField::Conductivity, "148 W/m2", -1},       {MaterialField::Density, "2.33 g/cm3", 2330},
        {MaterialField::Density, "2330 kg/m3", 2330},        {MaterialField::Density, "2330 kg", -1},
        {MaterialField::HeatCapacity, "0.7 kJ/(kg.K)", 700}, {MaterialField::HeatCapacity, "700 J/K", -1},
    };
    for (const auto& row : rows) {
        SCOPED_TRACE(row.text);
        const auto next = withMaterialField({}, "silicon", row.field, row.text);
        ASSERT_EQ(next.has_value(), row.si >= 0);
        if (!next)
            continue;
        const auto& material = next->materials.at("silicon");
        const auto& value = row.field == MaterialField::Conductivity ? material.conductivity
                            : row.field == MaterialField::Density    ? material.density
                                                                     : material.heatCapacity;
        EXPECT_NEAR(value->si, row.si, 1e-9 * row.si);
    }
}

TEST(Edit, AnArrayHasOneRole) {
    auto survey = *withQuantityRole(oneCase(), "hot run", stored("T", "T"), "temperature");
    EXPECT_EQ(survey.cases[0].quantities.at("temperature").array, "T");
    survey = *withQuantityUnit(survey, "hot run", stored("temperature", "T"), "degC");
    EXPECT_EQ(survey.cases[0].quantities.at("temperature").unit, "degC");
    // Another array takes the role: the unit belonged to the first one.
    auto second = stored("T2", "T2");
    second.on = Location::Cell;
    survey = *withQuantityRole(survey, "hot run", second, "temperature");
    EXPECT_EQ(survey.cases[0].quantities.at("temperature").array, "T2");
    EXPECT_EQ(survey.cases[0].quantities.at("temperature").on, Location::Cell);
    EXPECT_FALSE(survey.cases[0].quantities.at("temperature").unit);
    // Freed from every role, no alias takes the array again.
    second.name = "temperature";
    survey = *withQuantityRole(survey, "hot run", second, "");
    EXPECT_TRUE(survey.cases[0].quantities.at("temperature").off);
}

TEST(Edit, ARoleHadByAnAliasIsGivenUpToo) {
    // nothing was chosen before
    const auto survey = *withQuantityRole(oneCase(), "hot run", stored("temperature", "T"), "");
    EXPECT_TRUE(survey.cases[0].quantities.at("temperature").off);
    const auto moved = *withQuantityRole(oneCase(), "hot run", stored("temperature", "T"), "pressure");
    EXPECT_TRUE(moved.cases[0].quantities.at("temperature").off);
    EXPECT_EQ(moved.cases[0].quantities.at("pressure").array, "T");
}

TEST(Edit, AUnitInTheNameMustFitTheRole) {
    const auto wrong = withQuantityRole(oneCase(), "hot run", stored("temperature", "T [degC]"), "pressure");
    ASSERT_FALSE(wrong);
    EXPECT_EQ(wrong.error().code, ErrorCode::WrongUnit);
    EXPECT_TRUE(withQuantityRole(oneCase(), "hot run", stored("x", "x [bar]"), "pressure"));
    EXPECT_EQ(unitInName("p [bar]"), "bar");
    EXPECT_EQ(unitInName("p"), "");
    EXPECT_EQ(unitInName("zone [left]"), "") << "not every bracket holds a unit";
}

TEST(Edit, ANewMaterialIsAddedToTheSurvey) {
    const auto survey = *withPartField(oneCase(), "hot run", "amp", PartNoteField::Material, "silicon");
    EXPECT_TRUE(survey.materials.contains("silicon"));
    const auto taken = *withPartField(survey, "hot run", "amp", PartNoteField::Material, "");
    EXPECT_TRUE(taken.materials.contains("silicon")) << "others may use it";
    EXPECT_FALSE(taken.materials.contains(""));
}

TEST(Edit, UnitsMustFitTheQuantity) {
    EXPECT_TRUE(withQuantityUnit(oneCase(), "hot run", stored("temperature", "T"), "degF"));
    EXPECT_FALSE(withQuantityUnit(oneCase(), "hot run", stored("temperature", "T"), "W"));
    EXPECT_FALSE(withQuantityUnit(oneCase(), "hot run", stored("temperature", "T"), "warmth"));
    EXPECT_TRUE(withQuantityUnit(oneCase(), "hot run", stored("anything", "x"), "kg.m2"));
    EXPECT_FALSE(withQuantityUnit(oneCase(), "hot run", stored("anything", "x"), "no unit"));
    const auto wrong = withQuantityUnit(oneCase(), "hot run", stored("heat_flux", "q"), "W/m");
    ASSERT_FALSE(wrong);
    EXPECT_NE(wrong.error().text().find("W/m2"), std::string::npos) << wrong.error().text();
}

TEST(Edit, LimitsAreTemperaturesAndMarginsDifferences) {
    Limit limit;
    limit.target.name = "amp";
    const auto survey = withLimit({}, limit);
    const struct {
        LimitField field;
        const char* text;
        bool accepted;
    } rows[]{
        {LimitField::Max, "110 degC", true},   {LimitField::Max, "383.15 K", true},
        {LimitField::Max, "230 degF", true},   {LimitField::Max, "110 W", false},
        {LimitField::Max, "-300 degC", false}, {LimitField::Max, "", true},
        {LimitField::Min, "-40 degC", true},   {LimitField::Min, "cold", false},
        {LimitField::Margin, "10 K", true},    {LimitField::Margin, "10 degC", false},
        {LimitField::Margin, "10 W", false},   {LimitField::Source, "data sheet", true},
        {LimitField::Target, "battery", true},
    };
    for (const auto& row : rows) {
        SCOPED_TRACE(row.text);
        EXPECT_EQ(withLimitField(survey, 0, row.field, row.text).has_value(), row.accepted);
    }
    EXPECT_NEAR(withLimitField(survey, 0, LimitField::Max, "230 degF")->limits[0].max->si, 383.15, 1e-9);
    EXPECT_FALSE(withLimitField(survey, 1, LimitField::Source, "x")) << "a limit that is gone";
    EXPECT_TRUE(withoutLimit(survey, 0).limits.empty());
    EXPECT_EQ(withoutLimit(survey, 7), survey);
}

TEST(Edit, ImportedLimitsReplaceThoseOfTheSameTarget) {
    Limit first;
    first.target.name = "amp";
    first.source = "old";
    auto survey = withLimit({}, first);
    auto again = first;
    again.source = "new";
    auto boundary = first;
    boundary.target.kind = TargetKind::Boundary; // the same name, but another thing
    survey = withImportedLimits(survey, {again, boundary});
    ASSERT_EQ(survey.limits.size(), 2U);
    EXPECT_EQ(survey.limits[0].source, "new");
    EXPECT_EQ(survey.limits[1].target.kind, TargetKind::Boundary);
}
