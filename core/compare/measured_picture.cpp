// Infrared pictures: the matrix of the file in SI.
#include "core/compare/measured_read.h"
#include "core/sheets/value_matrix.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

// What whole numbers stand for, by two of them.
Result<Affine> scaleOf(const PictureWish& how, MeasuredTable& out) {
    if (how.scale.size() != 2)
        return fail(ErrorCode::WrongType,
                    "the picture holds whole numbers, and it is not told what they stand for; add "
                    "\"scale\": [{\"count\": 0, \"value\": \"20 degC\"}, {\"count\": 65535, "
                    "\"value\": \"120 degC\"}]");
    std::array<double, 2> si{};
    for (std::size_t i = 0; i < 2; ++i) {
        const auto written = splitMeasured(how.scale[i].value);
        if (!written)
            return tl::unexpected(written.error());
        const auto toSi = conversion(written->unit, out.siUnit);
        if (!toSi)
            return tl::unexpected(toSi.error());
        si[i] = (*toSi)(written->value);
        out.unit = written->unit;
    }
    const double slope = (si[1] - si[0]) / (how.scale[1].count - how.scale[0].count);
    return Affine{slope, si[0] - slope * how.scale[0].count};
}

} // namespace

void readMeasuredPicture(const MeasuredWish& wish, const std::filesystem::path& file, MeasuredTable& out) {
    auto matrix = readMatrix(file);
    if (!matrix) {
        out.why = fmt::format("{}: {}", wish.file, matrix.error().what);
        return;
    }
    out.notes = std::move(matrix->notes);
    Result<Affine> toSi = Affine{};
    if (matrix->counts || !wish.picture->scale.empty()) {
        toSi = scaleOf(*wish.picture, out);
    } else {
        const auto unit = takeUnit(wish, {}, "the picture", out);
        if (!unit)
            return;
        out.unit = *unit;
        toSi = conversion(*unit, out.siUnit);
    }
    if (!toSi) {
        out.why = fmt::format("{}: {}", wish.file, toSi.error().what);
        return;
    }
    auto picture = std::make_shared<MeasuredPicture>();
    picture->columns = matrix->columns;
    picture->rows = matrix->rows;
    picture->values = std::move(matrix->values);
    for (auto& value : picture->values)
        value = (*toSi)(value);
    const auto gaps = std::ranges::count_if(picture->values, [](double value) { return std::isnan(value); });
    if (gaps > 0)
        out.notes.push_back(fmt::format("{} of {} pixels have no value", gaps, picture->values.size()));
    if (static_cast<std::size_t>(gaps) == picture->values.size())
        out.why = fmt::format("{}: no pixel has a value", wish.file);
    picture->uncertainty = statedUncertainty(wish.uncertainty, out);
    if (wish.time)
        picture->time = wish.time->si;
    picture->how = *wish.picture;
    out.picture = std::move(picture);
}

} // namespace pyro
