// pyrometer-cli report and render: the same verdicts and values in every form, pictures without a display.
#include "cli/command.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <array>
#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <gtest/gtest.h>
#include <iterator>
#include <sstream>
#include <zip.h>

using namespace pyro;
using namespace pyro::test;

namespace {

std::string outputOf(const std::string& command) {
    auto* pipe = ::popen((command + " 2>&1").c_str(), "r");
    std::string text;
    std::array<char, 4096> piece{};
    while (const auto read = std::fread(piece.data(), 1, piece.size(), pipe))
        text.append(piece.data(), read);
    ::pclose(pipe);
    return text;
}

std::string quoted(const std::filesystem::path& file) { return "'" + file.string() + "'"; }

std::string bytesIn(const std::filesystem::path& file) {
    std::ifstream stream(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(stream), std::istreambuf_iterator<char>()};
}

// All that stands in an archive, one entry after the other.
std::string unpacked(const std::filesystem::path& file) {
    int error = 0;
    auto* archive = zip_open(file.c_str(), ZIP_RDONLY, &error);
    std::string text;
    for (zip_int64_t i = 0; archive != nullptr && i < zip_get_num_entries(archive, 0); ++i) {
        zip_stat_t entry{};
        zip_stat_index(archive, static_cast<zip_uint64_t>(i), 0, &entry);
        std::string bytes(entry.size, '\0');
        auto* opened = zip_fopen_index(archive, static_cast<zip_uint64_t>(i), 0);
        zip_fread(opened, bytes.data(), bytes.size());
        zip_fclose(opened);
        text += bytes;
    }
    if (archive != nullptr)
        zip_discard(archive);
    return text;
}

// Width and height in the head of a PNG.
std::pair<int, int> sizeOfPng(const std::filesystem::path& file) {
    const auto bytes = bytesIn(file);
    const auto number = [&](std::size_t at) {
        int out = 0;
        for (std::size_t i = 0; i < 4 && at + i < bytes.size(); ++i)
            out = 256 * out + static_cast<unsigned char>(bytes[at + i]);
        return out;
    };
    return {number(16), number(20)};
}

class ReportCommand : public testing::Test {
protected:
    ReportCommand() {
        auto plate = boxPart("plate", {{0.1, 0.1, 0.01}, {4, 4, 1}});
        auto chip = boxPart("chip", {{0.02, 0.02, 0.02}, {2, 2, 2}, {0.04, 0.04, 0.01}});
        addNodeField(plate, "T [K]", [](const Point& at) { return 330 + 100 * at[0]; });
        addNodeField(chip, "T [K]", [](const Point& at) { return 350 + 500 * at[2]; });
        EXPECT_TRUE(writeCase({plate, chip}, folder / "module.vtm"));
        writeText(survey(), R"j({"pyrometer": 1, "title": "Kite module",
            "cases": [{"name": "calm", "file": "module.vtm"}, {"name": "still", "file": "module.vtm"}],
            "gauges": [{"id": "T_chip", "where": {"part": "chip"}, "quantity": "temperature", "statistic": "max",
              "unit": "degC"}],
            "limits": [{"part": "chip", "max": "85 degC", "source": "sheet 12"}],
            "viewpoints": [{"name": "Hot", "view": {"case": "calm", "quantity": "temperature"}}]})j");
    }
    std::filesystem::path survey() const { return folder / "module.survey.json"; }
    int run(std::vector<std::string> words) {
        std::ostringstream out;
        std::ostringstream err;
        return cli::run(words, out, err);
    }
    const TempFolder folder;
};

} // namespace

TEST_F(ReportCommand, TellsTheSameInEveryForm) {
    std::vector<std::string> words{"report", survey().string()};
    for (const auto* ending : {"pdf", "odt", "html", "md", "xlsx"})
        words.insert(words.end(), {"-o", (folder / ("r." + std::string(ending))).string()});
    words.insert(words.end(), {"--template", std::string(PYROMETER_TEMPLATES) + "/full.report.json"});
    ASSERT_EQ(run(words), 1) << "91.9 of 85 degC are over";
    const std::pair<const char*, std::string> texts[]{
        {"PDF", outputOf("pdftotext -layout " + quoted(folder / "r.pdf") + " -")},
        {"ODT", unpacked(folder / "r.odt")},
        {"HTML", bytesIn(folder / "r.html")},
        {"Markdown", bytesIn(folder / "r.md")},
        {"XLSX", unpacked(folder / "r.xlsx")}};
    for (const auto& [form, text] : texts) {
        EXPECT_NE(text.find("Kite module"), std::string::npos) << form;
        EXPECT_NE(text.find("over"), std::string::npos) << form;
        EXPECT_NE(text.find("sheet 12"), std::string::npos) << form;
        EXPECT_NE(text.find(std::string(form) == "XLSX" ? "91.85" : "91.9"), std::string::npos)
            << form << ": 365 K are 91.85 degC";
    }
    EXPECT_NE(outputOf("pdfinfo " + quoted(folder / "r.pdf")).find("Title:           Kite module"), std::string::npos);
    const auto pictures = outputOf("pdfimages -list " + quoted(folder / "r.pdf"));
    EXPECT_NE(pictures.find("2055"), std::string::npos) << "drawn for the page at 300 dpi: " << pictures;
    EXPECT_TRUE(std::filesystem::exists(folder / "r-pictures/picture1.png"));
}

TEST_F(ReportCommand, MistakesAreNamedAndTheOthersAreWritten) {
    EXPECT_EQ(run({"report", survey().string(), "-o", (folder / "r.doc").string(), "-o", (folder / "r.html").string()}),
              2);
    EXPECT_TRUE(std::filesystem::exists(folder / "r.html"));
    EXPECT_FALSE(std::filesystem::exists(folder / "r.doc"));
    EXPECT_EQ(run({"report", (folder / "gone.json").string(), "-o", (folder / "r.pdf").string()}), 2);
    EXPECT_EQ(run({"report", survey().string(), "-o", (folder / "no/such/r.pdf").string()}), 2);
    EXPECT_EQ(run({"report", survey().string()}), 2) << "nothing is to be written";
    EXPECT_EQ(run({"render", survey().string(), "--viewpoint", "Cold", "-o", (folder / "p.png").string()}), 2);
    EXPECT_EQ(
        run({"render", survey().string(), "--viewpoint", "Hot", "-o", (folder / "p.png").string(), "--size", "0x5"}),
        2);
    EXPECT_EQ(run({"render", survey().string()}), 2);
}

TEST_F(ReportCommand, ViewpointsAreDrawnWithoutADisplay) {
    ::unsetenv("DISPLAY");
    ASSERT_EQ(run({"render", survey().string(), "--viewpoint", "Hot", "-o", (folder / "p.png").string(), "--size",
                   "400x300", "--scale", "2"}),
              0);
    EXPECT_EQ(sizeOfPng(folder / "p.png"), std::pair(800, 600));
    ASSERT_EQ(run({"render", survey().string(), "--all", (folder / "all").string(), "--size", "400x300"}), 0);
    EXPECT_TRUE(std::filesystem::exists(folder / "all/Hot, calm.png"));
    EXPECT_TRUE(std::filesystem::exists(folder / "all/Hot, still.png"));
}
