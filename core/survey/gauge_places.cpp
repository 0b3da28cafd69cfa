#include "core/survey/gauge_places.h"

#include "core/field/vector_algebra.h"
#include "core/gauge/where_shape.h"
#include "core/survey/gauge_edit.h"
#include "core/units/millimetres.h"
#include "core/units/unit.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

// The parts of a text between commas, semicolons or blanks; a unit stays with the number before it.
std::vector<std::string> pieces(const std::string& text) {
    std::vector<std::string> out;
    std::string piece;
    const auto close = [&] {
        if (piece.empty())
            return;
        const bool number = std::isdigit(static_cast<unsigned char>(piece[0])) != 0 || piece[0] == '-' ||
                            piece[0] == '+' || piece[0] == '.';
        if (number || out.empty())
            out.push_back(piece);
        else
            out.back() += " " + piece;
        piece.clear();
    };
    for (const char c : text)
        if (c == ',' || c == ';' || c == ' ' || c == '\t')
            close();
        else
            piece += c;
    close();
    return out;
}

Result<std::vector<double>> numbersOf(const std::string& text, const std::string& unit) {
    std::vector<double> out;
    std::vector<std::string> units;
    for (const auto& piece : pieces(text)) {
        const auto found = splitMeasured(piece);
        if (!found)
            return tl::unexpected(found.error());
        out.push_back(found->value);
        units.push_back(found->unit);
    }
    if (unit.empty())
        return out;
    const bool oneForAll = !units.empty() && std::ranges::all_of(units.begin(), units.end() - 1, &std::string::empty);
    for (std::size_t i = 0; i < out.size(); ++i) {
        const auto& own = oneForAll ? units.back() : units[i];
        const auto toMetres = conversion(own.empty() ? unit : own, "m");
        if (!toMetres)
            return tl::unexpected(toMetres.error());
        out[i] = (*toMetres)(out[i]);
    }
    return out;
}

// Moves every place of a `where` that is one of a line, a point or a plane.
Json movedWhere(Json where, const Point& by) {
    const auto move = [&](Json& place) {
        const auto at = placeOfJson(place, "place");
        if (at)
            place = Json{(*at)[0] + by[0], (*at)[1] + by[1], (*at)[2] + by[2]};
    };
    if (where.contains("point"))
        move(where["point"]);
    if (where.contains("line"))
        for (const char* end : {"from", "to"})
            move(where["line"][end]);
    if (where.contains("polyline"))
        for (auto& place : where["polyline"]["through"])
            move(place);
    for (const char* key : {"plane", "trace"})
        if (where.contains(key))
            move(where[key]["origin"]);
    return where;
}

std::string freeCopyId(const Survey& survey, const std::string& id) {
    auto stem = id;
    if (const auto last = id.find_last_not_of("0123456789");
        last != std::string::npos && last + 1 < id.size() && id[last] == '_' && last > 0)
        stem = id.substr(0, last);
    for (int number = 2;; ++number)
        if (auto next = fmt::format("{}_{}", stem, number);
            std::ranges::find(survey.gauges, next, &Gauge::id) == survey.gauges.end())
            return next;
}

} // namespace

std::vector<GaugePlace> placesOf(const Gauge& gauge) {
    const auto found = shapeOf(gauge.where);
    if (!found)
        return {};
    if (const auto* point = std::get_if<PointShape>(&found->shape))
        return {{"Place", point->at}};
    if (const auto* line = std::get_if<LineShape>(&found->shape)) {
        if (line->through.size() == 2)
            return {{"From", line->through[0]}, {"To", line->through[1]}};
        std::vector<GaugePlace> places;
        for (const auto& at : line->through)
            places.push_back({fmt::format("Place {}", places.size() + 1), at});
        return places;
    }
    const auto* plane = std::get_if<PlaneShape>(&found->shape);
    const auto* trace = std::get_if<TraceShape>(&found->shape);
    if (plane == nullptr && trace == nullptr)
        return {};
    const auto& of = plane != nullptr ? plane->plane : trace->plane;
    return {{"Through", of.origin}, {"Normal", of.normal, true}};
}

std::string typedPlace(const GaugePlace& place) {
    const auto number = [&](double value) { return place.direction ? 1e-3 * millimetres(value) : millimetres(value); };
    return fmt::format("{:.6g}, {:.6g}, {:.6g}{}", number(place.at[0]), number(place.at[1]), number(place.at[2]),
                       place.direction ? "" : " mm");
}

