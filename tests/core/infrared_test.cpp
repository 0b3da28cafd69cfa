// Infrared pictures held against a simulation: cameras from matched pixels, matrices and their mistakes.
#include "core/field/picture_camera.h"
#include "core/report/readings_json.h"
#include "core/report/shown/shown_table.h"
#include "core/sheets/value_matrix.h"
#include "tests/support/meshes.h"
#include "tests/support/survey_on_disk.h"

#include <cstdio>
#include <fmt/format.h>
#include <spng.h>
#include <tiffio.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// A pinhole of our own, looking from a place at another: columns to the right, rows down.
struct Pinhole {
    Point from{0.9, -1.1, 1.3};
    Point at{0.1, 0.1, 0.05};
    double focal = 300; // pixels
    double columns = 160;
    double rows = 120;

    Point ahead() const { return unit(minus(at, from)); }
    Point right() const { return unit(cross(ahead(), {0, 0, 1})); }
    Point down() const { return cross(ahead(), right()); }
    std::array<double, 2> pixel(const Point& place) const {
        const auto way = minus(place, from);
        const double depth = dot(way, ahead());
        return {columns / 2 + focal * dot(way, right()) / depth, rows / 2 + focal * dot(way, down()) / depth};
    }
    Point direction(double column, double row) const {
        const double x = (column - columns / 2) / focal;
        const double y = (row - rows / 2) / focal;
        Point out{};
        for (std::size_t axis = 0; axis < 3; ++axis)
            out[axis] = ahead()[axis] + x * right()[axis] + y * down()[axis];
        return out;
    }
};

constexpr std::array<double, 3> boxSize{0.2, 0.3, 0.1}; // m

double boxKelvin(const Point& at) { return 320 + 50 * at[0] - 30 * at[1] + 80 * at[2]; }

// Where a ray enters the box, by its slabs.
std::optional<Point> entry(const Point& from, const Point& along) {
    double first = 0;
    double last = 1e300;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double a = -from[axis] / along[axis];
        const double b = (boxSize[axis] - from[axis]) / along[axis];
        first = std::max(first, std::min(a, b));
        last = std::min(last, std::max(a, b));
    }
    if (!(first < last))
        return std::nullopt;
    return Point{from[0] + first * along[0], from[1] + first * along[1], from[2] + first * along[2]};
}

// What the pinhole sees of the box, row by row; NaN beside it.
std::vector<double> pictureOf(const Pinhole& camera) {
    std::vector<double> out;
    for (int row = 0; row < camera.rows; ++row)
        for (int column = 0; column < camera.columns; ++column) {
            const auto met = entry(camera.from, camera.direction(column + 0.5, row + 0.5));
            out.push_back(met ? boxKelvin(*met) : std::nan(""));
        }
    return out;
}

constexpr double lowest = 300, highest = 360; // K, of the scale

std::vector<std::uint16_t> countsOf(const std::vector<double>& kelvin) {
    std::vector<std::uint16_t> out;
    for (const double one : kelvin)
        out.push_back(
            std::isnan(one) ? 0 : static_cast<std::uint16_t>(std::lround(65535 * (one - lowest) / (highest - lowest))));
    return out;
}

void writeTiff(const std::filesystem::path& file, const std::vector<std::uint16_t>& counts, std::uint32_t columns,
               std::uint16_t channels = 1) {
    auto* tiff = TIFFOpen(file.c_str(), "w");
    ASSERT_NE(tiff, nullptr);
    const auto rows = static_cast<std::uint32_t>(counts.size() / columns / channels);
    TIFFSetField(tiff, TIFFTAG_IMAGEWIDTH, columns);
    TIFFSetField(tiff, TIFFTAG_IMAGELENGTH, rows);
    TIFFSetField(tiff, TIFFTAG_SAMPLESPERPIXEL, channels);
    TIFFSetField(tiff, TIFFTAG_BITSPERSAMPLE, 16);
    TIFFSetField(tiff, TIFFTAG_PHOTOMETRIC, channels == 1 ? PHOTOMETRIC_MINISBLACK : PHOTOMETRIC_RGB);
    TIFFSetField(tiff, TIFFTAG_PLANARCONFIG, PLANARCONFIG_CONTIG);
    for (std::uint32_t row = 0; row < rows; ++row) {
        auto line = std::vector<std::uint16_t>(counts.begin() + row * columns * channels,
                                               counts.begin() + (row + 1) * columns * channels);
        EXPECT_EQ(TIFFWriteScanline(tiff, line.data(), row), 1);
    }
    TIFFClose(tiff);
}

