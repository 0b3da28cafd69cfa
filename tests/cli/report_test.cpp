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
#include <map>
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

// Each entry of an archive by its name.
std::map<std::string, std::string> entriesOf(const std::filesystem::path& file) {
    int error = 0;
    auto* archive = zip_open(file.c_str(), ZIP_RDONLY, &error);
    std::map<std::string, std::string> out;
    for (zip_int64_t i = 0; archive != nullptr && i < zip_get_num_entries(archive, 0); ++i) {
        zip_stat_t entry{};
        zip_stat_index(archive, static_cast<zip_uint64_t>(i), 0, &entry);
        std::string bytes(entry.size, '\0');
        auto* opened = zip_fopen_index(archive, static_cast<zip_uint64_t>(i), 0);
        zip_fread(opened, bytes.data(), bytes.size());
        zip_fclose(opened);
        out[entry.name] = std::move(bytes);
    }
    if (archive != nullptr)
        zip_discard(archive);
    return out;
}

// All that stands in an archive, one entry after the other.
std::string unpacked(const std::filesystem::path& file) {
    std::string text;
    for (const auto& [name, bytes] : entriesOf(file))
        text += bytes;
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
              "unit": "degC"}, {"id": "U_lid", "quantity": "transmittance",
              "resistances": ["0.13 m2.K/W", "0.04 m2.K/W"],
              "layers": [{"name": "brick", "conductivity": "0.99 W/(m.K)", "thickness": "240 mm"},
                         {"name": "wool", "conductivity": "0.04 W/(m.K)", "thickness": "100 mm"}]}],
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
    ASSERT_EQ(run({"evaluate", survey().string(), "--json", (folder / "r.json").string()}), 1);
    const std::pair<const char*, std::string> texts[]{
        {"JSON", bytesIn(folder / "r.json")},
        {"PDF", outputOf("pdftotext -layout " + quoted(folder / "r.pdf") + " -")},
        {"ODT", unpacked(folder / "r.odt")},
        {"HTML", bytesIn(folder / "r.html")},
        {"Markdown", bytesIn(folder / "r.md")},
        {"XLSX", unpacked(folder / "r.xlsx")}};
    for (const auto& [form, text] : texts) {
        const bool isJson = std::string(form) == "JSON"; // readings alone, with every digit
        EXPECT_NE(text.find(isJson ? "calm" : "Kite module"), std::string::npos) << form;
        EXPECT_NE(text.find("over"), std::string::npos) << form;
        EXPECT_EQ(text.find("sheet 12") != std::string::npos, !isJson) << form;
        const bool digits = isJson || std::string(form) == "XLSX";
        EXPECT_NE(text.find(digits ? "91.85" : "91.9"), std::string::npos) << form << ": 365 K are 91.85 degC";
        // ISO 6946: 0.13 + 0.24 / 0.99 + 0.1 / 0.04 + 0.04 = 2.91242 m2.K/W, U = 0.343357 W/(m2.K)
        EXPECT_NE(text.find(digits ? "0.34335" : "0.3434"), std::string::npos) << form << ": U of two layers";
        EXPECT_NE(text.find("0.24242"), std::string::npos) << form << ": the term of the brick";
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

TEST_F(ReportCommand, PicturesAreAsPublicationsWantThem) {
    const auto draw = [&](const std::string& name, std::vector<std::string> more) {
        std::vector<std::string> words{"render", survey().string(),        "--viewpoint", "Hot",
                                       "-o",     (folder / name).string(), "--size",      "640x400"};
        words.insert(words.end(), more.begin(), more.end());
        return run(words);
    };
    ASSERT_EQ(draw("clear.png", {"--ground", "transparent"}), 0);
    EXPECT_EQ(bytesIn(folder / "clear.png")[25], 6) << "its pixels have an alpha channel (ISO/IEC 15948, 11.2.2)";
    ASSERT_EQ(draw("dark.png", {"--ground", "graphite", "--scale-at", "inside"}), 0);
    ASSERT_EQ(draw("letters.svg", {"--legend", "--scale-at", "beside", "--points", "12"}), 0);
    const auto svg = bytesIn(folder / "letters.svg");
    EXPECT_NE(svg.find("chip</text>"), std::string::npos) << "letters are letters";
    EXPECT_NE(svg.find("<image"), std::string::npos) << "the field is pixels";
    ASSERT_EQ(draw("page.pdf", {}), 0);
    EXPECT_NE(outputOf("pdftotext " + quoted(folder / "page.pdf") + " -").find("limits"), std::string::npos);
    ASSERT_EQ(draw("strip.png", {"--viewpoint", "Hot"}), 0) << "side by side";
    EXPECT_EQ(sizeOfPng(folder / "strip.png"), std::pair(640, 400));
    EXPECT_EQ(draw("no.gif", {}), 2);
    EXPECT_EQ(draw("no.png", {"--ground", "pink"}), 2);
    EXPECT_EQ(draw("no/such/folder.png", {}), 2);
}

TEST_F(ReportCommand, AFilmRunsOverAllSteps) {
    for (int step = 0; step < 3; ++step) {
        auto plate = boxPart("plate", {{0.1, 0.1, 0.01}, {4, 4, 1}});
        addNodeField(plate, "T [K]", [&](const Point& at) { return 300 + 10 * step + 100 * at[0]; });
        std::vector<BlockData> blocks{plate};
        ASSERT_TRUE(writeCase(blocks, folder / ("rise_000" + std::to_string(step) + ".vtm")));
    }
    writeText(folder / "rise.survey.json", R"j({"pyrometer": 1, "cases": [{"name": "rise", "file": "rise_0000.vtm",
        "series": true}], "viewpoints": [{"name": "Top", "view": {"quantity": "temperature"}}]})j");
    const auto film = [&](const std::string& name, std::vector<std::string> more) {
        std::vector<std::string> words{"render",      (folder / "rise.survey.json").string(),
                                       "--viewpoint", "Top",
                                       "-o",          (folder / name).string(),
                                       "--size",      "320x240"};
        words.insert(words.end(), more.begin(), more.end());
        return run(words);
    };
    ASSERT_EQ(film("rise.ogv", {}), 0);
    EXPECT_TRUE(bytesIn(folder / "rise.ogv").starts_with("OggS"));
    ASSERT_EQ(film("rise.webp", {"--rate", "10"}), 0);
    const auto webp = bytesIn(folder / "rise.webp");
    EXPECT_TRUE(webp.starts_with("RIFF") && webp.substr(8, 4) == "WEBP");
    std::size_t frames = 0; // chunks of the container, WebP Container Specification
    for (auto at = webp.find("ANMF"); at != std::string::npos; at = webp.find("ANMF", at + 1))
        ++frames;
    EXPECT_EQ(frames, 3U);
    ASSERT_EQ(film("frame.png", {"--every-step"}), 0);
    for (const auto* number : {"0000", "0001", "0002"})
        EXPECT_TRUE(std::filesystem::exists(folder / ("frame_" + std::string(number) + ".png"))) << number;
    EXPECT_NE(bytesIn(folder / "frame_0000.png"), bytesIn(folder / "frame_0002.png"));
    EXPECT_EQ(film("rise.gif", {"--every-step"}), 2);
}

