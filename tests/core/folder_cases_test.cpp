// Which files of a folder are cases of their own, and what is known of a part by its name.
#include "core/case/folder_cases.h"
#include "core/envelope/material_library.h"
#include "core/survey/edit.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

TEST(FolderCases, WhatBelongsTogetherIsOne) {
    TempFolder folder;
    for (const auto* name : {"alone.vtu", "warm_0000.vtu", "warm_0001.vtu", "warm_0002.vtu", "block_a.vtu",
                             "piece0.vtu", "piece1.vtu", "run.e.2.0", "run.e.2.1", "note.txt", "plate.CGNS"})
        writeText(folder / name, "x");
    writeText(folder / "case.vtm",
              R"(<VTKFile><DataSet index="0" file="block_a.vtu"/><DataSet file="../alone.vtu"/></VTKFile>)");
    writeText(folder / "parallel.pvtu",
              R"(<VTKFile><Piece Source="piece0.vtu"/><Piece Source="piece1.vtu"/></VTKFile>)");
    const auto cases = casesIn(folder.path());
    ASSERT_TRUE(cases) << cases.error().text();
    std::map<std::string, std::string> told;
    for (const auto& one : *cases)
        told[one.file.filename().string()] = one.how;
    const std::map<std::string, std::string> expected{
        {"alone.vtu", ""},  {"case.vtm", "with 2 files"}, {"parallel.pvtu", "with 2 files"},
        {"plate.CGNS", ""}, {"run.e.2.0", "2 pieces"},    {"warm_0000.vtu", "3 files by number"}};
    EXPECT_EQ(told, expected);
    EXPECT_EQ(casesIn(folder / "gone").error().code, ErrorCode::FileMissing);
    EXPECT_EQ(casesIn(folder / "alone.vtu").error().code, ErrorCode::FileMissing);
}

TEST(MaterialLibrary, SuggestsByWholeWordsAndBringsItsValues) {
    const auto first = [](const char* part) {
        const auto names = suggestedMaterials(part);
        return names.empty() ? std::string() : names.front();
    };
    EXPECT_EQ(first("Heatsink_2"), "aluminium alloy");
    EXPECT_EQ(first("cu busbar"), "copper");
    EXPECT_EQ(first("PCB"), "epoxy laminate");
    EXPECT_EQ(first("alarm unit"), "") << "al is no aluminium within a word";
    EXPECT_EQ(first("part 1"), "");
    for (const auto& one : materialLibrary()) {
        EXPECT_GT(one.conductivity, 0) << one.name;
        EXPECT_FALSE(one.source.empty()) << one.name;
    }
    Survey survey;
    survey.cases.emplace_back().name = "a";
    const auto with = withPartField(survey, "a", "lid", PartNoteField::Material, "copper");
    ASSERT_TRUE(with);
    EXPECT_EQ(with->materials.at("copper").conductivity->si, 380);
    const auto own = withPartField(survey, "a", "lid", PartNoteField::Material, "our alloy");
    EXPECT_FALSE(own->materials.at("our alloy").conductivity) << "unknown, to be entered";
}