void writePng(const std::filesystem::path& file, std::vector<std::uint16_t> counts, std::uint32_t columns,
              std::uint8_t colour = SPNG_COLOR_TYPE_GRAYSCALE) {
    auto* stream = std::fopen(file.c_str(), "wb");
    ASSERT_NE(stream, nullptr);
    auto* png = spng_ctx_new(SPNG_CTX_ENCODER);
    spng_set_png_file(png, stream);
    const std::uint32_t channels = colour == SPNG_COLOR_TYPE_GRAYSCALE ? 1 : 3;
    spng_ihdr head{};
    head.width = columns;
    head.height = static_cast<std::uint32_t>(counts.size() / columns / channels);
    head.bit_depth = 16;
    head.color_type = colour;
    spng_set_ihdr(png, &head);
    EXPECT_EQ(spng_encode_image(png, counts.data(), 2 * counts.size(), SPNG_FMT_PNG, SPNG_ENCODE_FINALIZE), 0);
    spng_ctx_free(png);
    std::fclose(stream);
}

void writeMatrix(const std::filesystem::path& file, const std::vector<double>& values, std::size_t columns,
                 const std::string& head = {}) {
    auto text = head;
    for (std::size_t i = 0; i < values.size(); ++i)
        text += (std::isnan(values[i]) ? std::string() : fmt::format("{:.9g}", values[i])) +
                ((i + 1) % columns == 0 ? "\n" : ";");
    writeText(file, text);
}

Json matched(const Pinhole& camera, const std::vector<Point>& places) {
    auto list = Json::array();
    for (const auto& place : places)
        list.push_back({{"pixel", camera.pixel(place)}, {"at", place}});
    return list;
}

const std::vector<Point> boxCorners{{0.2, 0, 0}, {0.2, 0, 0.1}, {0, 0, 0.1}, {0.2, 0.3, 0.1}};

class Infrared : public testing::Test {
protected:
    Infrared() {
        auto box = boxPart("box", {boxSize, {3, 3, 3}});
        addNodeField(box, "T [K]", boxKelvin);
        EXPECT_TRUE(writeCase(std::vector{box}, folder / "box.vtm"));
    }
    MeasuredReading read(const Json& wish) {
        auto survey = Json::parse(R"j({"pyrometer": 1, "cases": [{"name": "box", "file": "box.vtm"}]})j");
        survey["measured"] = Json::array({wish});
        survey["measured"][0]["id"] = "ir";
        run = runIn(folder, survey);
        return run.cases.at(0).measured.at(0);
    }
    const TempFolder folder;
    SurveyRun run;
};

} // namespace

// The camera of four matched boxCorners that do not lie in a plane, its focal length among what is found.
TEST(PictureCamera, IsFoundByFourPlaces) {
    const Pinhole truth;
    std::vector<KnownPixel> known;
    for (const auto& place : boxCorners)
        known.push_back({truth.pixel(place)[0], truth.pixel(place)[1], place});
    const auto camera = cameraOf(known, truth.columns, truth.rows);
    ASSERT_TRUE(camera) << camera.error().text();
    EXPECT_LT(camera->worstMatch, 1e-4);
    for (const Point& place : {Point{0, 0, 0}, {0, 0.3, 0.1}, {0.2, 0.3, 0}, {0.1, 0.1, 0.05}}) {
        const auto seen = camera->project(place);
        EXPECT_NEAR(seen.column, truth.pixel(place)[0], 1e-3) << "places that were not matched";
        EXPECT_NEAR(seen.row, truth.pixel(place)[1], 1e-3);
        EXPECT_NEAR(seen.depth, dot(minus(place, truth.from), truth.ahead()), 1e-5);
        const auto back = camera->place(seen.column, seen.row, seen.depth);
        EXPECT_NEAR(length(minus(back, place)), 0, 1e-9);
    }
}

TEST(PictureCamera, OfPlacesInOnePlaneSeenFromTheSide) {
    const Pinhole truth;
    std::vector<KnownPixel> known;
    for (const Point& place : {Point{0, 0, 0.1}, {0.2, 0, 0.1}, {0.2, 0.3, 0.1}, {0, 0.3, 0.1}})
        known.push_back({truth.pixel(place)[0], truth.pixel(place)[1], place});
    const auto free = cameraOf(known, truth.columns, truth.rows);
    ASSERT_TRUE(free) << free.error().text();
    EXPECT_NEAR(free->project({0.2, 0, 0}).row, truth.pixel({0.2, 0, 0})[1], 0.05);
    const auto given = cameraOf(known, truth.columns, truth.rows, 2 * std::atan(truth.columns / 2 / truth.focal));
    ASSERT_TRUE(given);
    EXPECT_NEAR(given->project({0.2, 0, 0}).row, truth.pixel({0.2, 0, 0})[1], 1e-3);
}