Result<Point> placeOfText(const std::string& text, const std::string& unit) {
    const auto numbers = numbersOf(text, unit);
    if (!numbers)
        return tl::unexpected(numbers.error());
    if (numbers->size() != 3)
        return fail(ErrorCode::Syntax, fmt::format("\"{}\" has {} coordinates instead of three", text, numbers->size()),
                    {}, unit.empty() ? "Write it like 0, 0, 1" : "Write it like 12, 0, 3 mm");
    return Point{(*numbers)[0], (*numbers)[1], (*numbers)[2]};
}

Result<Stations> stationsOfText(const std::string& text, const std::string& unit) {
    constexpr const char* example = "Write them like x = 100, 200, 300 mm";
    const auto equals = text.find('=');
    const auto letter = text.find_first_not_of(' ');
    const auto axis = letter == std::string::npos ? std::string::npos : std::string_view("xyz").find(text[letter]);
    if (equals == std::string::npos || axis == std::string::npos || text.find_first_not_of(' ', letter + 1) != equals)
        return fail(ErrorCode::Syntax, fmt::format("\"{}\" does not say along which axis", text), {}, example);
    const auto numbers = numbersOf(text.substr(equals + 1), unit);
    if (!numbers)
        return tl::unexpected(numbers.error());
    if (numbers->empty())
        return fail(ErrorCode::Syntax, "no station is given", {}, example);
    return Stations{axis, *numbers};
}

Result<Survey> withGaugePlace(Survey survey, std::size_t at, std::size_t place, const Point& to) {
    const auto places = at < survey.gauges.size() ? placesOf(survey.gauges[at]) : std::vector<GaugePlace>();
    if (place >= places.size())
        return fail(ErrorCode::NameUnknown, "there is no such place");
    auto& where = survey.gauges[at].where.written;
    const Json written = to;
    if (where.contains("point"))
        where["point"] = written;
    else if (where.contains("line"))
        where["line"][place == 0 ? "from" : "to"] = written;
    else if (where.contains("polyline"))
        where["polyline"]["through"][place] = written;
    else if (!places[place].direction)
        where[where.contains("plane") ? "plane" : "trace"]["origin"] = written;
    else if (dot(to, to) > 0)
        where[where.contains("plane") ? "plane" : "trace"]["normal"] = written;
    else
        return fail(ErrorCode::WrongType, "a normal needs a direction", {}, "Write it like 0, 0, 1");
    return survey;
}

Result<Survey> withGaugeCopy(Survey survey, std::size_t at) {
    if (at >= survey.gauges.size())
        return fail(ErrorCode::NameUnknown, "there is no such gauge");
    auto copy = survey.gauges[at];
    copy.id = freeCopyId(survey, copy.id);
    survey.gauges.push_back(std::move(copy));
    return survey;
}

Result<Survey> withStations(Survey survey, std::size_t at, const Stations& stations) {
    const auto places = at < survey.gauges.size() ? placesOf(survey.gauges[at]) : std::vector<GaugePlace>();
    if (places.empty())
        return fail(ErrorCode::NotSupported, "this gauge has no place that could be moved", {},
                    "Stations are made from a point, a line or a plane");
    for (const double station : stations.at) {
        Point by{};
        by[stations.axis] = station - places[0].at[stations.axis];
        auto copied = withGaugeCopy(std::move(survey), at);
        survey = std::move(*copied);
        survey.gauges.back().where.written = movedWhere(survey.gauges.back().where.written, by);
    }
    return survey;
}

Result<std::string> referenceOfText(const Survey& survey, const std::string& text) {
    if (text.empty() || text.front() == '{' || text.front() == '[')
        return text;
    const auto isGauge = [&](const std::string& id) {
        return std::ranges::find(survey.gauges, id, &Gauge::id) != survey.gauges.end();
    };
    auto rest = text;
    if (isGauge(rest))
        return Json{{"gauge", rest}}.dump();
    if (rest.starts_with("gauge ")) {
        rest.erase(0, 6);
        if (!isGauge(rest))
            return fail(ErrorCode::NameUnknown, fmt::format("there is no gauge \"{}\"", rest));
        return Json{{"gauge", rest}}.dump();
    }
    if (rest.starts_with("bulk of "))
        return Json{{"bulk", rest.substr(8)}}.dump();
    if (rest.ends_with(" from the wall"))
        rest.erase(rest.size() - 14);
    if (const auto measured = splitMeasured(rest);
        measured && !measured->unit.empty() && sameDimension(measured->unit, "m"))
        return Json{{"distance", rest}}.dump();
    return text;
}

} // namespace pyro
