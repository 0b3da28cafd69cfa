// Pictures held against what their pixels see of a simulation.
#include "core/compare/picture_deviations.h"

#include "core/field/case_index.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr std::size_t mostPixelsListed = 400;

class PictureReckoning {
public:
    PictureReckoning(const Reckoning& with, MeasuredReading& out)
        : m_with(with), m_picture(*with.table.picture), m_out(out) {}

    void tell() {
        const auto around = stepsAround(m_picture.time, m_with.steps);
        const auto& probed = m_with.steps[around.after].probes->picture;
        const auto& before = m_with.steps[around.before].probes->picture;
        if (!around.why.empty() || !probed || !before || !probed->why.empty()) {
            m_out.why = !around.why.empty() ? around.why : probed ? probed->why : "the picture has not been read";
            return;
        }
        m_out.notes.insert(m_out.notes.end(), probed->camera.notes.begin(), probed->camera.notes.end());
        addPixels(*probed, *before, around.before == around.after ? 1 : around.share);
    }

private:
    void addPixels(const ProbedPicture& probed, const ProbedPicture& before, double share) {
        const auto pixels = m_picture.values.size();
        auto shown = std::make_shared<DeviationPicture>();
        shown->columns = m_picture.columns;
        shown->rows = m_picture.rows;
        shown->measured.assign(pixels, std::nanf(""));
        shown->simulated.assign(pixels, std::nanf(""));
        std::vector<MeasuredRegion> regions(probed.partNames.size());
        std::vector<MeasuredPoint> listed;
        const auto every = static_cast<std::size_t>(
            std::ceil(std::sqrt(static_cast<double>(pixels) / static_cast<double>(mostPixelsListed))));
        Figures figures;
        std::size_t blind = 0;
        MeasuredPoint worst;
        for (std::size_t at = 0; at < pixels; ++at) {
            const double simulated = std::lerp(before.values[at], probed.values[at], share);
            const double measured = m_picture.values[at] + m_with.shift;
            if (!std::isnan(measured))
                shown->measured[at] = static_cast<float>(m_with.inverse(measured));
            if (!std::isnan(simulated))
                shown->simulated[at] = static_cast<float>(m_with.inverse(simulated));
            blind += probed.part[at] == noNumber ? 1 : 0;
            if (std::isnan(simulated) || std::isnan(measured))
                continue;
            auto point = pointOf(measured, simulated);
            figures.add(*point.deviation, point.normalised);
            add(regions[probed.part[at]], *point.measured, *point.simulated);
            const bool onGrid = at / m_picture.columns % every == every / 2 &&
                                at % m_picture.columns % every == every / 2;
            const bool isWorst = !worst.deviation || std::abs(*point.deviation) > std::abs(*worst.deviation);
            if (!onGrid && !isWorst)
                continue;
            const auto [column, row] = middleOf(at);
            point.name = fmt::format("column {:g}, row {:g}", column + 0.5, row + 0.5);
            point.at = probed.camera.place(column, row, probed.depth[at]);
            if (isWorst)
                worst = point;
            if (onGrid)
                listed.push_back(std::move(point));
        }
        figures.tell(m_out);
        const auto isWorst = [&](const MeasuredPoint& point) { return point.name == worst.name; };
        if (worst.deviation && std::ranges::none_of(listed, isWorst))
            listed.insert(listed.begin(), worst);
        m_out.points = std::move(listed);
        tellRegions(regions, probed);
        tellSeen(pixels, blind, every);
        m_out.picture = std::move(shown);
    }
    std::pair<double, double> middleOf(std::size_t at) const {
        return {static_cast<double>(at % m_picture.columns) + 0.5, static_cast<double>(at / m_picture.columns) + 0.5};
    }
    MeasuredPoint pointOf(double measured, double simulated) const {
        MeasuredPoint point;
        point.time = m_picture.time;
        point.measured = m_with.inverse(measured);
        point.simulated = m_with.inverse(simulated);
        point.deviation = m_with.scale * (simulated - measured);
        if (m_picture.uncertainty) {
            point.uncertainty = m_with.scale * *m_picture.uncertainty;
            if (*point.uncertainty > 0)
                point.normalised = *point.deviation / *point.uncertainty;
        }
        return point;
    }
    static void add(MeasuredRegion& region, double measured, double simulated) {
        region.highestMeasured = region.pixels == 0 ? measured : std::max(region.highestMeasured, measured);
        region.highestSimulated = region.pixels == 0 ? simulated : std::max(region.highestSimulated, simulated);
        ++region.pixels;
        region.measured += measured;
        region.simulated += simulated;
    }
    void tellRegions(std::vector<MeasuredRegion>& regions, const ProbedPicture& probed) {
        for (std::size_t part = 0; part < regions.size(); ++part) {
            auto& region = regions[part];
            if (region.pixels == 0)
                continue;
            region.part = probed.partNames[part];
            region.measured /= static_cast<double>(region.pixels);
            region.simulated /= static_cast<double>(region.pixels);
            m_out.regions.push_back(std::move(region));
        }
    }
    void tellSeen(std::size_t pixels, std::size_t blind, std::size_t every) {
        if (blind == pixels)
            m_out.why = "no pixel sees a part; check the matched places";
        else if (blind > 0)
            m_out.notes.push_back(fmt::format("{} of {} pixels see no part", blind, pixels));
        if (every > 1)
            m_out.notes.push_back(fmt::format("one pixel in {} each way is listed, and the one with the largest "
                                              "deviation; the figures are over all {} that can be compared",
                                              every, m_out.count));
    }

    const Reckoning& m_with;
    const MeasuredPicture& m_picture;
    MeasuredReading& m_out;
};

} // namespace

void reckonPicture(const Reckoning& with, MeasuredReading& out) { PictureReckoning(with, out).tell(); }

} // namespace pyro