TEST(PictureCamera, SaysWhatCannotBeTold) {
    const std::vector<KnownPixel> line{{0, 0, {0, 0, 0}}, {10, 10, {1, 0, 0}}, {20, 20, {2, 0, 0}}};
    EXPECT_NE(cameraOf(line, 100, 100).error().what.find("one line"), std::string::npos);
    // from straight above, distance and field of view belong together
    std::vector<KnownPixel> square{{20, 20, {0, 1, 0}}, {80, 20, {1, 1, 0}}, {80, 80, {1, 0, 0}}, {20, 80, {0, 0, 0}}};
    const auto above = cameraOf(square, 100, 100);
    ASSERT_TRUE(above) << above.error().text();
    ASSERT_EQ(above->notes.size(), 1U);
    EXPECT_NE(above->notes[0].find("field of view"), std::string::npos);
    // two pixels changed for each other: no camera sees it so
    std::swap(square[0].at, square[1].at);
    EXPECT_NE(cameraOf(square, 100, 100).error().what.find("no camera"), std::string::npos);
}

// A picture that was traced by the test, of a field that is linear: nothing deviates by more than a step of its scale.
TEST_F(Infrared, AProjectedPictureOfAKnownFieldDeviatesNowhere) {
    const Pinhole camera;
    const auto kelvin = pictureOf(camera);
    writeTiff(folder / "ir.tif", countsOf(kelvin), 160);
    writePng(folder / "ir.png", countsOf(kelvin), 160);
    writeMatrix(folder / "ir.csv", kelvin, 160, "Camera;unknown\nEmissivity;0,95\n");
    const Json scale = Json::parse(R"j([{"count": 0, "value": "300 K"}, {"count": 65535, "value": "360 K"}])j");
    const auto seen = static_cast<std::size_t>(
        std::ranges::count_if(kelvin, [](double one) { return !std::isnan(one); }));
    ASSERT_GT(seen, 1000U);
    for (const std::string file : {"ir.tif", "ir.png", "ir.csv"}) {
        Json wish{{"file", file}, {"picture", {{"matched", matched(camera, boxCorners)}}}};
        if (file == "ir.csv")
            wish["unit"] = "K";
        else
            wish["picture"]["scale"] = scale;
        const auto found = read(wish);
        ASSERT_TRUE(found.why.empty()) << file << ": " << found.why;
        EXPECT_NEAR(static_cast<double>(found.count), static_cast<double>(seen), 3) << "pixels on the very outline";
        const double step = file == "ir.csv" ? 1e-4 : 0.51 * (highest - lowest) / 65535;
        EXPECT_LT(std::abs(*found.largest), step) << file;
        EXPECT_LT(*found.rms, step);
        ASSERT_EQ(found.regions.size(), 1U);
        EXPECT_EQ(found.regions[0].part, "box");
        EXPECT_EQ(found.regions[0].pixels, found.count);
        ASSERT_FALSE(found.points.empty());
        for (const auto& point : found.points)
            EXPECT_NEAR(boxKelvin(*point.at), *point.simulated, 1e-4) << point.name << " is told with its place";
    }
    const auto json = runToJson(run)["measured"][0];
    EXPECT_EQ(json["picture"]["columns"], 160);
    EXPECT_EQ(json["regions"][0]["part"], "box");
}

TEST_F(Infrared, OneHotPixelIsTheLargestAndListed) {
    const Pinhole camera;
    auto kelvin = pictureOf(camera);
    kelvin[60 * 160 + 80] += 7;
    ASSERT_FALSE(std::isnan(kelvin[60 * 160 + 80]));
    writeMatrix(folder / "ir.csv", kelvin, 160);
    const auto found = read({{"file", "ir.csv"},
                             {"unit", "K"},
                             {"uncertainty", "2 K"},
                             {"picture", {{"matched", matched(camera, boxCorners)}}}});
    EXPECT_NEAR(*found.largest, -7, 1e-4);
    const auto listed = std::ranges::find(found.points, "column 81, row 61", &MeasuredPoint::name);
    ASSERT_NE(listed, found.points.end());
    EXPECT_NEAR(*listed->normalised, -3.5, 1e-4);
    EXPECT_NEAR(*found.within, 1 - 1.0 / static_cast<double>(found.count), 1e-12);
    EXPECT_NE(measuredText(found).find("pixels"), std::string::npos);
    const auto shown = shownMeasured(found, TemperatureUnit::Kelvin);
    EXPECT_NE(shown.rows[0][0].find("box, mean of"), std::string::npos);
}

