// Film coefficients, bulk temperatures, boundary layers and exchangers against closed and similarity solutions.
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>
#include <numbers>

using namespace pyro;
using namespace pyro::test;

namespace {

using std::numbers::pi;

std::string reasonOf(const Readings& readings, const char* id) {
    const auto found = std::ranges::find(readings.gauges, id, &GaugeReading::id);
    return found == readings.gauges.end() ? "" : found->why;
}

double valueOf(const Readings& readings, const char* id) {
    for (const auto& gauge : readings.gauges)
        if (gauge.id == id && gauge.value)
            return *gauge.value;
        else if (gauge.id == id)
            ADD_FAILURE() << id << ": " << gauge.why;
    return std::nan("");
}

// Developed laminar flow in a tube with constant wall heat flux. u = 2 U (1 - r2/R2); T - Twall = -(q R/k)(3/4 - r2/R2
// + r4/(4 R4)) falls along the tube with 2 q / (rho c U R); bulk to wall 11/24 q R/k, so that Nu = 48/11 = 4.364
// (handbook, as in Kays and Crawford, from memory).
Readings tube(int across) {
    constexpr double radius = 0.005, speed = 0.02, flux = 300, k = 0.6, rho = 1000, cp = 4200, length = 0.02;
    BoxMesh box{{1, 1, length}, {across, 2 * across, across}};
    box.map = [](const Point& p) {
        return Point{radius * p[0] * std::cos(p[1] * pi / 2), radius * p[0] * std::sin(p[1] * pi / 2), p[2]};
    };
    auto part = boxPart("water", box);
    const auto share = [](const Point& p) { return (p[0] * p[0] + p[1] * p[1]) / (radius * radius); };
    addNodeField(part, "T [degC]", [&](const Point& p) {
        const double s = share(p);
        return 40 + 2 * flux / (rho * cp * speed * radius) * p[2] - flux * radius / k * (0.75 - s + s * s / 4);
    });
    addNodeVector(part, "velocity", [&](const Point& p) { return Point{0, 0, 2 * speed * (1 - share(p))}; });
    TempFolder folder;
    EXPECT_TRUE(writeCase(
        {part, boxSide("wall", box, 0, true), boxSide("inlet", box, 2, false), boxSide("outlet", box, 2, true)},
        folder / "tube.vtm"));
    return readOn(mustOpen(folder / "tube.vtm"), Json::parse(R"j({
        "case": {"parts": {"water": {"material": "water", "kind": "fluid"}}},
        "materials": {"water": {"conductivity": "0.6 W/(m.K)", "density": "1000 kg/m3",
          "heat_capacity": "4200 J/(kg.K)", "viscosity": "1e-3 Pa.s"}},
        "gauges": [
        {"id": "bulk", "where": {"boundary": "outlet"}, "quantity": "temperature", "weight": "mass_flow",
          "unit": "degC"},
        {"id": "m", "where": {"boundary": "outlet"}, "quantity": "mass_flux", "statistic": "integral"},
        {"id": "V", "where": {"boundary": "outlet"}, "quantity": "volume_flow"},
        {"id": "wall", "where": {"boundary": "wall"}, "quantity": "heat_flux"},
        {"id": "h", "where": {"boundary": "wall"}, "quantity": "film_coefficient",
          "reference": {"bulk_at": {"plane": {"origin": [0, 0, 0.01], "normal": [0, 0, 1]}}}},
        {"id": "Nu", "where": {"boundary": "wall"}, "quantity": "nusselt_number", "length": "10 mm",
          "reference": {"bulk_at": {"plane": {"origin": [0, 0, 0.01], "normal": [0, 0, 1]}}}},
        {"id": "St", "where": {"boundary": "wall"}, "quantity": "stanton_number", "speed": "0.02 m/s",
          "reference": {"bulk_at": {"plane": {"origin": [0, 0, 0.01], "normal": [0, 0, 1]}}}},
        {"id": "Re", "where": {"boundary": "outlet"}, "quantity": "reynolds_number", "length": "10 mm",
          "speed": "0.02 m/s"},
        {"id": "Pe", "where": {"boundary": "outlet"}, "quantity": "peclet_number", "length": "10 mm",
          "speed": "0.02 m/s"},
        {"id": "T_wall", "where": {"boundary": "wall"}, "quantity": "temperature"},
        {"id": "beta", "formula": "1 / (bulk + (T_wall - bulk) / 2)"},
        {"id": "Ra", "where": {"boundary": "wall"}, "quantity": "rayleigh_number", "length": "10 mm",
          "reference": {"gauge": "bulk"}, "expansion": "3.85e-4 1/K"},
        {"id": "Ra_gas", "where": {"boundary": "wall"}, "quantity": "rayleigh_number", "length": "10 mm",
          "reference": {"gauge": "bulk"}},
        {"id": "Ra_beta", "where": {"boundary": "wall"}, "quantity": "rayleigh_number", "length": "10 mm",
          "reference": {"gauge": "bulk"}, "expansion": {"gauge": "beta"}},
        {"id": "Ra_wrong", "where": {"boundary": "wall"}, "quantity": "rayleigh_number", "length": "10 mm",
          "reference": {"gauge": "bulk"}, "expansion": {"gauge": "T_wall"}},
        {"id": "H_out", "where": {"boundary": "outlet"}, "quantity": "enthalpy_flow", "reference": "0 degC"},
        {"id": "H_in", "where": {"boundary": "inlet"}, "quantity": "enthalpy_flow", "reference": "0 degC"},
        {"id": "mass_left", "where": {"part": "water"}, "quantity": "mass_balance"}]})j"));
}

// The similarity solution of the flow and the temperature along a flat plate: 2 f''' + f f'' = 0, 2 theta'' + Pr f
// theta' = 0 (Blasius, Pohlhausen; handbook), by Runge-Kutta with f''(0) = 0.332057 (docs/bibliography.md).
class Plate {
public:
    explicit Plate(double prandtl) {
        std::array<double, 5> y{0, 0, 0.332057336, 0, 1}; // f, f', f'', theta, theta'
        const auto slope = [prandtl](const std::array<double, 5>& a) {
            return std::array{a[1], a[2], -0.5 * a[0] * a[2], a[4], -0.5 * prandtl * a[0] * a[4]};
        };
        const auto moved = [](std::array<double, 5> a, const std::array<double, 5>& b, double by) {
            for (std::size_t i = 0; i < 5; ++i)
                a[i] += by * b[i];
            return a;
        };
        for (int i = 0; i <= 20'000; ++i) {
            m_rows.push_back(y);
            const auto a = slope(y);
            const auto b = slope(moved(y, a, step / 2));
            const auto c = slope(moved(y, b, step / 2));
            const auto d = slope(moved(y, c, step));
            y = moved(moved(moved(moved(y, a, step / 6), b, step / 3), c, step / 3), d, step / 6);
        }
        for (auto& row : m_rows) // the equation is linear in theta
            for (const std::size_t i : {3U, 4U})
                row[i] /= y[3];
    }
    std::array<double, 5> at(double eta) const {
        const auto row = std::min(m_rows.size() - 2, static_cast<std::size_t>(eta / step));
        const double share = std::min(1.0, eta / step - static_cast<double>(row));
        auto out = m_rows[row];
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] += share * (m_rows[row + 1][i] - out[i]);
        return out;
    }
    double nusselt() const { return m_rows[0][4]; } // over the root of Re_x
    double thickness(std::size_t of) const {        // in eta, where f' or theta is 0.99
        for (std::size_t i = 0; i < m_rows.size(); ++i)
            if (m_rows[i][of] >= 0.99)
                return step * static_cast<double>(i);
        return std::nan("");
    }

private:
    static constexpr double step = 1e-3;
    std::vector<std::array<double, 5>> m_rows;
};

