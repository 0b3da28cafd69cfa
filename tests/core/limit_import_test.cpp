// Limits out of tables as people keep them, from CSV, XLSX and ODS; findings.
#include "core/sheets/sheet_read.h"
#include "core/survey/findings.h"
#include "core/survey/limit_import.h"
#include "tests/support/temp_folder.h"

#include <fstream>
#include <gtest/gtest.h>
#include <xlsxwriter.h>
#include <zip.h>

using namespace pyro;
using namespace pyro::test;

namespace {

const LimitNames larkspur{{{"amp", "Amplifier"},
                           {"regulator_1", ""},
                           {"regulator_2", ""},
                           {"processor", "Processor"},
                           {"battery", "Battery"}},
                          {{"skin", "Outer skin"}},
                          {"T_out"}};

LimitImport imported(const std::vector<CsvRow>& rows, TemperatureUnit bare = TemperatureUnit::Celsius) {
    auto read = limitsFromTable(rows, larkspur, bare, "limits.csv");
    if (!read) {
        ADD_FAILURE() << read.error().text();
        return {};
    }
    return std::move(*read);
}

} // namespace

TEST(LimitImport, NamesAreMatchedAsTheyAreSpoken) {
    const auto read = imported({{"Component", "Tmax"},
                                {"amp", "110 degC"},
                                {"AMPLIFIER", "1 K"},
                                {"Regulator 1", "2 K"},
                                {"the battery", "3 K"},
                                {"procesor", "4 K"},
                                {"regulator", "5 K"},
                                {"fan", "6 K"}});
    ASSERT_EQ(read.limits.size(), 7U);
    const std::array<const char*, 5> found{"amp", "amp", "regulator_1", "battery", "processor"};
    for (std::size_t i = 0; i < found.size(); ++i) {
        EXPECT_EQ(read.limits[i].limit.target.name, found[i]);
        EXPECT_EQ(read.limits[i].match, i == 0 ? NameMatch::Exact : NameMatch::Tolerant);
        EXPECT_EQ(read.limits[i].problem, "") << i;
    }
    EXPECT_NE(read.limits[5].problem.find("may be any of regulator_1, regulator_2"), std::string::npos)
        << read.limits[5].problem;
    EXPECT_NE(read.limits[6].problem.find("nothing named \"fan\""), std::string::npos);
}

TEST(LimitImport, UnitsFromTheTitleAColumnOrTheUser) {
    const auto title = imported({{"Part", "Max [degF]", "Margin [K]"}, {"amp", "230", "10"}});
    EXPECT_NEAR(title.limits[0].limit.max->si, 383.15, 1e-9);
    EXPECT_NEAR(title.limits[0].limit.margin->si, 10, 1e-9);
    EXPECT_EQ(title.limits[0].remark, "");
    EXPECT_NEAR(imported({{"Part", "Max", "Unit"}, {"amp", "383.15", "K"}}).limits[0].limit.max->si, 383.15, 1e-9);
    const auto bare = imported({{"Part", "Max"}, {"amp", "85"}});
    EXPECT_NEAR(bare.limits[0].limit.max->si, 358.15, 1e-9) << "never 85 K without a word";
    EXPECT_NE(bare.limits[0].remark.find("taken as degC"), std::string::npos);
    EXPECT_EQ(imported({{"name", "rise (K)"}, {"amp", "40"}}).limits[0].limit.form, &riseForm);
}

TEST(LimitImport, RisesAndMarginsAreDifferencesInAnyUnit) {
    const auto si = [](const std::vector<CsvRow>& rows, TemperatureUnit bare = TemperatureUnit::Celsius) {
        return imported(rows, bare).limits[0].limit;
    };
    EXPECT_NEAR(si({{"Part", "Rise [degF]"}, {"amp", "72"}}).max->si, 40, 1e-9);
    EXPECT_NEAR(si({{"Part", "Rise"}, {"amp", "72 degF"}}).max->si, 40, 1e-9);
    EXPECT_NEAR(si({{"Part", "Rise", "Unit"}, {"amp", "72", "degF"}}).max->si, 40, 1e-9);
    EXPECT_NEAR(si({{"Part", "Rise [degC]"}, {"amp", "72"}}).max->si, 72, 1e-9);
    EXPECT_NEAR(si({{"Part", "Rise"}, {"amp", "72"}}, TemperatureUnit::Fahrenheit).max->si, 40, 1e-9);
    EXPECT_NEAR(si({{"Part", "Max [degF]", "Margin [degF]"}, {"amp", "230", "18"}}).margin->si, 10, 1e-9);
    EXPECT_EQ(imported({{"Part", "Max", "Margin"}, {"amp", "85", "5"}}).limits[0].remark, "no unit: taken as degC");
}