// Three places: the picture lies on their plane. Top of the box, a pixel each 10 mm.
TEST_F(Infrared, APictureLaidOnAPlane) {
    std::vector<double> kelvin;
    for (int row = 0; row < 30; ++row)
        for (int column = 0; column < 20; ++column)
            kelvin.push_back(boxKelvin({0.01 * (column + 0.5), 0.3 - 0.01 * (row + 0.5), 0.1}) - 273.15);
    kelvin[7] = std::nan("");
    writeMatrix(folder / "ir.csv", kelvin, 20);
    const Json corner = Json::parse(R"j([{"pixel": [0, 0], "at": ["0 mm", "300 mm", "100 mm"]},
        {"pixel": [20, 0], "at": ["200 mm", "300 mm", "100 mm"]}, {"pixel": [0, 30], "at": [0, 0, 0.1]}])j");
    const auto found = read({{"file", "ir.csv"}, {"unit", "degC"}, {"picture", {{"matched", corner}}}});
    ASSERT_TRUE(found.why.empty()) << found.why;
    EXPECT_EQ(found.count, 599U);
    EXPECT_LT(std::abs(*found.largest), 1e-6);
    EXPECT_NE(found.notes[0].find("1 of 600 pixels have no value"), std::string::npos) << found.notes[0];
    // with its rows the other way round it is seen from below, where the box is colder
    auto below = corner;
    below[0]["at"] = {0, 0, 0.1};
    below[1]["at"] = {0.2, 0, 0.1};
    below[2]["at"] = {0, 0.3, 0.1};
    const auto fromBelow = read({{"file", "ir.csv"}, {"unit", "degC"}, {"picture", {{"matched", below}}}});
    ASSERT_TRUE(fromBelow.mean);
    EXPECT_NEAR(fromBelow.regions[0].simulated, boxKelvin({0.1, 0.15, 0}) - 273.15, 0.05);
}

TEST_F(Infrared, MistakesAreNamed) {
    const Pinhole camera;
    const auto kelvin = pictureOf(camera);
    const auto why = [&](const std::string& file, Json more = {}, const Json& picture = {}) {
        Json wish = more.is_null() ? Json::object() : more;
        wish["file"] = file;
        wish["picture"] = picture.is_null() ? Json{{"matched", matched(camera, boxCorners)}} : picture;
        return read(wish).why;
    };
    writeTiff(folder / "ir.tif", countsOf(kelvin), 160);
    EXPECT_NE(why("ir.tif").find("what they stand for"), std::string::npos);
    writeTiff(folder / "rgb.tif", std::vector<std::uint16_t>(3 * 16), 4, 3);
    EXPECT_NE(why("rgb.tif").find("colours"), std::string::npos);
    writePng(folder / "rgb.png", std::vector<std::uint16_t>(3 * 16), 4, SPNG_COLOR_TYPE_TRUECOLOR);
    EXPECT_NE(why("rgb.png").find("colours"), std::string::npos);
    writeText(folder / "no.png", "no picture");
    EXPECT_NE(why("no.png").find("PNG"), std::string::npos);
    writeText(folder / "no.tif", "no picture");
    EXPECT_NE(why("no.tif").find("TIFF"), std::string::npos);
    writeText(folder / "uneven.csv", "1;2;3\n4;5\n6;7;8\n");
    EXPECT_NE(why("uneven.csv", {{"unit", "K"}}).find("row 2"), std::string::npos);
    writeText(folder / "words.csv", "a;b\nc;d\n");
    EXPECT_NE(why("words.csv", {{"unit", "K"}}).find("no matrix"), std::string::npos);
    writeMatrix(folder / "ir.csv", kelvin, 160);
    EXPECT_NE(why("ir.csv").find("degC or K"), std::string::npos);
    EXPECT_NE(why("ir.csv", {{"unit", "W"}}).find("\"W\""), std::string::npos);
    EXPECT_NE(why("ir.bmp", {{"unit", "K"}}).find("does not exist"), std::string::npos);
    auto away = matched(camera, boxCorners);
    for (auto& one : away)
        one["at"][2] = one["at"][2].get<double>() + 5;
    EXPECT_NE(why("ir.csv", {{"unit", "K"}}, {{"matched", away}}).find("no pixel sees a part"), std::string::npos);
    EXPECT_NE(
        why("ir.csv", {{"unit", "K"}}, {{"matched", matched(camera, boxCorners)}, {"parts", {"lid"}}}).find("\"lid\""),
        std::string::npos);
}

// Text: gaps at the end of a line stay gaps, a separator behind the last number is none.
TEST(ValueMatrix, ReadsTextWithGaps) {
    const TempFolder folder;
    writeText(folder / "m.csv", "Frame;1\n20,5;21,5;;\n22;;23;\n24;25;x;\n");
    const auto found = readMatrix(folder / "m.csv");
    ASSERT_TRUE(found) << found.error().text();
    EXPECT_EQ(found->columns, 3U);
    EXPECT_EQ(found->rows, 3U);
    EXPECT_DOUBLE_EQ(found->values[0], 20.5);
    EXPECT_TRUE(std::isnan(found->values[2]) && std::isnan(found->values[4]) && std::isnan(found->values[8]));
    ASSERT_EQ(found->notes.size(), 3U);
    EXPECT_NE(found->notes[2].find("1 fields"), std::string::npos);
}