constexpr double plateSpeed = 2, nu = 1.6e-5, plateRho = 1.1, plateCp = 1000;

// From x 0.1 to 0.3 m; wall 60 degC, stream 20 degC.
Readings plate(const Plate& solution, double prandtl, int cells) {
    BoxMesh box{{1, 1, 0.01}, {cells, 2 * cells, 1}};
    const double height = 14 / std::min(1.0, std::cbrt(prandtl)) * std::sqrt(nu * 0.3 / plateSpeed) / 2;
    box.map = [height](const Point& p) { return Point{0.1 + 0.2 * p[0], height * p[1] * (0.3 + 0.7 * p[1]), p[2]}; };
    auto part = boxPart("air", box);
    const auto eta = [](const Point& p) { return p[1] * std::sqrt(plateSpeed / (nu * p[0])); };
    addNodeField(part, "T [degC]", [&](const Point& p) { return 60 - 40 * solution.at(eta(p))[3]; });
    addNodeVector(part, "velocity", [&](const Point& p) {
        const auto row = solution.at(eta(p));
        return Point{plateSpeed * row[1], 0.5 * std::sqrt(nu * plateSpeed / p[0]) * (eta(p) * row[1] - row[0]), 0};
    });
    TempFolder folder;
    EXPECT_TRUE(writeCase({part, boxSide("plate", box, 1, false)}, folder / "plate.vtm"));
    auto survey = Json::parse(R"j({"case": {"parts": {"air": {"material": "air", "kind": "fluid"}}}, "gauges": [
        {"id": "h", "where": {"point": [0.2, 0, 0.005], "boundary": "plate"}, "quantity": "film_coefficient",
          "reference": "20 degC"},
        {"id": "h_plain", "where": {"point": [0.2, 0, 0.005], "boundary": "plate"}, "quantity": "film_coefficient",
          "reference": "20 degC", "method": "gradient"},
        {"id": "Nu", "where": {"point": [0.2, 0, 0.005], "boundary": "plate"}, "quantity": "nusselt_number",
          "length": "0.2 m", "reference": "20 degC"},
        {"id": "h_line", "where": {"line": {"from": [0.12, 0, 0.005], "to": [0.28, 0, 0.005], "points": 9},
          "boundary": "plate"}, "quantity": "film_coefficient", "reference": "20 degC"},
        {"id": "thermal", "where": {"line": {"from": [0.2, 0, 0.005], "to": [0.2, 0, 0.005], "points": 400}},
          "quantity": "boundary_layer_thickness", "wall": "60 degC", "free": "20 degC"},
        {"id": "flow", "where": {"line": {"from": [0.2, 0, 0.005], "to": [0.2, 0, 0.005], "points": 400}},
          "quantity": "boundary_layer_thickness", "of": "velocity", "free": "2 m/s"},
        {"id": "Nu_x", "where": {"line": {"from": [0, 0, 0.005], "to": [0.28, 0, 0.005], "points": 29},
          "boundary": "plate"}, "quantity": "nusselt_number", "length": "local", "reference": "20 degC"},
        {"id": "Nu_point", "where": {"point": [0.2, 0, 0.005], "boundary": "plate"}, "quantity": "nusselt_number",
          "length": "local", "reference": "20 degC"}]})j");
    for (const std::size_t gauge : {4U, 5U})
        survey["gauges"][gauge]["where"]["line"]["to"][1] = 0.99 * height;
    survey["materials"]["air"] = {
        {"conductivity", plateRho * plateCp * nu / prandtl}, {"density", plateRho}, {"heat_capacity", plateCp}};
    return readOn(mustOpen(folder / "plate.vtm"), survey);
}

} // namespace