// The letterhead that is shipped: what is filled is text, everything else is as the house has it.
TEST_F(ReportCommand, AHouseStyleStaysPartByPart) {
    const auto house = std::filesystem::path(PYROMETER_TEMPLATES) / "letterhead.odt";
    ASSERT_EQ(run({"report", survey().string(), "-o", (folder / "house.odt").string(), "--template", house.string()}),
              1);
    const auto before = entriesOf(house);
    const auto after = entriesOf(folder / "house.odt");
    ASSERT_EQ(before.size(), after.size());
    for (const auto& [name, bytes] : before) {
        ASSERT_TRUE(after.contains(name)) << name;
        const auto part = [](const std::string& xml, const std::string& tag) {
            const auto begin = xml.find("<" + tag);
            const auto end = xml.find("</" + tag + ">");
            return begin == std::string::npos || end == std::string::npos ? std::string()
                                                                          : xml.substr(begin, end - begin);
        };
        if (name == "content.xml" || name == "styles.xml") {
            for (const auto* tag : {"office:styles", "office:automatic-styles"})
                EXPECT_EQ(part(after.at(name), tag), part(bytes, tag)) << name << " " << tag;
            EXPECT_EQ(part(after.at(name), "draw:frame"), part(bytes, "draw:frame")) << "the logo in the head";
        } else {
            EXPECT_EQ(after.at(name), bytes) << name;
        }
    }
    EXPECT_NE(after.at("content.xml").find("91.9"), std::string::npos) << "the value of the verdict";
    EXPECT_NE(after.at("content.xml").find("{{T_amp}}"), std::string::npos) << "what is not known stands as it is";
}

// Opened by a word processor and turned to PDF: the same verdict, value and source.
TEST_F(ReportCommand, AWordProcessorReadsTheOpenDocument) {
    if (std::system("command -v soffice > /dev/null") != 0)
        GTEST_SKIP() << "LibreOffice is not here (package libreoffice-writer-nogui); the ODT is checked as XML only";
    ASSERT_EQ(run({"report", survey().string(), "-o", (folder / "r.odt").string(), "--template",
                   std::string(PYROMETER_TEMPLATES) + "/full.report.json"}),
              1);
    const auto told = outputOf("HOME=" + quoted(folder / "home") +
                               " timeout 100 soffice --headless --convert-to pdf "
                               "--outdir " +
                               quoted(folder / "by") + " " + quoted(folder / "r.odt"));
    const auto text = outputOf("pdftotext -layout " + quoted(folder / "by/r.pdf") + " -");
    for (const auto* words : {"Kite module", "over", "91.9", "sheet 12", "page 1 of"})
        EXPECT_NE(text.find(words), std::string::npos) << words << "\n" << told;
    EXPECT_NE(outputOf("pdfimages -list " + quoted(folder / "by/r.pdf")).find("2055"), std::string::npos);
}

// The lines of docs/report.md for a nightly job, from the evaluation on.
TEST_F(ReportCommand, TheNightlyJobFailsOnALimitAndLeavesThePage) {
    const auto job = bytesIn(std::filesystem::path(PYROMETER_TEMPLATES).parent_path() / "docs/examples/nightly.sh");
    ASSERT_FALSE(job.empty());
    writeText(folder / "nightly.sh", job);
    const auto bin = std::filesystem::read_symlink("/proc/self/exe").parent_path();
    const auto told = outputOf("cd " + quoted(folder.path()) + " && PATH=" + quoted(bin) +
                               ":$PATH bash nightly.sh module.survey.json; echo status $?");
    EXPECT_NE(told.find("status 1"), std::string::npos) << told;
    for (const auto* name : {"report.pdf", "report.html", "verdicts.xml"})
        EXPECT_GT(std::filesystem::file_size(folder / name), 500U) << name;
}
