#include "rig/model.h"

#include "core/feedback/mistake.h"
#include "core/units/unit.h"
#include "core/units/written.h"

#include <algorithm>
#include <fmt/format.h>
#include <fstream>
#include <limits>

namespace pyro::rig {
namespace {

[[noreturn]] void mistake(const std::string& what, const std::string& where) {
    throw Mistake{{ErrorCode::WrongType, what, where, "See docs/rig.md"}};
}

class Reader {
public:
    explicit Reader(std::string file) : m_file(std::move(file)) {}

    Model read(const Json& json) {
        if (!json.is_object() || json.value("rig", 0) != 1)
            mistake("this is no rig input: \"rig\": 1 is missing", m_file);
        m_lengthUnit = json.value("length_unit", "m");
        m_model.title = json.value("title", "");
        for (const auto& [name, material] : need(json, "materials", m_file).items())
            m_model.materials.push_back(readMaterial(name, material, at("materials", name)));
        for (const auto& box : need(json, "boxes", m_file))
            addBox(box, at("boxes", std::to_string(m_model.boxes.size())));
        for (const auto& environment : json.value("environments", Json::array()))
            addEnvironment(environment, at("environments", std::to_string(m_model.environments.size())));
        for (const auto& contact : json.value("contacts", Json::array()))
            addContact(contact, at("contacts", std::to_string(m_model.contacts.size())));
        if (json.contains("refine"))
            m_model.refinement = refinement(json["refine"], m_file + ", refine");
        for (const auto& channel : json.value("channels", Json::array()))
            addChannel(channel, at("channels", std::to_string(m_model.channels.size())));
        for (std::size_t axis = 0; axis < 3; ++axis)
            m_model.axes[axis] = axisRule(need(json, "grid", m_file), std::array{"x", "y", "z"}[axis]);
        if (json.contains("transient"))
            m_model.transient = transient(json["transient"], m_file + ", transient");
        for (const auto& environment : m_model.environments)
            if (!environment.course.empty() && !m_model.transient)
                mistake("a course needs a transient; a steady case has one temperature", m_file + ", environments");
        if (m_model.boxes.empty() || (m_model.boundaries() == 0 && !m_model.transient))
            mistake("at least one box and, unless it is a transient, one environment or channel are needed", m_file);
        if (m_model.boundaries() > 127)
            mistake("there are more than 127 environments and openings", m_file);
        return std::move(m_model);
    }

private:
    std::string at(const std::string& list, const std::string& key) const { return m_file + ", " + list + "." + key; }

    static const Json& need(const Json& object, const char* key, const std::string& where) {
        if (!object.is_object() || !object.contains(key))
            mistake(fmt::format("\"{}\" is missing", key), where);
        return object.at(key);
    }

    double value(const Json& json, const std::string& siUnit, const std::string& where) const {
        if (json.is_number())
            return json.get<double>();
        if (!json.is_string())
            mistake("a value with unit is needed", where);
        const auto parsed = parseMeasured(json.get<std::string>(), siUnit);
        if (!parsed)
            throw Mistake{{parsed.error().code, parsed.error().what, where, parsed.error().remedy}};
        return *parsed;
    }

    double length(const Json& json, const std::string& where) const {
        if (!json.is_number())
            return value(json, "m", where);
        const auto toMetres = conversion(m_lengthUnit, "m");
        if (!toMetres)
            throw Mistake{toMetres.error()};
        return (*toMetres)(json.get<double>());
    }

    Vec corner(const Json& json, const std::string& where) const {
        if (!json.is_array() || json.size() != 3)
            mistake("three lengths in brackets are needed", where);
        return {length(json[0], where), length(json[1], where), length(json[2], where)};
    }

    Vec conductivity(const Json& json, const std::string& where) const {
        Vec k{};
        for (std::size_t axis = 0; axis < 3; ++axis) {
            k[axis] = value(json.is_array() ? json.at(axis) : json, "W/(m.K)", where);
            if (!(k[axis] > 0))
                mistake("a conductivity must be positive", where);
        }
        return k;
    }