TEST(FlowReference, TubeWithConstantWallFlux) {
    double before = 0;
    for (const int across : {6, 12, 24}) {
        const auto readings = tube(across);
        const double off = std::abs(valueOf(readings, "Nu") - 48.0 / 11) / (48.0 / 11);
        if (before > 0) {
            EXPECT_GT(std::log2(before / off), 1.5) << across;
        }
        before = off;
        if (across < 24)
            continue;
        EXPECT_LT(off, 0.01);
        EXPECT_NEAR(valueOf(readings, "bulk"),
                    40 + 2 * 300 / (1000 * 4200 * 0.02 * 0.005) * 0.02 - 11.0 / 24 * 300 * 0.005 / 0.6, 0.01);
        const double flow = 1000 * 0.02 * pi * 0.005 * 0.005 / 4;
        EXPECT_NEAR(valueOf(readings, "m"), flow, 3e-3 * flow);
        EXPECT_NEAR(valueOf(readings, "V"), flow / 1000, 3e-6 * flow);
        EXPECT_NEAR(valueOf(readings, "wall"), -300, 3); // out of the water
        EXPECT_GT(valueOf(readings, "h"), 0);            // from hot to cold on either side
        EXPECT_NEAR(valueOf(readings, "Re"), 200, 1e-9);
        EXPECT_NEAR(valueOf(readings, "Pe"), 200 * 7, 1e-9) << "Re times Pr = 1e-3 x 4200 / 0.6";
        const double rise = valueOf(readings, "T_wall") - (valueOf(readings, "bulk") + 273.15);
        const double perExpansion = 9.80665 * std::abs(rise) * 1e-6 / (1e-6 * 0.6 / 4.2e6); // nu, k / (rho cp)
        EXPECT_NEAR(valueOf(readings, "Ra") / (perExpansion * 3.85e-4), 1, 1e-9);
        EXPECT_NEAR(valueOf(readings, "Ra_gas") / (perExpansion * valueOf(readings, "beta")), 1, 1e-9);
        EXPECT_NEAR(valueOf(readings, "Ra_beta") / valueOf(readings, "Ra_gas"), 1, 1e-12)
            << "a key of its own may be a gauge";
        EXPECT_NE(reasonOf(readings, "Ra_wrong").find("1/K is needed"), std::string::npos)
            << reasonOf(readings, "Ra_wrong");
        EXPECT_NEAR(valueOf(readings, "St"), valueOf(readings, "h") / (1000 * 4200 * 0.02), 1e-12);
        // What the wall gives the water carries off.
        EXPECT_NEAR(valueOf(readings, "H_out") + valueOf(readings, "H_in"), 300 * pi / 2 * 0.005 * 0.02,
                    0.01 * 300 * pi / 2 * 0.005 * 0.02);
        EXPECT_LT(std::abs(valueOf(readings, "mass_left")), 1e-9 * flow);
    }
}