TEST(LimitImport, WhatCannotBeTakenSaysWhy) {
    const auto read = imported({{"Limits of the module", "", ""},
                                {},
                                {"part", "max", "min", "colour"},
                                {"amp", "", "", "red"},
                                {"", "90 degC", "", ""},
                                {"", "", "", ""},
                                {"amp", "95 W", "", ""},
                                {"amp", "80 degC", "90 degC", ""}});
    ASSERT_EQ(read.limits.size(), 4U) << "the empty row is passed over";
    EXPECT_EQ(read.limits[0].row, 4U);
    EXPECT_EQ(read.limits[0].problem, "the row holds no limit");
    EXPECT_EQ(read.limits[1].problem, "the row names no part");
    EXPECT_NE(read.limits[2].problem.find("95 W"), std::string::npos);
    EXPECT_EQ(read.limits[3].problem, "the maximum is below the minimum");
    ASSERT_EQ(read.remarks.size(), 1U);
    EXPECT_NE(read.remarks[0].text.find("colour"), std::string::npos);
    EXPECT_EQ(limitsFromTable({{"a", "b"}, {"1", "2"}}, larkspur, TemperatureUnit::Celsius, "x").error().code,
              ErrorCode::Syntax);
    EXPECT_EQ(limitsFromTable({{}, {""}}, larkspur, TemperatureUnit::Celsius, "x").error().code, ErrorCode::FileEmpty);
}

TEST(SheetRead, ASpreadsheetWithMergedAndEmptyCells) {
    const TempFolder folder;
    const auto file = (folder / "limits.xlsx").string();
    auto* book = workbook_new(file.c_str());
    auto* sheet = workbook_add_worksheet(book, "Limits");
    worksheet_merge_range(sheet, 0, 0, 0, 3, "Larkspur limits", nullptr);
    for (const auto& [column, title] : {std::pair{0, "Component"}, {1, "kind"}, {2, "Max [degC]"}})
        worksheet_write_string(sheet, 2, static_cast<lxw_col_t>(column), title, nullptr);
    worksheet_merge_range(sheet, 3, 0, 4, 0, "Amplifier", nullptr);
    worksheet_write_string(sheet, 3, 1, "junction", nullptr);
    worksheet_write_number(sheet, 3, 2, 125, nullptr);
    worksheet_write_string(sheet, 4, 1, "case", nullptr);
    worksheet_write_number(sheet, 4, 2, 95.5, nullptr);
    worksheet_write_string(sheet, 6, 0, "Battery", nullptr);
    ASSERT_EQ(workbook_close(book), LXW_NO_ERROR);
    const auto sheets = readSheets(file);
    ASSERT_TRUE(sheets) << sheets.error().text();
    ASSERT_EQ(sheets->size(), 1U);
    EXPECT_EQ(sheets->front().name, "Limits");
    const auto read = imported(sheets->front().rows);
    ASSERT_EQ(read.limits.size(), 3U);
    for (const int row : {0, 1})
        EXPECT_EQ(read.limits[static_cast<std::size_t>(row)].limit.target.name, "amp")
            << "the merged name holds for both rows";
    EXPECT_NEAR(read.limits[1].limit.max->si, 368.65, 1e-9);
    EXPECT_EQ(read.limits[1].limit.kind, "case");
    EXPECT_EQ(read.limits[2].problem, "the row holds no limit");
}