    Material readMaterial(const std::string& name, const Json& json, const std::string& where) const {
        Material material{name, conductivity(need(json, "conductivity", where), where)};
        if (json.contains("density"))
            material.density = value(json["density"], "kg/m3", where + ".density");
        if (json.contains("heat_capacity"))
            material.heatCapacity = value(json["heat_capacity"], "J/(kg.K)", where + ".heat_capacity");
        return material;
    }

    Transient transient(const Json& json, const std::string& where) const {
        Transient made{value(need(json, "start", where), "K", where), value(need(json, "duration", where), "s", where),
                       value(need(json, "step", where), "s", where), json.value("write_every", 1)};
        if (!(made.step > 0) || !(made.duration >= made.step) || made.every < 1)
            mistake("step must be positive, duration at least one step, write_every at least 1", where);
        for (const auto& material : m_model.materials)
            if (!(material.density > 0) || !(material.heatCapacity > 0))
                mistake(fmt::format("a transient needs density and heat_capacity of \"{}\"", material.name), where);
        return made;
    }

    void addBox(const Json& json, const std::string& where) {
        Box box;
        box.part = need(json, "part", where).get<std::string>();
        const auto material = need(json, "material", where).get<std::string>();
        const auto found = std::ranges::find(m_model.materials, material, &Material::name);
        if (found == m_model.materials.end())
            mistake(fmt::format("the material \"{}\" is not listed", material), where);
        box.material = static_cast<std::size_t>(found - m_model.materials.begin());
        box.from = corner(need(json, "from", where), where + ".from");
        box.to = corner(need(json, "to", where), where + ".to");
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (!(box.from[axis] < box.to[axis]))
                mistake("\"from\" must lie below \"to\" along every axis", where);
        if (json.contains("power"))
            box.power = value(json["power"], "W", where + ".power");
        if (json.contains("source"))
            box.source = value(json["source"], "W/m3", where + ".source");
        m_model.boxes.push_back(box);
    }

    void addEnvironment(const Json& json, const std::string& where) {
        Environment environment{
            need(json, "boundary", where).get<std::string>(),
            json.contains("course") ? 0.0 : value(need(json, "temperature", where), "K", where + ".temperature"),
            0,
            {},
            {}};
        if (json.contains("course"))
            readCourse(json["course"], environment, where + ".course");
        if (json.contains("film_coefficient"))
            environment.resistance = 1 / value(json["film_coefficient"], "W/(m2.K)", where + ".film_coefficient");
        if (json.contains("surface_resistance"))
            environment.resistance = value(json["surface_resistance"], "m2.K/W", where + ".surface_resistance");
        if (!(environment.resistance >= 0) || environment.resistance > 1e12)
            mistake("the film coefficient or surface resistance must be positive", where);
        if (json.contains("emissivity")) {
            environment.emissivity = value(json["emissivity"], "1", where + ".emissivity");
            if (!(environment.emissivity > 0 && environment.emissivity <= 1))
                mistake("the emissivity must lie above 0 and not above 1", where);
            if (!json.contains("film_coefficient") && !json.contains("surface_resistance"))
                environment.resistance = std::numeric_limits<double>::infinity();
            else if (environment.resistance == 0)
                mistake("a surface of given temperature does not radiate as well", where);
        }
        environment.faces = faceChoices(json, where);
        m_model.environments.push_back(std::move(environment));
    }

    void addContact(const Json& json, const std::string& where) {
        const auto& between = need(json, "between", where);
        if (!between.is_array() || between.size() != 2 || !between[0].is_string() || !between[1].is_string())
            mistake("\"between\" are two parts", where);
        Contact contact{{between[0].get<std::string>(), between[1].get<std::string>()},
                        value(need(json, "resistance", where), "m2.K/W", where + ".resistance")};
        if (!(contact.resistance > 0) || contact.resistance > 1e12)
            mistake("a contact resistance must be positive", where);
        for (const auto& part : contact.parts)
            if (std::ranges::find(m_model.boxes, part, &Box::part) == m_model.boxes.end())
                mistake(fmt::format("no box belongs to the part \"{}\"", part), where);
        m_model.contacts.push_back(std::move(contact));
    }

