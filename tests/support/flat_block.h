// Surface cells of every kind for tests, in a plane or bent, with a field given as a function of place.
#pragma once

#include "tests/support/meshes.h"

#include <gtest/gtest.h>
#include <map>
#include <vtkCellType.h>
#include <vtkDoubleArray.h>
#include <vtkHigherOrderQuadrilateral.h>
#include <vtkHigherOrderTriangle.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridWriter.h>

namespace pyro::test {

using FlatMap = std::function<Point(double, double)>; // from the unit square

enum class Flat { Triangles, Quads, Pixels, Polygons, CurvedTriangles, CurvedQuads };

// The unit square of n x m boxes, each a quadrangle or two triangles, mapped into space; every other one runs the other
// way round.
class FlatBlock {
public:
    FlatBlock(Flat kind, int order, std::array<int, 2> n, FlatMap map, const Field& field)
        : m_kind(kind), m_order(order), m_n(n), m_map(std::move(map)) {
        m_points->SetDataTypeToDouble();
        for (int j = 0; j < n[1]; ++j)
            for (int i = 0; i < n[0]; ++i)
                addBox(i, j);
        grid->SetPoints(m_points);
        vtkNew<vtkDoubleArray> values;
        values->SetName("T [K]");
        for (vtkIdType node = 0; node < m_points->GetNumberOfPoints(); ++node) {
            Point at{};
            m_points->GetPoint(node, at.data());
            values->InsertNextValue(field(at));
        }
        grid->GetPointData()->AddArray(values);
    }

    // Lines along the side at the lowest j.
    void addLines() {
        for (int i = 0; i < m_n[0]; ++i) {
            const std::array<vtkIdType, 2> ends{nodeAt(i * m_order, 0), nodeAt((i + 1) * m_order, 0)};
            grid->InsertNextCell(VTK_LINE, 2, ends.data());
        }
    }

    std::filesystem::path write(const std::filesystem::path& file) const {
        vtkNew<vtkXMLUnstructuredGridWriter> writer;
        writer->SetInputData(grid);
        writer->SetFileName(file.c_str());
        EXPECT_EQ(writer->Write(), 1);
        return file;
    }

    vtkNew<vtkUnstructuredGrid> grid;

private:
    void addBox(int i, int j) {
        const int p = m_order;
        const auto corner = [&](int a, int b) { return nodeAt((i + a) * p, (j + b) * p); };
        const std::vector<vtkIdType> ring{corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)};
        const bool back = (i + j) % 2 == 1;
        switch (m_kind) {
        case Flat::Quads:
            return insert(VTK_QUAD, back ? std::vector{ring[0], ring[3], ring[2], ring[1]} : ring);
        case Flat::Pixels:
            return insert(VTK_PIXEL, {ring[0], ring[1], ring[3], ring[2]});
        case Flat::Polygons:
            return insert(VTK_POLYGON, ring);
        case Flat::Triangles:
            insert(VTK_TRIANGLE, {ring[0], ring[1], ring[2]});
            return insert(VTK_TRIANGLE,
                          back ? std::vector{ring[0], ring[2], ring[3]} : std::vector{ring[0], ring[3], ring[2]});
        case Flat::CurvedQuads: {
            std::vector<vtkIdType> ids(static_cast<std::size_t>((p + 1) * (p + 1)));
            const std::array<int, 2> orders{p, p};
            for (int b = 0; b <= p; ++b)
                for (int a = 0; a <= p; ++a)
                    ids[static_cast<std::size_t>(vtkHigherOrderQuadrilateral::PointIndexFromIJK(a, b, orders.data()))] =
                        back ? nodeAt(i * p + b, j * p + a) : nodeAt(i * p + a, j * p + b);
            return insert(VTK_LAGRANGE_QUADRILATERAL, ids);
        }
        case Flat::CurvedTriangles:
            for (const bool upper : {false, true}) {
                std::vector<vtkIdType> ids(static_cast<std::size_t>((p + 1) * (p + 2) / 2));
                for (int b = 0; b <= p; ++b)
                    for (int a = 0; a + b <= p; ++a) {
                        const std::array<vtkIdType, 3> barycentric{a, b, p - a - b};
                        ids[static_cast<std::size_t>(vtkHigherOrderTriangle::Index(barycentric.data(), p))] =
                            upper ? nodeAt((i + 1) * p - a, (j + 1) * p - b) : nodeAt(i * p + a, j * p + b);
                    }
                insert(VTK_LAGRANGE_TRIANGLE, ids);
            }
        }
    }
    void insert(int type, const std::vector<vtkIdType>& ids) {
        grid->InsertNextCell(type, static_cast<vtkIdType>(ids.size()), ids.data());
    }

    vtkIdType nodeAt(int i, int j) {
        const auto [known, isNew] = m_nodes.try_emplace({i, j}, m_points->GetNumberOfPoints());
        if (isNew)
            m_points->InsertNextPoint(
                m_map(static_cast<double>(i) / (m_order * m_n[0]), static_cast<double>(j) / (m_order * m_n[1])).data());
        return known->second;
    }

    Flat m_kind;
    int m_order;
    std::array<int, 2> m_n;
    FlatMap m_map;
    vtkNew<vtkPoints> m_points;
    std::map<std::array<int, 2>, vtkIdType> m_nodes;
};

} // namespace pyro::test