TEST(FlowReference, FlatPlateForTwoPrandtlNumbers) {
    for (const auto& [prandtl, published] :
         {std::pair{0.7, 0.2927}, {10.0, 0.7281}}) { // docs/bibliography.md, Pohlhausen
        SCOPED_TRACE(prandtl);
        const Plate solution(prandtl);
        ASSERT_NEAR(solution.nusselt(), published, 1e-4);
        const double root = std::sqrt(plateSpeed * 0.2 / nu);
        const double nusselt = published * root;
        const double k = plateRho * plateCp * nu / prandtl;
        double before = 0;
        double plainBefore = 0;
        for (const int cells : {20, 40, 80}) {
            const auto readings = plate(solution, prandtl, cells);
            const double off = std::abs(valueOf(readings, "Nu") - nusselt) / nusselt;
            const double plain = std::abs(valueOf(readings, "h_plain") - nusselt * k / 0.2) / (nusselt * k / 0.2);
            if (plainBefore > 0 && plain > 1e-3) {
                EXPECT_GT(std::log2(plainBefore / plain), 0.8);
            }
            if (before > 0 && off > 1e-3) {
                EXPECT_GT(std::log2(before / off), 1.5);
            }
            before = off;
            plainBefore = plain;
            if (cells < 80)
                continue;
            EXPECT_LT(off, 5e-3);
            EXPECT_NEAR(valueOf(readings, "h"), nusselt * k / 0.2, 5e-3 * nusselt * k / 0.2);
            // delta99, docs/bibliography.md
            EXPECT_NEAR(valueOf(readings, "flow"), 4.9100 * 0.2 / root, 0.01 * 4.91 * 0.2 / root);
            EXPECT_NEAR(valueOf(readings, "thermal"), solution.thickness(3) * 0.2 / root,
                        0.01 * solution.thickness(3) * 0.2 / root);
            // by the distance from the leading edge, where the line begins outside of the mesh
            const auto& alongPlate = readings.gauges[6];
            ASSERT_TRUE(alongPlate.profile) << alongPlate.why;
            for (std::size_t i = 12; i < 29; ++i) {
                const double wanted = published * std::sqrt(plateSpeed * 0.01 * static_cast<double>(i) / nu);
                EXPECT_NEAR(alongPlate.profile->value[i], wanted, 0.01 * wanted) << i;
            }
            EXPECT_NE(readings.gauges[7].why.find("start of a line"), std::string::npos) << readings.gauges[7].why;
            const auto& line = readings.gauges[3];
            ASSERT_TRUE(line.profile) << line.why;
            for (std::size_t i = 0; i < 9; ++i) { // local h falls with the root of x
                const double x = 0.12 + 0.02 * static_cast<double>(i);
                const double local = published * std::sqrt(plateSpeed * x / nu) * k / x;
                EXPECT_NEAR(line.profile->value[i], local, 0.01 * local) << x;
            }
        }
    }
}