    // [["0 s", "20 degC"], ["60 s", "35 degC"]]
    void readCourse(const Json& json, Environment& environment, const std::string& where) const {
        if (!json.is_array() || json.empty())
            mistake("a list of [time, temperature] is needed", where);
        for (const auto& row : json) {
            if (!row.is_array() || row.size() != 2)
                mistake("each entry is [time, temperature]", where);
            environment.course.push_back({value(row[0], "s", where), value(row[1], "K", where)});
            const auto& all = environment.course;
            if (all.size() > 1 && !(all[all.size() - 2][0] < all.back()[0]))
                mistake("the times must rise", where);
        }
        environment.temperature = environment.course.front()[1];
    }

    Refinement refinement(const Json& json, const std::string& where) const {
        if (!json.is_object())
            mistake("an object with change, balance and most_cells is needed; {} takes the defaults", where);
        Refinement rule;
        rule.change = json.contains("change") ? value(json["change"], "1", where + ".change") : rule.change;
        rule.balance = json.contains("balance") ? value(json["balance"], "1", where + ".balance") : rule.balance;
        rule.mostCells = json.contains("most_cells") ? value(json["most_cells"], "1", where + ".most_cells")
                                                     : rule.mostCells;
        if (!(rule.change > 0) || !(rule.balance > 0) || !(rule.mostCells >= 1))
            mistake("change, balance and most_cells must be positive", where);
        return rule;
    }

    std::vector<FaceChoice> faceChoices(const Json& json, const std::string& where) const {
        std::vector<FaceChoice> choices;
        for (const auto& face : need(json, "faces", where))
            choices.push_back(faceChoice(face, where + ".faces"));
        return choices;
    }

    void addChannel(const Json& json, const std::string& where) {
        Channel channel;
        channel.part = need(json, "part", where).get<std::string>();
        channel.flow = value(need(json, "flow", where), "m3/s", where + ".flow");
        if (!(channel.flow > 0))
            mistake("the flow must be positive", where);
        const auto& inlet = need(json, "inlet", where);
        channel.inletTemperature = value(need(inlet, "temperature", where + ".inlet"), "K",
                                         where + ".inlet.temperature");
        channel.inlet = need(inlet, "boundary", where + ".inlet").get<std::string>();
        channel.inletFaces = faceChoices(inlet, where + ".inlet");
        const auto& outlet = need(json, "outlet", where);
        channel.outlet = need(outlet, "boundary", where + ".outlet").get<std::string>();
        channel.outletFaces = faceChoices(outlet, where + ".outlet");
        channel.wall = json.value("wall", "");
        if (json.contains("film_coefficient"))
            channel.resistance = 1 / value(json["film_coefficient"], "W/(m2.K)", where + ".film_coefficient");
        if (!(channel.resistance >= 0) || channel.resistance > 1e12)
            mistake("the film coefficient must be positive", where);
        checkCoolant(channel, where);
        m_model.channels.push_back(std::move(channel));
    }

    // All of a channel is one material, and one that can carry heat.
    void checkCoolant(const Channel& channel, const std::string& where) const {
        std::optional<std::size_t> coolant;
        for (const auto& box : m_model.boxes)
            if (box.part == channel.part) {
                if (coolant.value_or(box.material) != box.material)
                    mistake(fmt::format("\"{}\" has boxes of several materials", channel.part), where);
                coolant = box.material;
            }
        if (!coolant)
            mistake(fmt::format("no box belongs to the part \"{}\"", channel.part), where);
        const auto& material = m_model.materials[*coolant];
        if (!(material.density > 0) || !(material.heatCapacity > 0))
            mistake(fmt::format("a coolant needs density and heat_capacity of \"{}\"", material.name), where);
        if (std::ranges::find(m_model.channels, channel.part, &Channel::part) != m_model.channels.end())
            mistake(fmt::format("\"{}\" has a channel already", channel.part), where);
    }