TEST(SheetRead, OpenDocumentWithRepeatedAndSpannedCells) {
    const TempFolder folder;
    const auto file = (folder / "limits.ods").string();
    const std::string content =
        R"x(<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x"><office:body><office:spreadsheet>
          <table:table table:name="L">
        <table:table-row><table:table-cell office:value-type="string"><text:p>part</text:p></table:table-cell>
          <table:table-cell table:number-columns-repeated="2"/><table:table-cell><text:p>max</text:p>
          </table:table-cell></table:table-row>
        <table:table-row><table:table-cell table:number-rows-spanned="2"><text:p>amp</text:p></table:table-cell>
          <table:table-cell table:number-columns-repeated="2"/>
          <table:table-cell office:value-type="float" office:value="85"><text:p>85,0</text:p></table:table-cell>
          </table:table-row>
        <table:table-row><table:covered-table-cell/></table:table-row>
        <table:table-row table:number-rows-repeated="1048000"><table:table-cell table:number-columns-repeated="16000"/>
          </table:table-row>
        </table:table></office:spreadsheet></office:body></office:document-content>)x";
    int failed = 0;
    auto* archive = zip_open(file.c_str(), ZIP_CREATE, &failed);
    ASSERT_NE(archive, nullptr);
    zip_file_add(archive, "content.xml", zip_source_buffer(archive, content.data(), content.size(), 0), 0);
    ASSERT_EQ(zip_close(archive), 0);
    const auto sheets = readSheets(file);
    ASSERT_TRUE(sheets) << sheets.error().text();
    EXPECT_EQ(sheets->front().rows.at(0), (CsvRow{"part", "", "", "max"}));
    EXPECT_EQ(sheets->front().rows.at(1), (CsvRow{"amp", "", "", "85"}));
    EXPECT_EQ(sheets->front().rows.at(2), (CsvRow{"amp"}));
}

TEST(SheetRead, WhatIsNoSpreadsheetSaysSo) {
    const TempFolder folder;
    std::ofstream(folder / "no.xlsx") << "part,max\n";
    EXPECT_EQ(readSheets(folder / "no.xlsx").error().code, ErrorCode::FileUnreadable);
    EXPECT_EQ(readSheets(folder / "gone.csv").error().code, ErrorCode::FileMissing);
    std::ofstream(folder / "yes.csv") << "part,max\namp,85 degC\n";
    EXPECT_EQ(readSheets(folder / "yes.csv")->front().rows.at(1), (CsvRow{"amp", "85 degC"}));
}

TEST(Findings, ComeBackWithPlaceViewAndUnknownKeys) {
    Survey survey;
    Finding finding;
    finding.text = "0.3 mm gap under the processor";
    finding.severity = Severity::Serious;
    finding.check = "gaps";
    finding.part = "processor";
    finding.at = Point{0.01, 0.02, 0.03};
    finding.view = ViewState{};
    finding.view->quantity = "heat_flux";
    survey = withFinding(survey, finding);
    auto json = surveyToJson(survey);
    json["findings"][0]["asked_by"] = "K.";
    json["findings"].push_back({{"severity", "note"}}); // without a text none, but kept
    survey = *surveyFromJson(json, "s");
    ASSERT_EQ(survey.findings.size(), 1U);
    auto read = survey.findings[0];
    EXPECT_EQ(read.text, finding.text);
    EXPECT_EQ(read.severity, Severity::Serious);
    EXPECT_EQ(read.at, finding.at);
    EXPECT_EQ(read.view->quantity, "heat_flux");
    EXPECT_EQ(read.state, "open");
    read.state = "done";
    survey = *withFindingAt(survey, 0, read);
    json = surveyToJson(survey);
    ASSERT_EQ(json["findings"].size(), 2U);
    EXPECT_EQ(json["findings"][0]["state"], "done");
    EXPECT_EQ(json["findings"][0]["asked_by"], "K.");
    EXPECT_EQ(json["findings"][1]["severity"], "note");
    read.state = "maybe";
    EXPECT_FALSE(withFindingAt(survey, 0, read));
    EXPECT_FALSE(withFindingAt(survey, 5, finding));
    EXPECT_TRUE(withoutFinding(survey, 0).findings.empty());
}
