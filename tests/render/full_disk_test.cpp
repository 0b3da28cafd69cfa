// What is drawn stands at its place whole or not at all: a full disk is told, and what stood there stays.
#include "core/report/pages/report_writers.h"
#include "render/drawing_file.h"
#include "render/frame_writer.h"
#include "render/heat_flow_picture.h"
#include "render/page_figure.h"
#include "render/report_pages.h"
#include "tests/support/small_disk.h"
#include "tests/support/temp_folder.h"

#include <QPainter>
#include <QRandomGenerator>
#include <functional>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// Of pixels that nothing compresses.
QImage noise() {
    QImage picture(320, 240, QImage::Format_RGB32);
    QRandomGenerator random(7);
    random.fillRange(reinterpret_cast<quint32*>(picture.bits()), picture.sizeInBytes() / 4);
    return picture;
}

// One figure, nothing else.
ReportDocument pageOfNoise() {
    ReportDocument document;
    document.title = "A page";
    ReportPart figure;
    figure.kind = ReportPart::Kind::Picture;
    PictureSheet sheet;
    sheet.view = noise();
    figure.picture = figureOf(std::vector{sheet}, {});
    document.parts.push_back(figure);
    return document;
}

Done writePage(const std::filesystem::path& file) {
    const auto document = pageOfNoise();
    FigureStore store;
    NoProgress progress;
    return ReportPages(document, store).writePdf(file, progress);
}

Done film(const std::filesystem::path& file) {
    auto writer = FrameWriter::open(file, 10);
    if (!writer)
        return tl::unexpected(writer.error());
    for (int i = 0; i < 3; ++i)
        if (auto added = (*writer)->add(noise()); !added)
            return added;
    return (*writer)->finish();
}

Done drawNoise(const std::filesystem::path& file) {
    return writeDrawing("the drawing", file, {320, 240}, [](QPaintDevice& device, double scale) {
        QPainter painter(&device);
        painter.scale(scale, scale);
        painter.drawImage(0, 0, noise());
        return painter.end();
    });
}

struct Drawn {
    const char* file;
    Done (*write)(const std::filesystem::path&);
};

class FullDisk : public testing::TestWithParam<Drawn> {
protected:
    TempFolder folder;
    std::filesystem::path file = folder / GetParam().file;

    std::size_t filesLeft() const {
        return static_cast<std::size_t>(std::distance(std::filesystem::directory_iterator(folder.path()), {}));
    }
};

} // namespace

TEST_P(FullDisk, IsToldAndWhatStoodThereStays) {
    writeText(file, "what stood there");
    {
        const SmallDisk disk(3000);
        const auto written = GetParam().write(file);
        ASSERT_FALSE(written);
        EXPECT_EQ(written.error().code, ErrorCode::WriteFailed);
        EXPECT_FALSE(written.error().remedy.empty());
    }
    EXPECT_EQ(readText(file), "what stood there");
    EXPECT_EQ(filesLeft(), 1U) << "nothing half written beside it";
    ASSERT_TRUE(GetParam().write(file));
    EXPECT_GT(std::filesystem::file_size(file), 3000U) << "or the disk would not have been full";
    EXPECT_EQ(filesLeft(), 1U);
}

TEST_P(FullDisk, AFolderThatIsNotThereIsTold) {
    const auto written = GetParam().write(folder / "none" / GetParam().file);
    ASSERT_FALSE(written);
    EXPECT_EQ(written.error().code, ErrorCode::WriteFailed);
}

INSTANTIATE_TEST_SUITE_P(
    Drawings, FullDisk,
    testing::Values(Drawn{"page.pdf", writePage},
                    Drawn{"text.odt",
                          [](const std::filesystem::path& file) { return writeReportOdt(pageOfNoise(), file); }},
                    Drawn{"film.ogv", film}, Drawn{"film.webp", film},
                    Drawn{"picture.png", [](const std::filesystem::path& file) { return writePicture(noise(), file); }},
                    Drawn{"flows.png",
                          [](const std::filesystem::path& file) {
                              return writeHeatFlowDiagram({}, "Flows", TemperatureUnit::Celsius, file);
                          }},
                    Drawn{"drawing.svg", drawNoise}, Drawn{"drawing.pdf", drawNoise}),
    [](const auto& one) { return std::string(one.param.file).replace(std::string(one.param.file).find('.'), 1, "_"); });