// Counter-flow exchanger, NTU 1.8, capacity ratio 0.6: effectiveness 0.72498 (docs/bibliography.md, NTU method). The
// streams' temperatures come from the two coupled equations along the exchanger, integrated here; the gauges read bulk
// temperatures and flows.
TEST(FlowReference, CounterFlowExchangerByEffectiveness) {
    constexpr int steps = 4000;
    constexpr double ntu = 1.8, ratio = 0.6;
    // Along z the hot stream runs forwards and the cold one backwards; both are found by their linear equations from z
    // = 0.
    const auto along = [&](double coldOut) {
        std::vector<std::array<double, 2>> rows{{90, coldOut}};
        for (int i = 0; i < steps; ++i) {
            auto [hot, cold] = rows.back();
            const double h = 1.0 / steps;
            const auto slope = [&](double a, double b) { return std::array{-ntu * (a - b) * ratio, -ntu * (a - b)}; };
            const auto first = slope(hot, cold);
            const auto second = slope(hot + h / 2 * first[0], cold + h / 2 * first[1]);
            rows.push_back({hot + h * second[0], cold + h * second[1]});
        }
        return rows;
    };
    double low = 20;
    double high = 90;
    for (int i = 0; i < 60; ++i) // until the cold stream enters at 20 degC
        (along((low + high) / 2).back()[1] > 20 ? high : low) = (low + high) / 2;
    const auto rows = along(low);
    const auto stream = [&](std::size_t which) {
        return
            [&rows, which](const Point& p) { return rows[static_cast<std::size_t>(std::lround(p[2] * steps))][which]; };
    };
    const BoxMesh hotBox{{0.02, 0.02, 1}, {3, 3, 40}};
    const BoxMesh coldBox{{0.02, 0.02, 1}, {3, 3, 40}, {0.02, 0, 0}};
    auto hot = boxPart("hot", hotBox);
    auto cold = boxPart("cold", coldBox);
    addNodeField(hot, "T [degC]", stream(0));
    addNodeField(cold, "T [degC]", stream(1));
    addNodeVector(hot, "velocity", [](const Point&) { return Point{0, 0, 0.1}; });
    addNodeVector(cold, "velocity", [](const Point&) { return Point{0, 0, -0.06}; });
    TempFolder folder;
    ASSERT_TRUE(writeCase({hot, cold, boxSide("hot in", hotBox, 2, false), boxSide("hot out", hotBox, 2, true),
                           boxSide("cold in", coldBox, 2, true), boxSide("cold out", coldBox, 2, false)},
                          folder / "exchanger.vtm"));
    const auto readings = readOn(mustOpen(folder / "exchanger.vtm"), Json::parse(R"j({
        "case": {"parts": {"hot": {"material": "oil"}, "cold": {"material": "oil"}}},
        "materials": {"oil": {"density": "900 kg/m3", "heat_capacity": "2000 J/(kg.K)"}}, "gauges": [
        {"id": "Th_in", "where": {"boundary": "hot in"}, "quantity": "temperature", "weight": "mass_flow"},
        {"id": "Th_out", "where": {"boundary": "hot out"}, "quantity": "temperature", "weight": "mass_flow"},
        {"id": "Tc_in", "where": {"boundary": "cold in"}, "quantity": "temperature", "weight": "mass_flow"},
        {"id": "Tc_out", "where": {"boundary": "cold out"}, "quantity": "temperature", "weight": "mass_flow"},
        {"id": "m_hot", "where": {"boundary": "hot out"}, "quantity": "mass_flow"},
        {"id": "m_cold", "where": {"boundary": "cold out"}, "quantity": "mass_flow"},
        {"id": "Q", "formula": "m_hot * 2000 'J/(kg.K)' * (Th_in - Th_out)"},
        {"id": "Q_cold", "formula": "m_cold * 2000 'J/(kg.K)' * (Tc_out - Tc_in)"},
        {"id": "effectiveness", "formula": "Q / (min(m_hot, m_cold) * 2000 'J/(kg.K)' * (Th_in - Tc_in))"},
        {"id": "lmtd",
          "formula": "((Th_in - Tc_out) - (Th_out - Tc_in)) / ln((Th_in - Tc_out) / (Th_out - Tc_in))"}]})j"));
    EXPECT_NEAR(valueOf(readings, "effectiveness"), 0.72498, 2e-4);
    EXPECT_NEAR(valueOf(readings, "Q"), valueOf(readings, "Q_cold"), 1e-3 * valueOf(readings, "Q"));
    // NTU C_min LMTD is the same heat.
    EXPECT_NEAR(1.8 * valueOf(readings, "m_cold") * 2000 * valueOf(readings, "lmtd"), valueOf(readings, "Q"),
                1e-3 * valueOf(readings, "Q"));
}