    FaceChoice faceChoice(const Json& json, const std::string& where) const {
        constexpr std::array<std::string_view, 7> names{"-x", "+x", "-y", "+y", "-z", "+z", "any"};
        const auto side = json.value("side", "any");
        const auto found = std::ranges::find(names, side);
        if (found == names.end())
            mistake(fmt::format("the side \"{}\" is not one of -x +x -y +y -z +z any", side), where);
        constexpr double far = std::numeric_limits<double>::max();
        FaceChoice choice{static_cast<Side>(found - names.begin()), {-far, -far, -far}, {far, far, far}};
        if (json.contains("from"))
            choice.from = corner(json["from"], where + ".from");
        if (json.contains("to"))
            choice.to = corner(json["to"], where + ".to");
        return choice;
    }

    AxisRule axisRule(const Json& grid, const char* axis) const {
        const auto where = at("grid", axis);
        const auto& json = need(grid, axis, where);
        AxisRule rule{length(need(json, "spacing", where), where), 0, json.value("growth", 1.3)};
        rule.fine = json.contains("fine") ? length(json["fine"], where) : rule.spacing;
        if (!(rule.spacing > 0) || !(rule.fine > 0) || rule.fine > rule.spacing || !(rule.growth >= 1))
            mistake("spacing and fine must be positive, fine no larger than spacing, growth at least 1", where);
        return rule;
    }

    std::string m_file;
    std::string m_lengthUnit;
    Model m_model;
};

} // namespace

const std::string& Model::boundaryName(std::size_t boundary) const {
    if (boundary < environments.size())
        return environments[boundary].boundary;
    const auto& channel = channels[(boundary - environments.size()) / 3];
    const std::array<const std::string*, 3> names{&channel.inlet, &channel.outlet, &channel.wall};
    return *names[(boundary - environments.size()) % 3];
}

double Environment::temperatureAt(double time) const {
    if (course.empty())
        return temperature;
    const auto after = std::ranges::lower_bound(course, time, {},
                                                [](const std::array<double, 2>& row) { return row[0]; });
    if (after == course.begin())
        return course.front()[1];
    if (after == course.end())
        return course.back()[1];
    const auto& before = *(after - 1);
    return before[1] + (time - before[0]) / ((*after)[0] - before[0]) * ((*after)[1] - before[1]);
}

double Model::contactOf(const std::string& a, const std::string& b) const {
    for (const auto& contact : contacts)
        if ((contact.parts[0] == a && contact.parts[1] == b) || (contact.parts[0] == b && contact.parts[1] == a))
            return contact.resistance;
    return 0;
}

bool chooses(const std::vector<FaceChoice>& faces, const Vec& centre, std::size_t side) {
    constexpr double slack = 1e-9;
    return std::ranges::any_of(faces, [&](const FaceChoice& face) {
        bool inside = face.side == Side::Any || static_cast<std::size_t>(face.side) == side;
        for (std::size_t axis = 0; axis < 3; ++axis)
            inside = inside && centre[axis] >= face.from[axis] - slack && centre[axis] <= face.to[axis] + slack;
        return inside;
    });
}

Result<Model> modelFromText(const std::string& text, const std::string& where) {
    try {
        return Reader(where).read(Json::parse(text));
    } catch (const Mistake& found) {
        return tl::unexpected(found.error);
    } catch (const Json::exception& problem) {
        return fail(ErrorCode::Syntax, problem.what(), where, "Correct that place; docs/rig.md shows an example");
    }
}

Result<Model> loadModel(const std::filesystem::path& file) {
    std::ifstream stream(file, std::ios::binary);
    if (!stream)
        return fail(ErrorCode::FileMissing, "the rig input cannot be read", file.string(), "Check its name");
    return modelFromText(std::string(std::istreambuf_iterator<char>(stream), {}), file.filename().string());
}

} // namespace pyro::rig
