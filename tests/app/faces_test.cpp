// One evaluation, four faces: the telemetry verdicts in window, CLI JSON, CSV and PDF.
#include "app/session/dialogs.h"
#include "cli/command.h"
#include "core/feedback/csv_rows.h"
#include "rig/result.h"
#include "tests/app/window_fixture.h"

#include <QProcess>
#include <fmt/format.h>
#include <sstream>

using namespace pyro;
using namespace pyro::test;

namespace {

struct Row {
    std::string name;
    std::string verdict;
    double value;  // degC
    double margin; // K
};
using Rows = std::map<std::string, Row>; // by part label

void expectSame(const Rows& a, const Rows& b, double slack, const char* where) {
    SCOPED_TRACE(where);
    ASSERT_EQ(a.size(), b.size());
    for (const auto& [name, row] : a) {
        SCOPED_TRACE(name);
        ASSERT_TRUE(b.contains(name));
        EXPECT_EQ(row.verdict, b.at(name).verdict);
        EXPECT_NEAR(row.value, b.at(name).value, slack);
        EXPECT_NEAR(row.margin, b.at(name).margin, slack);
    }
}

Rows fromJson(const std::filesystem::path& survey, const std::filesystem::path& json, const Survey& labels) {
    std::ostringstream out;
    std::ostringstream err;
    EXPECT_EQ(cli::run({"evaluate", survey.string(), "--json", json.string()}, out, err), 1);
    Rows rows;
    const auto read = Json::parse(readText(json));
    for (const auto& limit : read["cases"][0]["steps"][0]["limits"]) {
        const auto name = shownName(labels.cases[0], limit["part"].get<std::string>());
        rows[name] = {name, limit["verdict"], limit["value"].get<double>() - 273.15, limit["margin"]};
    }
    return rows;
}

Rows fromCsv(const std::filesystem::path& file) {
    Rows rows;
    const auto table = parseCsv(readText(file));
    for (std::size_t i = 1; i < table->size(); ++i) {
        const auto& row = (*table)[i];
        EXPECT_EQ(row[7], "degC");
        rows[row[4]] = {row[4], row[11], std::stod(row[5]), std::stod(row[8])};
    }
    return rows;
}

// Lines like "Amplifier over 112.7 °C 110.0 °C -2.7 K 10.0 K data sheet, rev. C".
Rows fromPdf(const std::filesystem::path& file, const Rows& names) {
    QProcess reader;
    reader.start("pdftotext", {"-layout", QString::fromStdString(file.string()), "-"});
    EXPECT_TRUE(reader.waitForFinished());
    Rows rows;
    for (const auto& line : QString::fromUtf8(reader.readAllStandardOutput()).split('\n')) {
        const auto words = line.simplified();
        for (const auto& [name, unused] : names) {
            for (const auto* verdict : {"over", "tight", "within", "unknown"}) {
                const auto start = QString("%1 %2 ").arg(verdict, QString::fromStdString(name));
                if (!words.startsWith(start) || !words.contains(" K "))
                    continue;
                const auto fields = words.mid(start.size()).split(' ');
                rows[name] = {name, verdict, fields[0].toDouble(), fields[4].toDouble()};
            }
        }
    }
    return rows;
}

} // namespace

TEST_F(WindowTest, TelemetryVerdictsAreEqualOnAllFourFaces) {
    const std::filesystem::path inputs = PYROMETER_DEMOS;
    auto input = Json::parse(readText(inputs / "telemetry.rig.json"));
    // coarser: what matters is that all agree
    input["grid"] = Json::parse(readText(inputs / "warm-up.rig.json"))["grid"];
    const auto model = rig::modelFromText(input.dump(), "telemetry");
    ASSERT_TRUE(model) << model.error().text();
    const auto grid = rig::makeGrid(*model);
    NoProgress progress;
    const auto solution = rig::solve(*model, *grid, progress);
    std::filesystem::create_directories(folder / "cases");
    ASSERT_TRUE(writeCase(rig::toBlocks(*model, *grid, *solution), folder / "cases/baseline.vtm"));
    survey = folder / "telemetry.survey.json";
    // without the variants, which take as long to solve
    auto alone = Json::parse(readText(inputs / "telemetry.survey.json"));
    while (alone["cases"].size() > 1)
        alone["cases"].erase(1);
    while (alone["limits"].size() > 6) // one for each part: names tell them apart
        alone["limits"].erase(6);
    writeText(survey, alone.dump());
    openSurvey();

    Rows shown;
    auto* table = find<QTableView>("limitsTable");
    for (int row = 0; row < table->model()->rowCount(); ++row) {
        const auto name = cell(table, row, "Limit on").toStdString();
        const auto number = [&](const QString& column) {
            return cell(table, row, column).section(' ', 0, 0).toDouble();
        };
        shown[name] = {name, cell(table, row, "Verdict").toStdString(), number("Value"), number("Margin")};
    }
    ASSERT_EQ(shown.size(), 6U);
    EXPECT_EQ(shown["Amplifier"].verdict, "over");

    const auto json = fromJson(survey, folder / "r.json", window->session().survey());
    trigger("stageReport");
    dialogs::answerNextFile(QString::fromStdString((folder / "r.csv").string()));
    trigger("exportLimits");
    dialogs::answerNextFile(QString::fromStdString((folder / "r.pdf").string()));
    trigger("exportReport");
    settle();
    EXPECT_TRUE(window->message().isEmpty()) << window->message().toStdString();
    constexpr double rounding = 0.0501; // window and PDF show one decimal
    expectSame(json, shown, rounding, "window");
    expectSame(json, fromCsv(folder / "r.csv"), 1e-8, "CSV");
    expectSame(json, fromPdf(folder / "r.pdf", json), rounding, "PDF");
    QProcess reader;
    reader.start("pdftotext", {"-layout", QString::fromStdString((folder / "r.pdf").string()), "-"});
    ASSERT_TRUE(reader.waitForFinished());
    const auto page = QString::fromUtf8(reader.readAllStandardOutput());
    EXPECT_TRUE(page.contains("cases/baseline.vtm")) << page.toStdString();
    EXPECT_FALSE(page.contains(QString::fromStdString(folder.path().string()))) << "a folder of a machine";
}
