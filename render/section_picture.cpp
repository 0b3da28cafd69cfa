#include "render/section_picture.h"

#include <cmath>

namespace pyro {
namespace {

class SectionMaker {
public:
    SectionMaker(const OpenedCase& opened, const CellOrders& orders, const FieldPicture& picture, SectionPicture& out)
        : m_opened(opened), m_orders(orders), m_picture(picture), m_out(out) {}

    void add(std::size_t part) {
        const auto cut = section(m_opened.solved->parts[part], m_orders.parts[part], m_out.plane);
        if (cut.empty())
            return;
        const auto values = valuesOf(cut, part);
        const auto sums = sumsOn(cut, values);
        m_out.area += sums.area;
        if (m_picture.fields[part]) {
            m_out.withValues += sums.area;
            m_integral += sums.integral;
        }
        draw(cut, values, part);
    }

    void finish() {
        if (m_out.withValues > 0 && std::isfinite(m_integral))
            m_out.mean = m_integral / m_out.withValues;
        for (const float value : m_out.values)
            if (std::isfinite(value)) {
                m_out.min = std::min(m_out.min.value_or(value), static_cast<double>(value));
                m_out.max = std::max(m_out.max.value_or(value), static_cast<double>(value));
            }
    }

private:
    // SI, per vertex or per polygon; NaN for a part without the quantity.
    std::vector<double> valuesOf(const Cut& cut, std::size_t part) const {
        std::vector<double> values(m_out.valuesOnNodes ? cut.vertices.size() : cut.polygons(), std::nan(""));
        const auto& field = m_picture.fields[part];
        if (!field)
            return values;
        const auto& toSi = m_picture.quantity.toSi;
        for (std::size_t i = 0; i < values.size(); ++i)
            if (m_out.valuesOnNodes) {
                const auto& place = cut.vertices[i];
                const double a = (*field)[place.a];
                values[i] = toSi(a + place.share * ((*field)[place.b] - a));
            } else {
                values[i] = toSi((*field)[cut.cell[i]]);
            }
        return values;
    }

    void draw(const Cut& cut, const std::vector<double>& values, std::size_t part) {
        const auto first = static_cast<std::uint32_t>(m_out.points.size() / 3);
        for (const auto& point : cut.points)
            for (const double at : point)
                m_out.points.push_back(static_cast<float>(at));
        if (m_out.valuesOnNodes)
            m_out.values.insert(m_out.values.end(), values.begin(), values.end());
        auto vertex = first;
        for (std::size_t polygon = 0; polygon < cut.polygons(); ++polygon) {
            const std::uint32_t corners = cut.corners[polygon];
            for (std::uint32_t i = 0; i < corners; ++i) {
                m_out.edges.push_back(vertex + i);
                m_out.edges.push_back(vertex + (i + 1) % corners);
            }
            for (std::uint32_t i = 1; i + 1 < corners; ++i) {
                for (const auto node : {vertex, vertex + i, vertex + i + 1})
                    m_out.triangles.push_back(static_cast<std::int32_t>(node));
                m_out.part.push_back(static_cast<std::uint32_t>(part));
                if (!m_out.valuesOnNodes)
                    m_out.values.push_back(static_cast<float>(values[polygon]));
            }
            vertex += corners;
        }
    }

    const OpenedCase& m_opened;
    const CellOrders& m_orders;
    const FieldPicture& m_picture;
    SectionPicture& m_out;
    double m_integral = 0;
};

} // namespace

Result<CellOrders> makeOrders(const OpenedCase& opened, Progress& progress) {
    const auto& parts = opened.solved->parts;
    const auto& kept = opened.index->search;
    for (std::size_t part = 0; part < parts.size(); ++part) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "preparing sections was cancelled", opened.solved->file);
        progress.report(static_cast<double>(part) / static_cast<double>(parts.size()),
                        "preparing sections of " + parts[part].name);
        kept->order(part);
    }
    return CellOrders{kept->orders(), kept};
}

SectionPicture makeSection(const OpenedCase& opened, const CellOrders& orders, const FieldPicture& picture,
                           const SectionView& view, std::span<const std::size_t> parts) {
    SectionPicture out;
    out.name = view.name;
    out.valuesOnNodes = picture.quantity.on == Location::Node;
    const auto plane = withUnitNormal(view.plane);
    if (!plane)
        return out;
    out.plane = *plane;
    SectionMaker maker(opened, orders, picture, out);
    for (const auto part : parts)
        if (!view.exempt.contains(opened.solved->parts[part].name))
            maker.add(part);
    maker.finish();
    return out;
}

} // namespace pyro
